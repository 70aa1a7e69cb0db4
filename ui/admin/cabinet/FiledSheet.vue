<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { RouteLocationRaw } from 'vue-router'
import type { Filed } from '../../shared/types'
import { api, data } from '../api'
import { useDeed } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import { somewhere } from '../session'
import { asMoment, asSize } from '../times'
import { t } from '../words'

/** A file as it lies at its destination: its first page, whether it is as it was filed, and how to put it back. */
const props = defineProps<{ filed: Filed; where: string; to: RouteLocationRaw }>()
const path = computed(() => ({ params: { path: { id: props.filed.submissionId, filing: props.filed.id } } }))
const href = computed(() => `/api/submissions/${props.filed.submissionId}/filings/${props.filed.id}/file`)
const canvas = ref<HTMLCanvasElement>()
const shown = ref(false)
const standing = ref<{ standing: 'same' | 'changed' | 'lost' | 'unknown'; reason?: string }>()
const { problem, busy, run } = useDeed()
const wide = 420

const check = () =>
  run(async () => (standing.value = await data(api.POST('/api/submissions/{id}/filings/{filing}/check', path.value))))
async function paint() {
  try {
    const answer = await fetch(href.value)
    if (!answer.ok || !answer.headers.get('Content-Type')?.startsWith('application/pdf')) return
    const { openBytes, paintPage } = await import('../../shared/pdf')
    const pdf = await openBytes(new Uint8Array(await answer.arrayBuffer()))
    if (!canvas.value) return
    await paintPage(pdf, 1, canvas.value, wide)
    shown.value = true
  } catch {
    shown.value = false // how it stands says why
  }
}
async function putBack() {
  if (await run(() => data(api.POST('/api/submissions/{id}/filings/{filing}/putback', path.value)))) {
    await check()
    await paint()
  }
}
onMounted(() => Promise.all([check(), paint()]))
const said = computed(() => {
  switch (standing.value?.standing) {
    case 'same':
      return { mark: '●', tone: 'text-pine', words: t('cabinet.same') }
    case 'changed':
      return { mark: '✕', tone: 'font-semibold text-madder', words: t('cabinet.changed') }
    case 'lost':
      return { mark: '✕', tone: 'font-semibold text-madder', words: t('cabinet.lost') }
    case 'unknown':
      return { mark: '◐', tone: 'text-ochre', words: standing.value.reason ?? '' }
    default:
      return { mark: '○', tone: 'text-soft', words: t('cabinet.looking') }
  }
})
</script>

<template>
  <article class="bg-bed p-5" data-filed>
    <h2 class="text-[17px] [overflow-wrap:anywhere]">{{ filed.path.split('/').at(-1) }}</h2>
    <p class="[overflow-wrap:anywhere]">
      <RouterLink class="link" :to="to">{{ where }}</RouterLink>
    </p>
    <p class="mt-1 text-soft">
      {{ filed.title }}<template v-if="filed.title"> · </template>{{ asSize(filed.size) }} · {{ asMoment(filed.at) }} ·
      <RouterLink class="link" :to="`/register/${filed.submissionId}`">{{ filed.number }}</RouterLink>
    </p>
    <p role="status" class="mt-2" :class="said.tone">
      <span aria-hidden="true">{{ said.mark }}</span> {{ said.words }}
    </p>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
    <p class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
      <a :href="href" target="_blank" rel="noopener" class="link">{{ $t('cabinet.open') }}</a>
      <a v-if="filed.link" :href="filed.link" target="_blank" rel="noopener noreferrer" class="link">{{
        $t('cabinet.whereItLies')
      }}</a>
      <ActionButton
        v-if="somewhere('handle') && (standing?.standing === 'lost' || standing?.standing === 'changed')"
        :disabled="busy"
        @click="putBack"
        >{{ $t('cabinet.putBack') }}</ActionButton
      >
    </p>
    <canvas
      v-show="shown"
      ref="canvas"
      role="img"
      :aria-label="$t('cabinet.firstPage')"
      class="mt-3 max-w-full border border-rule bg-white"
    ></canvas>
  </article>
</template>
