<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Entry, ProofSource } from '../../shared/types'
import { api, data } from '../api'
import { useIntake } from './intake'

/** Whose answers a proof shows: invented ones, or those of one of the newest submissions. */
const model = defineModel<ProofSource>({ required: true })
const { id } = useIntake()
const kinds: { value: ProofSource['answers']; name: string }[] = [
  { value: 'made-up', name: 'made up' },
  { value: 'emptest', name: 'emptest' },
  { value: 'longest', name: 'longest' },
]
const entries = ref<Entry[]>([])
onMounted(async () => {
  try {
    const page = await data(api.GET('/api/submissions', { params: { query: { intake: id } } }))
    entries.value = page.entries.slice(0, 20)
  } catch {
    // Without the register the invented answers remain.
  }
})
function choose(submission: string) {
  model.value = submission ? { answers: 'submission', submission: Number(submission) } : { answers: 'made-up' }
}
</script>

<template>
  <span class="text-soft">
    answers:
    <template v-for="(k, i) in kinds" :key="k.value">
      <template v-if="i"> · </template>
      <button
        :class="model.answers === k.value ? 'font-semibold text-ink underline' : 'hover:text-ink'"
        :aria-pressed="model.answers === k.value"
        @click="model = { answers: k.value }"
      >
        {{ k.name }}
      </button>
    </template>
    <select
      v-if="entries.length"
      class="word ml-2 max-w-[150px]"
      aria-label="Answers of a submission"
      :value="model.submission ?? ''"
      @change="choose(($event.target as HTMLSelectElement).value)"
    >
      <option value="">of a submission…</option>
      <option v-for="e in entries" :key="e.id" :value="e.id">{{ e.number }} {{ e.person }}</option>
    </select>
  </span>
</template>
