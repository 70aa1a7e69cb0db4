<script setup lang="ts">
import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { PanelPlace } from './panelPlace'
import type { Option } from './ListChoice.vue'

/** One of many, found by typing a part of its words. */
const props = defineProps<{ options: Option<string>[]; label: string; placeholder?: string; invalid?: boolean }>()
const value = defineModel<string>({ required: true })
const anchor = useTemplateRef<object>('anchor')

const most = 60
const typed = ref('')
const plain = (s: string) => s.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
const found = computed(() => {
  const words = plain(typed.value).split(/\s+/).filter(Boolean)
  const all = props.options.filter((o) =>
    words.every((w) => plain(`${o.words} ${o.note ?? ''} ${o.value}`).includes(w)),
  )
  return all.slice(0, most)
})
/** Enter right after typing comes before the list has its options: the first that fits is taken all the same. */
function enter(active: unknown) {
  const first = found.value[0]
  if (typed.value && first && !found.value.some((o) => o.value === active)) value.value = first.value
}
watch(value, () => (typed.value = ''))
const words = (v: unknown) => props.options.find((o) => o.value === v)?.words ?? String(v ?? '')
</script>

<template>
  <Combobox v-slot="{ activeOption }" v-model="value" as="div" class="min-w-0">
    <div ref="anchor" class="relative">
      <ComboboxInput
        class="entry min-h-[34px] w-full pr-8"
        :aria-label="label"
        :aria-invalid="invalid ? 'true' : undefined"
        :display-value="words"
        :placeholder="placeholder"
        autocomplete="off"
        @change="typed = ($event.target as HTMLInputElement).value"
        @keydown.enter.capture="enter(activeOption)"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <ComboboxButton class="absolute inset-y-0 right-0 px-2 text-[11px]" :aria-label="label">▾</ComboboxButton>
    </div>
    <ComboboxOptions class="panel">
      <PanelPlace :anchor="anchor ?? undefined" />
      <li v-if="!found.length" class="px-3 py-1.5 text-soft">{{ $t('parts.nothingCalled') }}</li>
      <ComboboxOption v-for="o in found" :key="o.value" v-slot="{ active, selected }" :value="o.value" as="template">
        <li class="option" :class="{ 'option-active': active }">
          <span aria-hidden="true" class="w-3 shrink-0 text-amber-ink">{{ selected ? '●' : '' }}</span>
          <span class="min-w-0">
            <span :class="{ 'font-semibold': selected }">{{ o.words }}</span>
            <span v-if="o.note" class="block text-[13px] text-soft">{{ o.note }}</span>
          </span>
        </li>
      </ComboboxOption>
    </ComboboxOptions>
  </Combobox>
</template>
