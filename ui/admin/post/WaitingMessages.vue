<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Hold, IntakeLine, WaitingMessage } from '../../shared/types'
import { api, data } from '../api'
import { everyIntake, useLoad } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import ListChoice from '../parts/ListChoice.vue'
import StateMark from '../parts/StateMark.vue'
import { may, somewhere } from '../session'
import { asDay, asMoment } from '../times'
import { t } from '../words'

/** Messages that wait or failed, with the reason and what can be done; and what is held. */
const { value, problem, load, run } = useLoad(() =>
  Promise.all([data(api.GET('/api/messages/waiting')), data(api.GET('/api/holds'))]),
)
const waiting = computed(() => value.value?.[0].entries ?? [])
const holds = computed<Hold[]>(() => value.value?.[1] ?? [])
const intakes = ref<IntakeLine[]>([])
onMounted(async () => {
  try {
    intakes.value = await everyIntake()
  } catch {
    // Holding single intakes is not offered then.
  }
})
const path = (w: WaitingMessage) => ({ params: { path: { id: w.submissionId, step: w.step } } })
const tryNow = (w: WaitingMessage) =>
  run(async () => {
    await data(api.POST('/api/submissions/{id}/steps/{step}/retry', path(w)))
    await load()
  })
const stop = (w: WaitingMessage) =>
  run(async () => {
    await data(api.POST('/api/submissions/{id}/steps/{step}/stop', path(w)))
    await load()
  })
async function tryAll() {
  await run(() => data(api.POST('/api/steps/retry', { body: {} })))
  await load()
}
async function hold(intake: number, held: boolean) {
  await run(() =>
    intake
      ? data(api.PUT('/api/intakes/{id}/hold', { params: { path: { id: intake } }, body: { held } }))
      : data(api.PUT('/api/holds/house', { body: { held } })),
  )
  await load()
}
const called = (h: Hold) =>
  h.intake ? (intakes.value.find((i) => i.id === h.intake)?.name ?? '') : t('post.allMessages')
const holdable = computed(() => [
  ...(may('house') && !holds.value.some((h) => !h.intake) ? [{ value: 0, words: t('post.allMessages') }] : []),
  ...intakes.value
    .filter((i) => !holds.value.some((h) => h.intake === i.id))
    .map((i) => ({ value: i.id, words: i.name })),
])
const failed = computed(() => waiting.value.some((w) => w.state === 'failed'))
</script>

<template>
  <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
  <div v-if="value" class="px-3 pb-6 sm:px-6">
    <p v-for="h in holds" :key="h.intake ?? 0" class="mb-3 border-l-4 border-slate bg-sheet px-4 py-2">
      <span class="font-semibold text-slate"><span aria-hidden="true">‖</span> {{ $t('post.held') }}</span>
      {{ called(h) }}, {{ $t('post.since', { day: asDay(h.since) }) }}
      <button
        v-if="h.intake ? somewhere('handle') : may('house')"
        type="button"
        class="link ml-3"
        @click="hold(h.intake ?? 0, false)"
      >
        {{ $t('post.letThemGo') }}
      </button>
    </p>
    <div class="sheet">
      <div class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule px-3 py-3 sm:pl-[76px]">
        <ActionButton v-if="failed && somewhere('handle')" @click="tryAll">{{ $t('post.tryAll') }}</ActionButton>
        <ListChoice
          v-if="somewhere('handle') && holdable.length"
          :model-value="undefined"
          :label="$t('post.hold')"
          :placeholder="$t('post.hold')"
          inline
          :options="holdable"
          @update:model-value="hold($event, true)"
        />
      </div>
      <ul v-if="waiting.length">
        <li v-for="w in waiting" :key="w.step" class="flex border-b border-faint">
          <span class="ledger w-[60px] shrink-0 py-2 pr-4 text-right"><StateMark :state="w.state" bare /></span>
          <div class="min-w-0 grow px-3 py-2">
            <p class="flex flex-wrap gap-x-4">
              <span class="font-semibold">{{ w.name }}</span>
              <RouterLink class="link" :to="`/register/${w.submissionId}`">{{ w.number }}</RouterLink>
              <span class="text-soft">{{ w.intake }}</span>
              <span v-if="w.collected" class="text-soft">{{
                $t('post.tellsOf', { n: w.collected }, w.collected)
              }}</span>
              <span v-if="w.only" class="text-soft">{{ $t('post.only', { to: w.only.join(', ') }) }}</span>
              <span v-if="w.state === 'ready'" class="ml-auto text-soft tabular-nums">{{
                $t('post.due', { when: asMoment(w.due) })
              }}</span>
            </p>
            <p v-if="w.reason" :class="w.state === 'failed' ? 'text-madder' : 'text-ochre'">{{ w.reason }}</p>
            <p v-else-if="w.state === 'waits'" class="text-soft">
              {{ w.collected ? $t('post.waitsForMore') : $t('post.waitsForDocuments') }}
            </p>
            <p v-if="somewhere('handle')" class="words mt-1 text-[13px]">
              <button v-if="w.state !== 'waits'" type="button" class="link" @click="tryNow(w)">
                {{ $t('post.tryNow') }}
              </button>
              <button type="button" class="link" @click="stop(w)">{{ $t('post.stop') }}</button>
            </p>
          </div>
        </li>
      </ul>
      <p v-else class="px-6 py-8">{{ $t('post.nothingWaits') }}</p>
      <p v-if="value[0].more" class="px-6 py-3 text-soft">{{ $t('post.moreWait') }}</p>
    </div>
  </div>
</template>
