<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import { useIntake } from '../../intake'
import { asks } from '../../kinds'
import FieldTicks from './FieldTicks.vue'
import TableDress from './TableDress.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** Which answers a table prints, and how. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const askable = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind)))
function setAll(all: boolean) {
  if (all) delete block.value.fields
  else block.value.fields = askable.value.map((f) => f.key)
}
</script>

<template>
  <SettingsGrid>
    <ChoiceCell
      :label="$t('blocks.answers')"
      :model-value="block.fields ? 'chosen' : 'all'"
      @update:model-value="setAll($event === 'all')"
      :options="[
        { value: 'all', words: $t('blocks.all') },
        { value: 'chosen', words: $t('blocks.chosen') },
      ]"
    />
    <ChoiceCell
      :label="$t('blocks.emptyOnes')"
      :model-value="block.hideEmpty ? 'no' : 'yes'"
      @update:model-value="block.hideEmpty = $event === 'no'"
      :options="[
        { value: 'yes', words: $t('blocks.printed') },
        { value: 'no', words: $t('blocks.leftOut') },
      ]"
    />
    <ChoiceCell
      :label="$t('blocks.sections')"
      :model-value="block.flat ? 'no' : 'yes'"
      @update:model-value="block.flat = $event === 'no'"
      :options="[
        { value: 'yes', words: $t('blocks.underTheirHeadings') },
        { value: 'no', words: $t('blocks.withoutHeadings') },
      ]"
    />
    <ChoiceCell
      :label="$t('blocks.set')"
      :model-value="block.across ?? 1"
      @update:model-value="block.across = $event"
      :options="[
        { value: 1, words: $t('blocks.oneColumn') },
        { value: 2, words: $t('blocks.twoColumns') },
      ]"
    />
    <ChoiceCell
      v-if="block.across !== 2"
      :label="$t('blocks.headerRow')"
      :model-value="block.headed ? 'yes' : 'no'"
      @update:model-value="block.headed = $event === 'yes'"
      :options="[
        { value: 'no', words: $t('blocks.no') },
        { value: 'yes', words: $t('blocks.yes') },
      ]"
    />
    <TableDress :model-value="block" />
  </SettingsGrid>
  <FieldTicks v-if="block.fields" v-model="block.fields" :fields="askable" :legend="$t('blocks.whichAnswers')" />
</template>
