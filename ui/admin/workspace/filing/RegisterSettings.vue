<script setup lang="ts">
import { computed } from 'vue'
import type { RunningRegister } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import { t } from '../../words'
import ConditionWords from '../formula/ConditionWords.vue'
import { cabinet } from './destinations'
import RegisterColumns from './RegisterColumns.vue'

/** The settings of a running register, inside its line. */
const register = defineModel<RunningRegister>({ required: true })
const props = defineProps<{ destinations: { key: string; name: string }[] }>()
const kinds = [
  { value: 'csv' as const, words: t('filing.asCsv'), note: t('filing.asCsvNote') },
  { value: 'xlsx' as const, words: t('filing.asXlsx'), note: t('filing.asXlsxNote') },
]
const places = computed(() => props.destinations.map((d) => ({ value: d.key, words: d.name })))
function goTo(key: string) {
  if (key === cabinet) delete register.value.to
  else register.value.to = key
}
function as(kind: 'csv' | 'xlsx') {
  if (kind === 'csv') delete register.value.as
  else register.value.as = kind
}
</script>

<template>
  <div class="grid gap-3">
    <SettingsGrid>
      <EntryCell
        :label="$t('filing.name')"
        live
        :model-value="register.name"
        @update:model-value="register.name = $event"
      />
      <ChoiceCell
        :label="$t('filing.kindOfFile')"
        :model-value="register.as ?? 'csv'"
        :options="kinds"
        @update:model-value="as"
      />
      <ChoiceCell
        :label="$t('filing.to')"
        :model-value="register.to ?? cabinet"
        :options="places"
        @update:model-value="goTo"
      />
    </SettingsGrid>
    <ConditionWords v-model="register.when" :verb="$t('filing.listed')" />
    <div>
      <span class="text-[13px] text-soft">{{ $t('filing.registerPath') }}</span><PhraseEditor
        v-model:line="register.path"
        :label="$t('filing.path')"
      />
    </div>
    <RegisterColumns v-model="register.columns" />
  </div>
</template>
