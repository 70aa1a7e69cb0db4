<script setup lang="ts">
import { languageName } from '../languages'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import type { Step, Submission } from '../../shared/types'
import { api, data } from '../api'
import { useLoad } from '../load'
import PlaceHead from '../parts/PlaceHead.vue'
import StateMark from '../parts/StateMark.vue'
import HandedFiles from './HandedFiles.vue'
import PersonalLinks from './PersonalLinks.vue'
import { asClock, asFull, asMoment, asSize } from '../times'
import { somewhere } from '../session'
import { t } from '../words'

const route = useRoute()
const id = computed(() => Number(route.params.id))
const {
  value: submission,
  problem,
  load,
  run,
} = useLoad(() => data(api.GET('/api/submissions/{id}', { params: { path: { id: id.value } } })))

const retry = (s: Step) =>
  run(async () => {
    await data(api.POST('/api/submissions/{id}/steps/{step}/retry', { params: { path: { id: id.value, step: s.id } } }))
    await load()
  })
/** The answers under the headings of their sections. */
const parts = computed(() => {
  const out: { title: string; answers: Submission['answers'] }[] = [{ title: '', answers: [] }]
  for (const a of submission.value?.answers ?? []) {
    if (a.section) out.push({ title: a.label, answers: [] })
    else out.at(-1)!.answers.push(a)
  }
  return out.filter((p) => p.answers.length)
})
const kinds = { document: t('submission.document'), notice: t('submission.notice'), filing: t('submission.filing') }
const href = (s: Step) => submission.value?.documents.find((d) => s.kind === 'document' && d.key === s.key)?.href
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="submission?.entry.number ?? $t('submission.submission')">
      <template #state>
        <template v-if="submission">
          <StateMark :state="submission.entry.state" />
          <span class="text-soft"
            >{{ submission.entry.intake }} · <bdi>{{ submission.entry.person }}</bdi>
            {{ $t('submission.received', { asMoment: asMoment(submission.entry.received) }) }}</span
          >
        </template>
      </template>
      <RouterLink class="button" to="/register">{{ $t('submission.backRegister') }}</RouterLink>
    </PlaceHead>
    <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
    <div v-if="submission" class="grid items-start gap-4 px-3 pb-6 sm:px-6 lg:grid-cols-[1fr_1fr]">
      <section class="sheet px-6 py-5">
        <h2 class="mb-3 text-[18px]">{{ $t('submission.whatBecame') }}</h2>
        <ul>
          <li v-for="s in submission.entry.steps" :key="s.id" class="border-t border-faint py-2.5" :data-step="s.key">
            <div class="flex flex-wrap items-baseline gap-x-3">
              <span class="w-[84px]"><StateMark :state="s.state" /></span>
              <span class="font-semibold">{{ s.name }}</span>
              <span class="text-soft">{{ kinds[s.kind] }}</span>
              <a v-if="href(s)" class="link ml-auto" :href="href(s)" target="_blank" rel="noopener">{{
                $t('submission.openPdf')
              }}</a>
              <button
                v-else-if="somewhere('handle') && (s.state === 'failed' || (s.state === 'ready' && s.reason))"
                class="link ml-auto"
                @click="retry(s)"
              >
                {{ $t('submission.tryAgainNow') }}
              </button>
            </div>
            <p v-if="s.reason" class="pl-[96px]" :class="s.state === 'failed' ? 'text-madder' : 'text-ochre'">
              {{ s.reason }}
              <template v-if="s.state === 'ready' && Date.parse(s.due) > Date.now()">{{
                $t('submission.nextAttempt', { asClock: asClock(s.due) })
              }}</template>
            </p>
            <p v-else-if="s.result" class="pl-[96px] [overflow-wrap:anywhere] text-soft">{{ s.result }}</p>
          </li>
        </ul>
        <h2 class="mt-7 mb-3 text-[18px]">{{ $t('submission.whatHappenedWhen') }}</h2>
        <ol>
          <li v-for="(e, i) in submission.events" :key="i" class="flex gap-4 border-t border-faint py-1.5">
            <time class="w-[110px] shrink-0 text-soft tabular-nums" :datetime="e.at" :title="asFull(e.at)">{{
              asMoment(e.at)
            }}</time>
            <span class="[overflow-wrap:anywhere]">{{ e.what }}</span>
          </li>
        </ol>
      </section>
      <section class="sheet px-6 py-5">
        <h2 class="mb-3 text-[18px]">{{ $t('submission.answers') }}</h2>
        <template v-for="(part, n) in parts" :key="n">
          <h3 v-if="part.title" class="mt-4 mb-1 text-[15px]">{{ part.title }}</h3>
          <dl>
            <div v-for="a in part.answers" :key="a.key" class="flex flex-wrap gap-x-4 border-t border-faint py-1.5">
              <dt class="w-[38%] min-w-[140px] text-soft">{{ a.label }}</dt>
              <dd class="grow basis-0 [overflow-wrap:anywhere] whitespace-pre-line" dir="auto">
                <template v-if="a.files.length"
                  ><a
                    v-for="f in a.files"
                    :key="f.href"
                    class="link block"
                    :href="f.href"
                    target="_blank"
                    rel="noopener"
                    ><img v-if="f.picture" :src="f.href" alt="" class="my-1 max-h-[120px] border border-rule" />{{
                      f.name
                    }}</a
                  ></template
                ><template v-else>{{ a.text || '–' }}</template>
              </dd>
            </div>
          </dl>
        </template>
        <template v-if="submission.documents.length">
          <h2 class="mt-7 mb-3 text-[18px]">{{ $t('submission.documents') }}</h2>
          <ul>
            <li
              v-for="d in submission.documents"
              :key="d.href"
              class="flex flex-wrap gap-x-4 border-t border-faint py-1.5"
            >
              <a class="link" :href="d.href" target="_blank" rel="noopener">{{ d.fileName }}</a>
              <a v-if="d.word" class="link" :href="d.word" download>{{ $t('submission.wordFile') }}</a>
              <span v-if="d.revision > 1 || submission.documents.some((x) => x.revision > 1)" class="text-soft">{{
                $t('submission.revision', { revision: d.revision })
              }}</span>
              <a
                v-if="d.check"
                class="link ml-auto"
                :href="d.check"
                target="_blank"
                rel="noopener"
                :aria-label="$t('submission.check', { fileName: d.fileName })"
                >{{ $t('submission.check2') }}</a
              >
              <span class="text-soft" :class="{ 'ml-auto': !d.check }">{{ d.pages }} p. · {{ asSize(d.size) }}</span>
            </li>
          </ul>
        </template>
        <HandedFiles v-if="submission.handed.length" :id="id" :files="submission.handed" @withdrawn="load" />
        <PersonalLinks v-if="somewhere('handle')" :id="id" @withdrawn="load" />
        <p class="mt-6 text-soft">
          {{ $t('submission.answeredVersionForm', { version: submission.version }) }}
          <template v-if="submission.language">{{
            $t('submission.filledInIn', { language: languageName(submission.language) })
          }}</template>
        </p>
      </section>
    </div>
  </main>
</template>
