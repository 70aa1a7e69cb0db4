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
    label="shading"
    :model-value="block.shading ?? ''"
    @update:model-value="set('shading', $event)"
    :options="[
      { value: '', words: 'the look’s' },
      { value: 'rows', words: 'every other row' },
      { value: 'none', words: 'none' },
    ]"
  />
  <ChoiceCell
    label="borders"
    :model-value="block.borders ?? ''"
    @update:model-value="set('borders', $event)"
    :options="[
      { value: '', words: 'the look’s' },
      { value: 'rows', words: 'between rows' },
      { value: 'grid', words: 'around cells' },
      { value: 'none', words: 'none' },
    ]"
  />
</template>
