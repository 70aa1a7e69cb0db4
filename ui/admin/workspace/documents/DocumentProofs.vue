<script setup lang="ts">
import ActionButton from '../../parts/ActionButton.vue'
import { computed, ref, watch } from 'vue'
import type { Finding, ProofSource } from '../../../shared/types'
import { api, data } from '../../api'
import { useIntake } from '../intake'
import { useProof, type ProofQuestion } from '../proof'
import ProofAnswersChoice from '../ProofAnswersChoice.vue'
import { useBeside } from './beside'
import DocumentProof from './DocumentProof.vue'
import ListChoice from '../../parts/ListChoice.vue'
import { mend, t, wrong } from '../../words'

/** The proof of a document: the real PDF, and beside it, when asked for, the same in another look or as it once was. */
const props = defineProps<{ of: string; marked?: string | undefined; placing?: boolean }>()
defineEmits<{ pick: [block: string]; put: [page: number, x: number, y: number]; nudge: [dx: number, dy: number] }>()
const { design } = useIntake()
const source = defineModel<ProofSource>('source', { required: true })
const zoom = ref(0.8)
const overview = ref(false)
const sizes = [
  { value: 'overview', words: t('documents.overview'), note: t('documents.allPagesSmall') },
  { value: '0.6', words: '60 %' },
  { value: '0.8', words: '80 %' },
  { value: '1', words: '100 %' },
  { value: '1.5', words: '150 %' },
  { value: '2', words: '200 %' },
]
const size = computed({
  get: () => (overview.value ? 'overview' : String(zoom.value)),
  set: (to) => {
    overview.value = to === 'overview'
    if (!overview.value) zoom.value = Number(to)
  },
})
const ask = (q: ProofQuestion) => data(api.POST('/api/proofs/document', { body: q }))

const { proof, problem } = useProof(
  () => (design.value ? { design: design.value, key: props.of, ...source.value } : undefined),
  ask,
)
const { choice, choices, besideDesign, said, takeBack } = useBeside(() => props.of)
const { proof: other, problem: otherProblem } = useProof(
  () => (besideDesign.value ? { design: besideDesign.value, key: props.of, ...source.value } : undefined),
  ask,
)
watch(choice, (c) => c && (zoom.value = 1))

function blockOf(f: Finding) {
  const mark = f.place.split('/marks/')[1]?.split('/')[0]
  return mark ? `mark ${mark}` : (f.place.split('/blocks/')[1]?.split('/')[0] ?? f.place.split('/file/')[1])
}
const pages = computed(() => t('documents.pages', proof.value?.pages ?? 0))
</script>

<template>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-5 pt-3 text-soft">
    <strong class="text-ink">{{ $t('documents.proof') }}</strong>
    <span>{{ $t('documents.of2') }} <ProofAnswersChoice v-model="source" /></span>
    <span
      >{{ $t('documents.beside') }}
      <ListChoice v-model="choice" :label="$t('documents.beside2')" inline class="max-w-[110px]" :options="choices"
    /></span>
    <span class="ml-auto">{{ proof ? pages : '' }}</span>
    <ListChoice v-model="size" :label="$t('documents.size')" inline :options="sizes" />
  </div>
  <div class="p-5">
    <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
    <ul v-if="proof?.findings.length" class="mb-3 text-[13px]" :aria-label="$t('documents.findingsTheseAnswers')">
      <li v-for="(f, i) in proof.findings" :key="i" :class="f.level === 'fault' ? 'text-madder' : 'text-ochre'">
        {{ f.level === 'fault' ? '✕' : '◐' }} {{ wrong(f) }}
        <button v-if="blockOf(f)" type="button" class="link" @click="$emit('pick', blockOf(f)!)">{{ mend(f) }}</button>
        <template v-else>{{ mend(f) }}</template>
      </li>
    </ul>
    <div v-if="choice" class="mb-3 flex flex-wrap items-center gap-x-4 text-soft">
      <span>{{ said }}</span>
      <ActionButton v-if="takeBack" @click="takeBack">
        {{ $t('documents.takeDocumentBack') }}
      </ActionButton>
      <span v-if="otherProblem" role="alert" class="text-madder">✕ {{ otherProblem }}</span>
    </div>
    <div :class="choice ? 'grid grid-cols-2 items-start gap-4' : ''">
      <DocumentProof
        v-if="proof"
        :proof="proof"
        :marked="marked"
        :zoom="zoom"
        :overview="overview"
        :placing="placing && !overview"
        @pick="$emit('pick', $event)"
        @put="(page, x, y) => $emit('put', page, x, y)"
        @nudge="(dx, dy) => $emit('nudge', dx, dy)"
      />
      <DocumentProof
        v-if="choice && other"
        data-beside
        :proof="other"
        :zoom="zoom"
        :overview="overview"
        @pick="$emit('pick', $event)"
      />
    </div>
  </div>
</template>
