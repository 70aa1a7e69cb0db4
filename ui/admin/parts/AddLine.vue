<script setup lang="ts">
import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { computed, ref, useTemplateRef } from 'vue'
import { PanelPlace } from './panelPlace'

export interface Addable {
  value: string
  words: string
  /** What it is for, in a sentence. */
  says: string
  /** The drawing of it: paths of 24 by 24. */
  drawing: string
}

/**
 * The one line by which something is added: found by typing its name, chosen from a list with a drawing and a sentence each; the
 * likeliest stand beside it.
 */
const props = defineProps<{ label: string; options: Addable[]; likely?: string[] }>()
const emit = defineEmits<{ add: [value: string] }>()
const anchor = useTemplateRef<object>('anchor')
const typed = ref('')
const round = ref(0)
const found = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  return props.options.filter((o) => words.every((w) => `${o.words} ${o.says}`.toLowerCase().includes(w)))
})
const beside = computed(() => (props.likely ?? []).flatMap((v) => props.options.find((o) => o.value === v) ?? []))
/** Enter right after typing comes before the list has its options: the first that fits is taken all the same. */
function enter(e: Event, active: unknown) {
  const first = found.value[0]
  if (!typed.value || !first || found.value.some((o) => o === active)) return
  e.stopPropagation()
  take(first)
}
function take(o: unknown) {
  if (!o) return
  emit('add', (o as Addable).value)
  typed.value = ''
  round.value++ // the line is empty again
}
</script>

<template>
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
    <Combobox v-slot="{ activeOption }" :key="round" :model-value="null" nullable as="div" @update:model-value="take">
      <div ref="anchor" class="relative w-[190px]">
        <ComboboxInput
          class="entry min-h-[34px] w-full pr-8"
          :aria-label="label"
          :placeholder="label"
          autocomplete="off"
          @keydown.enter.capture="enter($event, activeOption)"
          @change="typed = ($event.target as HTMLInputElement).value"
        />
        <ComboboxButton class="absolute inset-y-0 right-0 px-2 text-[11px]" :aria-label="label">▾</ComboboxButton>
      </div>
      <ComboboxOptions class="panel">
        <PanelPlace :anchor="anchor ?? undefined" />
        <li v-if="!found.length" class="px-3 py-1.5 text-soft">{{ $t('parts.nothingCalled') }}</li>
        <ComboboxOption v-for="o in found" :key="o.value" v-slot="{ active }" :value="o" as="template">
          <li class="option items-center" :class="{ 'option-active': active }">
            <svg
              viewBox="0 0 24 24"
              aria-hidden="true"
              class="mr-1 size-[26px] shrink-0 fill-none stroke-ink stroke-[1.4]"
            >
              <path :d="o.drawing" />
            </svg>
            <span class="min-w-0">
              <span class="font-semibold">{{ o.words }}</span>
              <span class="block text-[13px] text-soft">{{ o.says }}</span>
            </span>
          </li>
        </ComboboxOption>
      </ComboboxOptions>
    </Combobox>
    <span v-if="beside.length" class="flex flex-wrap gap-x-3 text-[13px]">
      <span class="text-soft">{{ $t('parts.oftenNext') }}</span>
      <button v-for="o in beside" :key="o.value" type="button" class="link" @click="emit('add', o.value)">
        {{ o.words }}
      </button>
    </span>
  </div>
</template>
