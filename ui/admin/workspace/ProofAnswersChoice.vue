<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Entry, ProofSource } from '../../shared/types'
import { api, data } from '../api'
import { useIntake } from './intake'
import ListChoice from '../parts/ListChoice.vue'

/** Whose answers a proof shows: invented ones, or those of one of the newest submissions. */
const model = defineModel<ProofSource>({ required: true })
const { id } = useIntake()
const entries = ref<Entry[]>([])
onMounted(async () => {
  try {
    const page = await data(api.GET('/api/submissions', { params: { query: { intake: id } } }))
    entries.value = page.entries.slice(0, 20)
  } catch {
    // Without the register the invented answers remain.
  }
})
const options = computed(() => [
  { value: 'made-up', words: 'made-up answers' },
  { value: 'emptest', words: 'the emptest', note: 'only what is required' },
  { value: 'longest', words: 'the longest', note: 'as long as anybody may type' },
  ...entries.value.map((e) => ({ value: String(e.id), words: e.number, note: e.person })),
])
function choose(which: string) {
  const submission = Number(which)
  model.value = submission ? { answers: 'submission', submission } : { answers: which as ProofSource['answers'] }
}
</script>

<template>
  <ListChoice
    label="Answers"
    inline
    class="max-w-[180px]"
    :model-value="String(model.submission ?? model.answers)"
    :options="options"
    @update:model-value="choose"
  />
</template>
