<script setup lang="ts" generic="V extends string">
/** Several of a few, each ticked or not. */
defineProps<{
  label: string
  options: { value: V; words: string }[]
  ticked: (value: V) => boolean
  silent?: boolean
}>()
defineEmits<{ turn: [value: V, on: boolean] }>()
</script>

<template>
  <fieldset class="flex flex-wrap gap-x-5">
    <legend :class="silent ? 'sr-only' : 'text-[13px] text-soft'">{{ label }}</legend>
    <label v-for="o in options" :key="o.value" class="flex min-h-[28px] items-center gap-2">
      <input
        type="checkbox"
        :checked="ticked(o.value)"
        @change="$emit('turn', o.value, ($event.target as HTMLInputElement).checked)"
      />
      {{ o.words }}
    </label>
  </fieldset>
</template>
