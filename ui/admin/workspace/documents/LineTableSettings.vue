<script setup lang="ts">
import { computed } from 'vue'
import type { Block } from '../../../shared/types'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import { useIntake } from '../intake'
import { asks } from '../kinds'

/** Which rows a line table prints, with which columns and totals. */
const block = defineModel<Block>({ required: true })
const { design } = useIntake()
const groups = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'rows'))
const inner = computed(() => groups.value.find((g) => g.key === block.value.rows)?.fields ?? [])
const sums = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind) && f.kind !== 'rows'))
const columns = computed(() => block.value.columns ?? inner.value.map((f) => ({ label: f.label, field: f.key })))
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value

function setRows(key: string) {
  block.value.rows = key
  delete block.value.columns
}
function setColumn(i: number, change: { label?: string; field?: string }) {
  block.value.columns = columns.value.map((c, k) => (k === i ? { ...c, ...change } : c))
}
function addColumn() {
  const free = inner.value.find((f) => !columns.value.some((c) => c.field === f.key))
  block.value.columns = [...columns.value, free ? { label: free.label, field: free.key } : { label: '#', field: '#' }]
}
function addTotal() {
  const free = sums.value.findLast((f) => f.formula !== undefined) ?? sums.value[0]
  if (!free) return
  block.value.totals = [...(block.value.totals ?? []), { label: [{ text: free.label }], field: free.key }]
}
</script>

<template>
  <div class="grid gap-2">
    <label class="words">
      <span>
        one line for each row of
        <select class="word" :value="block.rows" @change="setRows(val($event))">
          <option v-for="g in groups" :key="g.key" :value="g.key">{{ g.label }}</option>
        </select>
      </span>
    </label>
    <p v-if="!groups.length" class="text-ochre">◐ The form has no rows yet. Add a field of the kind rows.</p>
    <div v-for="(c, i) in columns" :key="i" class="words" data-column>
      <label>
        column
        <input
          class="word w-[120px]"
          :value="c.label"
          aria-label="Column heading"
          @change="setColumn(i, { label: val($event) })"
        />
      </label>
      <label>
        prints
        <select class="word" :value="c.field" aria-label="Column prints" @change="setColumn(i, { field: val($event) })">
          <option value="#">the count</option>
          <option v-for="f in inner" :key="f.key" :value="f.key">{{ f.label }}</option>
        </select>
      </label>
      <button type="button" class="link text-[13px]" @click="block.columns = columns.filter((_, k) => k !== i)">
        Remove<span class="sr-only"> column {{ c.label }}</span>
      </button>
    </div>
    <div v-for="(t, i) in block.totals ?? []" :key="`t${i}`" class="grid gap-1 border-l-2 border-rule pl-3" data-total>
      <PhraseEditor v-model:line="t.label" :label="`Words of total ${i + 1}`" />
      <div class="words">
        <label>
          prints
          <select v-model="t.field" class="word max-w-[200px]" aria-label="Total prints">
            <option v-for="f in sums" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <label class="flex items-center gap-1"><input v-model="t.grand" type="checkbox" /> set large</label>
        <button type="button" class="link text-[13px]" @click="block.totals!.splice(i, 1)">
          Remove<span class="sr-only"> total {{ i + 1 }}</span>
        </button>
      </div>
    </div>
    <p class="words text-[13px]">
      <button type="button" class="link" @click="addColumn">Add a column</button>
      <button type="button" class="link" @click="addTotal">Add a total</button>
    </p>
  </div>
</template>
