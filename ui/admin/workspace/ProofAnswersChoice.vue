<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Entry, ProofSource } from '../../shared/types'
import { api, data } from '../api'
import { useIntake } from './intake'
import ListChoice from '../parts/ListChoice.vue'
import { t } from '../words'

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
  { value: 'made-up', words: t('workspace.madeUpAnswers') },
  { value: 'emptest', words: t('workspace.emptest'), note: t('workspace.onlyWhatRequired') },
  { value: 'longest', words: t('workspace.longest'), note: t('workspace.asLongAsAnybodyMay') },
  ...entries.value.map((e) => ({ value: String(e.id), words: e.number, note: e.person })),
])
function choose(which: string) {
  const submission = Number(which)
  model.value = submission ? { answers: 'submission', submission } : { answers: which as ProofSource['answers'] }
}
</script>

<template>
  <ListChoice
    :label="$t('workspace.answers')"
    inline
    class="max-w-[180px]"
    :model-value="String(model.submission ?? model.answers)"
    :options="options"
    @update:model-value="choose"
  />
</template>
