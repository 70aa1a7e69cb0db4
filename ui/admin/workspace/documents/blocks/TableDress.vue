<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import ChoiceCell from '../../../parts/ChoiceCell.vue'

/** The shading and borders of a table. */
const block = defineModel<BlockSettings>({ required: true })
function set(key: 'shading' | 'borders', to: string) {
  if (to) Object.assign(block.value, { [key]: to })
  else Reflect.deleteProperty(block.value, key)
}
</script>

<template>
  <ChoiceCell
    :label="$t('blocks.shading')"
    :model-value="block.shading ?? ''"
    @update:model-value="set('shading', $event)"
    :options="[
      { value: '', words: $t('blocks.looks') },
      { value: 'rows', words: $t('blocks.everyOtherRow') },
      { value: 'none', words: $t('blocks.none') },
    ]"
  />
  <ChoiceCell
    :label="$t('blocks.borders')"
    :model-value="block.borders ?? ''"
    @update:model-value="set('borders', $event)"
    :options="[
      { value: '', words: $t('blocks.looks') },
      { value: 'rows', words: $t('blocks.betweenRows') },
      { value: 'grid', words: $t('blocks.aroundCells') },
      { value: 'none', words: $t('blocks.none') },
    ]"
  />
</template>
