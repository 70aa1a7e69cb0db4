<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'

/** The shading and borders of a table. */
const block = defineModel<BlockSettings>({ required: true })
const val = (e: Event) => (e.target as HTMLSelectElement).value
function set(key: 'shading' | 'borders', to: string) {
  if (to) Object.assign(block.value, { [key]: to })
  else Reflect.deleteProperty(block.value, key)
}
</script>

<template>
  <label>
    shading
    <select class="word" :value="block.shading ?? ''" @change="set('shading', val($event))">
      <option value="">the look’s</option>
      <option value="rows">every other row</option>
      <option value="none">none</option>
    </select>
  </label>
  <label>
    borders
    <select class="word" :value="block.borders ?? ''" @change="set('borders', val($event))">
      <option value="">the look’s</option>
      <option value="rows">between rows</option>
      <option value="grid">around cells</option>
      <option value="none">none</option>
    </select>
  </label>
</template>
