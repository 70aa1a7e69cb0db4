<script setup lang="ts">
import type { Field } from '../../../../shared/types'

/** Fields to choose from; those that are chosen keep the form's order. */
const chosen = defineModel<string[] | undefined>({ required: true })
const props = defineProps<{ fields: Field[]; legend: string }>()
function tick(key: string, e: Event) {
  const on = (e.target as HTMLInputElement).checked
  chosen.value = props.fields.map((f) => f.key).filter((k) => (k === key ? on : chosen.value?.includes(k)))
}
</script>

<template>
  <fieldset class="grid gap-x-4 sm:grid-cols-2">
    <legend class="sr-only">{{ legend }}</legend>
    <label v-for="f in fields" :key="f.key" class="flex items-center gap-2">
      <input type="checkbox" :checked="chosen?.includes(f.key) ?? false" @change="tick(f.key, $event)" />
      <span class="truncate">{{ f.label }}</span>
    </label>
    <slot />
  </fieldset>
</template>
