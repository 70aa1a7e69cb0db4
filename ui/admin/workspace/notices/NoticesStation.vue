<script setup lang="ts">
import NextLine from '../../parts/NextLine.vue'
import { useLocked } from '../../parts/locked'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Notice, ProofSource } from '../../../shared/types'
import { api, data } from '../../api'
import MessageSheet from '../../parts/MessageSheet.vue'
import PhraseLine from '../../parts/PhraseLine.vue'
import ScriptList from '../../parts/ScriptList.vue'
import { useIntake } from '../intake'
import ProofAnswersChoice from '../ProofAnswersChoice.vue'
import SplitDesk from '../SplitDesk.vue'
import { useProof } from '../proof'
import TakeBack, { type Gone } from '../../parts/TakeBack.vue'
import { t } from '../../words'
import { asMoment } from '../../times'
import AccountChoice from './AccountChoice.vue'
import CopyFromDialog from './CopyFromDialog.vue'
import SendProof from './SendProof.vue'
import NoticeSettings from './NoticeSettings.vue'
import { dueWords } from './said'

const { design, mark, undo } = useIntake()
const locked = useLocked()
const route = useRoute()
const notices = computed(() => design.value?.notices ?? [])
const selected = ref<number | undefined>(notices.value.length ? 0 : undefined)
const answers = ref<ProofSource>({ answers: 'made-up' })
// The language whose words are written, and in which the proof is read.
const language = ref('')
const source = computed<ProofSource>(() => ({
  ...answers.value,
  ...(language.value ? { language: language.value } : {}),
}))
// The proof stays with the notice last looked at while its line is folded.
const shown = ref(0)
watch(selected, (v) => v !== undefined && (shown.value = v))
watch(
  () => route.query.of,
  (key) => {
    const i = notices.value.findIndex((n) => n.key === key)
    if (i >= 0) selected.value = i
  },
  { immediate: true },
)
const notice = computed(() => notices.value[shown.value])

const { proof, problem } = useProof(
  () => (design.value && notice.value ? { design: design.value, key: notice.value.key, ...source.value } : undefined),
  (q) => data(api.POST('/api/proofs/notice', { body: q })),
)

function add(after = notices.value.length - 1) {
  mark()
  const taken = notices.value.map((n) => n.key)
  let n = notices.value.length + 1
  while (taken.includes(`notice-${n}`)) n++
  const made: Notice = {
    key: `notice-${n}`,
    name: t('notices.notice', { n }),
    to: [{ field: '@house_email' }],
    subject: [{ field: '@intake' }, { text: ' ' }, { field: '@number' }],
    message: [],
    attach: design.value!.documents.slice(0, 1).map((d) => ({ document: d.key })),
  }
  design.value!.notices.splice(after + 1, 0, made)
  selected.value = after + 1
}
function move(from: number, to: number) {
  mark()
  design.value!.notices.splice(to, 0, ...design.value!.notices.splice(from, 1))
}
const gone = ref<Gone>()
function remove(i: number) {
  mark()
  const [was] = design.value!.notices.splice(i, 1)
  selected.value = undefined
  gone.value = { words: t('notices.removed', { name: was?.name ?? '' }), back: undo }
  shown.value = 0
}
/** A notice that begins as another, behind a place. */
function place(made: Notice, at: number) {
  mark()
  const taken = notices.value.map((n) => n.key)
  let key = made.key
  for (let n = 2; taken.includes(key); n++) key = `${made.key}-${n}`
  design.value!.notices.splice(at + 1, 0, { ...made, key })
  selected.value = at + 1
}
const copy = (of: Notice, at: number) =>
  place({ ...(JSON.parse(JSON.stringify(of)) as Notice), name: t('notices.copyOf', { name: of.name }) }, at)
const copying = ref(false)
</script>

<template>
  <SplitDesk>
    <template #script>
      <TakeBack v-model="gone" />
      <ScriptList
        v-model:selected="selected"
        :lines="notices"
        :kind="() => $t('notices.notice2')"
        :id-of="(n: Notice) => n.key"
        :noun="$t('notices.notice2')"
        @add="add"
        @move="move"
        @remove="remove"
      >
        <template #sentence="{ line }">
          <span v-if="line.when" class="mr-2 text-amber-ink">{{ $t('notices.when', { when: line.when }) }}</span>
          <span class="font-semibold">{{ line.name }}</span> {{ $t('notices.to') }} <PhraseLine :spans="line.to" />
          <span v-if="line.delay || line.collect" class="text-soft"> · {{ dueWords(line) }}</span>
        </template>
        <template #settings="{ line, index }">
          <NoticeSettings
            v-model:language="language"
            :model-value="line"
            @update:model-value="design!.notices[index] = $event"
            @removed="gone = { words: $event, back: undo }"
          />
        </template>
        <template #actions="{ line, index }">
          <button type="button" class="link" @click="copy(line, index)">{{ $t('notices.copyIt') }}</button>
        </template>
      </ScriptList>
      <NextLine v-if="!locked" :number="notices.length + 1">
        <p class="px-3.5 py-2">
          <button class="link" @click="add()">{{ $t('notices.addNotice') }}</button>
          <button class="link ml-5" @click="copying = true">{{ $t('notices.copyFromAnother') }}</button>
        </p>
      </NextLine>
      <AccountChoice class="mt-3 ml-[58px]" />
    </template>
    <template #proof>
      <div class="flex flex-wrap items-baseline gap-x-4 px-5 pt-3 text-soft">
        <strong class="text-ink">{{ $t('notices.proof') }}</strong>
        <span>{{ $t('notices.of') }} <ProofAnswersChoice v-model="answers" /></span>
        <SendProof v-if="notice && !locked" :notice="notice.key" :answers="source" />
      </div>
      <div class="mx-auto max-w-[640px] p-5">
        <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
        <p v-if="proof?.due" class="mb-2 text-soft">{{ $t('notices.wouldGo', { when: asMoment(proof.due) }) }}</p>
        <MessageSheet
          v-if="proof"
          :from="proof.from"
          :to="proof.to"
          :copy="proof.copy"
          :blind="proof.blindCopy"
          :reply-to="proof.replyTo"
          :subject="proof.subject"
          :html="proof.html"
          :attached="proof.attached"
          :problem="proof.problem ?? ''"
          data-notice-proof
          @click="selected = shown"
        />
        <p v-else-if="!notices.length" class="text-soft">{{ $t('notices.messageWillStandHereAs') }}</p>
      </div>
    </template>
  </SplitDesk>
  <CopyFromDialog v-model="copying" @take="place($event, notices.length - 1)" />
</template>
