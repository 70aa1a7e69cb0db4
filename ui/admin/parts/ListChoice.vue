<script setup lang="ts" generic="T extends string | number">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import { computed, useTemplateRef } from 'vue'
import { PanelPlace } from './panelPlace'

export interface Option<V> {
  value: V
  words: string
  /** What it means, in a few words under it. */
  note?: string
  disabled?: boolean
}

/** One of a few: a button that says which, and a list to choose another. */
const props = defineProps<{
  modelValue: T | undefined
  options: Option<T>[]
  label: string
  /** Inside a sentence, instead of as wide as its cell. */
  inline?: boolean
  disabled?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()
const button = useTemplateRef<object>('button')
const words = computed(() => props.options.find((o) => o.value === props.modelValue)?.words ?? props.placeholder ?? '')
</script>

<template>
  <Listbox
    :model-value="modelValue"
    :disabled="disabled ?? false"
    as="div"
    :class="inline ? 'inline-block max-w-full' : 'min-w-0'"
    @update:model-value="emit('update:modelValue', $event)"
  >
    <ListboxButton
      ref="button"
      :aria-label="`${label}: ${words}`"
      :class="inline ? 'word' : 'entry min-h-[34px] w-full'"
      class="flex cursor-pointer items-baseline justify-between gap-2 text-left disabled:cursor-default disabled:text-soft"
    >
      <span class="truncate">{{ words || ' ' }}</span>
      <span aria-hidden="true" class="shrink-0 text-[11px]">▾</span>
    </ListboxButton>
    <ListboxOptions class="panel">
      <PanelPlace :anchor="button ?? undefined" />
      <ListboxOption
        v-for="o in options"
        :key="o.value"
        v-slot="{ active, selected }"
        :value="o.value"
        :disabled="o.disabled ?? false"
        as="template"
      >
        <li class="option" :class="{ 'option-active': active, 'text-soft': o.disabled }">
          <span aria-hidden="true" class="w-3 shrink-0 text-amber-ink">{{ selected ? '●' : '' }}</span>
          <span class="min-w-0">
            <span :class="{ 'font-semibold': selected }">{{ o.words }}</span>
            <span v-if="o.note" class="block text-[13px] text-soft">{{ o.note }}</span>
          </span>
        </li>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
