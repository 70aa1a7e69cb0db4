<script setup lang="ts">
import { computed } from 'vue'
import type { Field } from '../../../shared/types'
import { beginnings } from './settings'

/** What an answer begins as: nothing, a value, or what is known when it is asked. */
const field = defineModel<Field>({ required: true })
type Default = NonNullable<Field['default']>
const how = computed(() => field.value.default?.from ?? (field.value.default ? 'value' : ''))
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
function set(to: string) {
  if (!to) delete field.value.default
  else if (to === 'value') field.value.default = { value: '' }
  else
    field.value.default = { from: to as Default['from'] & string, ...(to === 'link' ? { name: field.value.key } : {}) }
}
</script>

<template>
  <label>
    begins
    <select class="word" :value="how" @change="set(val($event))">
      <option value="">empty</option>
      <option value="value">as a value</option>
      <option v-for="b in beginnings(field.kind)" :key="b.value" :value="b.value">as {{ b.words }}</option>
    </select>
    <input
      v-if="how === 'value' || how === 'link'"
      class="word w-[104px]"
      :aria-label="how === 'link' ? 'Name of the parameter' : 'Value it begins with'"
      :value="how === 'link' ? (field.default?.name ?? '') : (field.default?.value ?? '')"
      @change="field.default = how === 'link' ? { from: 'link', name: val($event) } : { value: val($event) }"
    />
  </label>
</template>
