<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Finding, ProofSource } from '../../../shared/types'
import { api, data } from '../../api'
import { useIntake } from '../intake'
import { useProof } from '../proof'
import ProofAnswersChoice from '../ProofAnswersChoice.vue'
import { useBeside } from './beside'
import DocumentProof from './DocumentProof.vue'

/** The proof of a document: the real PDF, and beside it, when asked for, the same in another look or as it once was. */
const props = defineProps<{ of: string; marked?: string | undefined }>()
defineEmits<{ pick: [block: string] }>()
const { design } = useIntake()
const source = ref<ProofSource>({ answers: 'made-up' })
const zoom = ref(0.8)
const overview = ref(false)
const ask = (q: Parameters<Parameters<typeof useProof>[1]>[0]) => data(api.POST('/api/proofs/document', { body: q }))

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

const blockOf = (f: Finding) => f.place.split('/blocks/')[1]?.split('/')[0]
const pages = computed(() => `${proof.value?.pages ?? 0} ${proof.value?.pages === 1 ? 'page' : 'pages'}`)
</script>

<template>
  <div class="flex flex-wrap items-center gap-x-5 gap-y-1 px-5 pt-3">
    <strong>Proof</strong>
    <ProofAnswersChoice v-model="source" />
    <label class="text-soft">
      beside it
      <select v-model="choice" class="word max-w-[140px]" aria-label="Beside it">
        <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.words }}</option>
      </select>
    </label>
    <span v-if="proof" class="ml-auto text-soft">{{ pages }}</span>
    <label class="text-soft">
      as
      <select v-model="overview" class="word" aria-label="Pages or overview">
        <option :value="false">pages</option>
        <option :value="true">overview</option>
      </select>
    </label>
    <label v-if="!overview" class="text-soft">
      size
      <select v-model.number="zoom" class="word">
        <option :value="0.6">60 %</option>
        <option :value="0.8">80 %</option>
        <option :value="1">full</option>
        <option :value="1.5">150 %</option>
        <option :value="2">double</option>
      </select>
    </label>
  </div>
  <div class="p-5">
    <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
    <ul v-if="proof?.findings.length" class="mb-3 text-[13px]" aria-label="Findings with these answers">
      <li v-for="(f, i) in proof.findings" :key="i" :class="f.level === 'fault' ? 'text-madder' : 'text-ochre'">
        {{ f.level === 'fault' ? '✕' : '◐' }} {{ f.message }}
        <button v-if="blockOf(f)" type="button" class="link" @click="$emit('pick', blockOf(f)!)">{{ f.mend }}</button>
        <template v-else>{{ f.mend }}</template>
      </li>
    </ul>
    <div v-if="choice" class="mb-3 flex flex-wrap items-center gap-x-4 text-soft">
      <span>{{ said }}</span>
      <button v-if="takeBack" type="button" class="button" @click="takeBack">Take this document back</button>
      <span v-if="otherProblem" role="alert" class="text-madder">✕ {{ otherProblem }}</span>
    </div>
    <div :class="choice ? 'grid grid-cols-2 items-start gap-4' : ''">
      <DocumentProof
        v-if="proof"
        :proof="proof"
        :marked="marked"
        :zoom="zoom"
        :overview="overview"
        @pick="$emit('pick', $event)"
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
