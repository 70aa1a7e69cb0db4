<script setup lang="ts">
import { mend, wrong } from '../../words'
import { computed, nextTick, onMounted, ref, useId, useTemplateRef } from 'vue'
import type { FormulaFunction } from '../../../shared/types'
import { api, data } from '../../api'
import { useNames } from './names'
import { useReading } from './reading'

/** One line of formula, with completion, its value for the proof's answers, and its faults with their column. */
const props = defineProps<{ label: string; rows?: string; placeholder?: string }>()
const source = defineModel<string>({ required: true })
const rows = () => props.rows ?? ''
const names = useNames(rows)
const { reading } = useReading(() => source.value, rows)
const input = useTemplateRef<HTMLInputElement>('input')
const id = useId()

const functions = ref<FormulaFunction[]>([])
const shelf = ref(false)
onMounted(async () => {
  functions.value = await data(api.GET('/api/formulas/functions'))
})

interface Offer {
  text: string
  note: string
  call: boolean
}
const word = ref('')
const current = ref(0)
const offers = computed<Offer[]>(() => {
  const w = word.value.toLowerCase()
  if (!w) return []
  const fits = (s: string) => s.toLowerCase().includes(w)
  const fields = names.value
    .filter((n) => fits(n.name) || fits(n.label))
    .map((n): Offer => ({ text: n.name, note: n.label, call: false }))
  const calls = functions.value
    .filter((f) => f.name.startsWith(w))
    .map((f): Offer => ({ text: f.name, note: f.does, call: true }))
  return [...fields, ...calls].filter((o) => o.text !== word.value || o.call).slice(0, 8)
})

/** The word before the caret, outside texts in quotes. */
function look() {
  const el = input.value
  const before = el?.value.slice(0, el.selectionStart ?? 0) ?? ''
  const quotes = before.split('"').length - 1
  word.value = quotes % 2 ? '' : (/[A-Za-z_][\w.]*$/.exec(before)?.[0] ?? '')
  current.value = 0
}
async function take(o: Offer) {
  const el = input.value!
  const end = el.selectionStart ?? source.value.length
  const start = end - word.value.length
  const text = o.call ? `${o.text}()` : o.text
  source.value = source.value.slice(0, start) + text + source.value.slice(end)
  word.value = ''
  await nextTick()
  const caret = start + text.length - (o.call ? 1 : 0)
  el.focus()
  el.setSelectionRange(caret, caret)
}
function keys(e: KeyboardEvent) {
  if (!offers.value.length) return
  if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    e.preventDefault()
    const n = offers.value.length
    current.value = (current.value + (e.key === 'ArrowDown' ? 1 : n - 1)) % n
  } else if (e.key === 'Enter' || e.key === 'Tab') {
    e.preventDefault()
    e.stopPropagation()
    void take(offers.value[current.value]!)
  } else if (e.key === 'Escape') {
    e.preventDefault()
    e.stopPropagation()
    word.value = ''
  }
}
</script>

<template>
  <div class="relative w-full">
    <input
      ref="input"
      v-model="source"
      class="entry font-mono text-[13px]"
      spellcheck="false"
      autocomplete="off"
      role="combobox"
      :aria-label="label"
      :placeholder="placeholder"
      :aria-expanded="offers.length > 0"
      :aria-controls="`${id}-offers`"
      :aria-activedescendant="offers.length ? `${id}-${current}` : undefined"
      :aria-describedby="reading?.findings.length ? `${id}-findings` : undefined"
      :aria-invalid="reading?.findings.some((f) => f.level === 'fault') ? 'true' : undefined"
      @input="look"
      @click="look"
      @keydown="keys"
      @blur="word = ''"
    />
    <ul
      v-show="offers.length"
      :id="`${id}-offers`"
      role="listbox"
      :aria-label="$t('formula.namesFunctions', { label })"
      class="absolute z-20 mt-0.5 w-full border border-edge bg-white"
    >
      <li
        v-for="(o, i) in offers"
        :id="`${id}-${i}`"
        :key="o.text"
        role="option"
        :aria-selected="i === current"
        class="flex cursor-pointer gap-3 px-2.5 py-1"
        :class="{ 'bg-amber-wash': i === current }"
        @mousedown.prevent="take(o)"
      >
        <span class="font-mono text-[13px]">{{ o.text }}{{ o.call ? '( )' : '' }}</span>
        <span class="min-w-0 truncate text-[13px] text-soft">{{ o.note }}</span>
      </li>
    </ul>
    <div class="mt-1 flex flex-wrap items-baseline gap-x-4 text-[13px]">
      <span v-if="reading?.value" class="text-pine" data-formula-value
        >= {{ reading.value }}
        <span v-if="reading.madeUp" class="text-soft">{{ $t('formula.madeUpAnswers') }}</span></span
      >
      <button type="button" class="link ml-auto" :aria-expanded="shelf" @click="shelf = !shelf">
        {{ shelf ? $t('formula.foldExamples') : $t('formula.examples') }}
      </button>
    </div>
    <div :id="`${id}-findings`">
      <p
        v-for="(f, i) in reading?.findings ?? []"
        :key="i"
        class="text-[13px]"
        :class="f.level === 'fault' ? 'text-madder' : 'text-ochre'"
      >
        {{ f.level === 'fault' ? '✕' : '◐' }} {{ wrong(f) }} <span class="text-carbon">{{ mend(f) }}</span>
      </p>
    </div>
    <dl v-if="shelf" class="mt-1 max-h-[200px] overflow-y-auto border-l-2 border-rule pl-3 text-[13px]">
      <div v-for="f in functions" :key="f.name" class="py-0.5">
        <dt class="font-mono">{{ f.usage }}</dt>
        <dd class="text-soft">{{ f.does }}</dd>
      </div>
    </dl>
  </div>
</template>
