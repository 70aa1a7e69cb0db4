<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import FormulaLine from '../../formula/FormulaLine.vue'
import { useIntake } from '../../intake'
import { asks } from '../../kinds'
import { fieldsOf, isNumber, without } from './blocks'
import MissingWords from './MissingWords.vue'
import TableDress from './TableDress.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** Which rows a line table prints, with which columns and totals. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const groups = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'rows'))
const inner = computed(() => fieldsOf(groups.value.find((g) => g.key === block.value.rows)))
const sums = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind) && f.kind !== 'rows'))
type Column = NonNullable<BlockSettings['columns']>[number]
const columns = computed<Column[]>(
  () => block.value.columns ?? inner.value.map((f) => ({ label: f.label, field: f.key })),
)

function setRows(key: string) {
  block.value.rows = key
  delete block.value.columns
  delete block.value.subtotal
}
function setColumn(i: number, change: Partial<Column>) {
  block.value.columns = columns.value.map((c, k) => (k === i ? { ...c, ...change } : c))
}
function setPrints(i: number, what: string) {
  const { label, share, align } = columns.value[i]!
  const kept = { label, ...(share ? { share } : {}), ...(align ? { align } : {}) }
  const next: Column = what === '=' ? { ...kept, formula: '', format: 'money' } : { ...kept, field: what }
  block.value.columns = columns.value.map((c, k) => (k === i ? next : c))
}
function setAlign(i: number, to: string) {
  const rest = without(columns.value[i]!, 'align')
  const next: Column = to ? { ...rest, align: to as 'start' } : rest
  block.value.columns = columns.value.map((c, k) => (k === i ? next : c))
}
function setSubtotal(by: string) {
  if (!by) delete block.value.subtotal
  else block.value.subtotal = { by, of: block.value.subtotal?.of ?? inner.value.filter(isNumber).map((f) => f.key) }
}
function addUp(key: string, on: boolean) {
  const s = block.value.subtotal
  if (s) s.of = inner.value.map((f) => f.key).filter((k) => (k === key ? on : s.of.includes(k)))
}
function addColumn() {
  const free = inner.value.find((f) => !columns.value.some((c) => c.field === f.key))
  block.value.columns = [...columns.value, free ? { label: free.label, field: free.key } : { label: '#', field: '#' }]
}
type Total = NonNullable<BlockSettings['totals']>[number]
/** The words of a total follow its field until somebody writes others. */
function setTotal(t: Total, key: string) {
  const before = sums.value.find((f) => f.key === t.field)
  const own = t.label.length !== 1 || t.label[0]!.field || t.label[0]!.text !== before?.label
  t.field = key
  const now = sums.value.find((f) => f.key === key)
  if (now && (!own || !t.label.length)) t.label = [{ text: now.label }]
}
/** The next total is the calculated amount that follows those that stand there. */
function addTotal() {
  const printed = new Set((block.value.totals ?? []).map((t) => t.field))
  const free =
    sums.value.find((f) => f.formula !== undefined && isNumber(f) && !printed.has(f.key)) ??
    sums.value.find((f) => isNumber(f) && !printed.has(f.key)) ??
    sums.value[0]
  if (!free) return
  block.value.totals = [...(block.value.totals ?? []), { label: [{ text: free.label }], field: free.key }]
}
</script>

<template>
  <div class="grid gap-2">
    <ChoiceCell
      :label="$t('blocks.oneLineEachRow')"
      :model-value="block.rows"
      :options="groups.map((g) => ({ value: g.key, words: g.label }))"
      @update:model-value="setRows"
    />
    <p v-if="!groups.length" class="text-ochre">{{ $t('blocks.formHasNoRowsYet') }}</p>
    <div v-for="(c, i) in columns" :key="i" class="words" data-column>
      <EntryCell
        :label="$t('blocks.column')"
        :model-value="c.label"
        @update:model-value="setColumn(i, { label: $event })"
      />
      <ChoiceCell
        :label="$t('blocks.prints')"
        :model-value="c.formula !== undefined ? '=' : c.field"
        @update:model-value="setPrints(i, $event)"
        :options="[
          { value: '#', words: $t('blocks.count') },
          ...inner.map((f) => ({ value: f.key, words: f.label })),
          { value: '=', words: $t('blocks.formula') },
        ]"
      />
      <ChoiceCell
        :label="$t('blocks.stands')"
        :model-value="c.align ?? ''"
        @update:model-value="setAlign(i, $event)"
        :options="[
          { value: '', words: $t('blocks.asUsual') },
          { value: 'start', words: $t('blocks.start') },
          { value: 'center', words: $t('blocks.middle') },
          { value: 'end', words: $t('blocks.end') },
        ]"
      />
      <button type="button" class="link text-[13px]" @click="block.columns = columns.filter((_, k) => k !== i)">
        {{ $t('blocks.remove') }}<span class="sr-only">{{ ' ' + $t('blocks.column2', { label: c.label }) }}</span>
      </button>
      <div v-if="c.formula !== undefined" class="words basis-full">
        <FormulaLine
          class="grow"
          :model-value="c.formula"
          :rows="block.rows ?? ''"
          :label="$t('blocks.formulaColumn', { label: c.label })"
          @update:model-value="setColumn(i, { formula: $event ?? '' })"
        />
        <ChoiceCell
          :label="$t('blocks.as')"
          :model-value="c.format ?? ''"
          @update:model-value="setColumn(i, $event ? { format: $event as 'money' } : {})"
          :options="[
            { value: 'money', words: $t('blocks.money') },
            { value: 'hundredths', words: '1,234.50' },
            { value: 'ungrouped', words: '1234' },
            { value: '', words: $t('blocks.comesOut') },
          ]"
        />
      </div>
    </div>
    <div v-for="(t, i) in block.totals ?? []" :key="`t${i}`" class="grid gap-1 border-l-2 border-rule pl-3" data-total>
      <PhraseEditor v-model:line="t.label" :label="$t('blocks.wordsTotal', { i: i + 1 })" />
      <SettingsGrid>
        <ChoiceCell
          :label="$t('blocks.prints')"
          :model-value="t.field"
          @update:model-value="setTotal(t, $event)"
          :options="sums.map((f) => ({ value: f.key, words: f.label }))"
        />
        <label class="flex items-center gap-1"
          ><input v-model="t.grand" type="checkbox" /> {{ $t('blocks.setLarge') }}</label
        >
        <button type="button" class="link text-[13px]" @click="block.totals!.splice(i, 1)">
          {{ $t('blocks.remove') }}<span class="sr-only">{{ ' ' + $t('blocks.total', { i: i + 1 }) }}</span>
        </button>
      </SettingsGrid>
    </div>
    <p class="flex flex-wrap gap-x-5 text-[13px]">
      <button type="button" class="link" @click="addColumn">{{ $t('blocks.addColumn') }}</button>
      <button type="button" class="link" @click="addTotal">{{ $t('blocks.addTotal') }}</button>
    </p>
    <SettingsGrid>
      <ChoiceCell
        :label="$t('blocks.subtotals')"
        :model-value="block.subtotal?.by ?? ''"
        @update:model-value="setSubtotal($event)"
        :options="[
          { value: '', words: $t('blocks.none') },
          ...inner.map((f) => ({ value: f.key, words: $t('blocks.whenChanges', { label: f.label }) })),
        ]"
      />
      <template v-if="block.subtotal">
        <label v-for="f in inner.filter(isNumber)" :key="f.key" class="flex items-center gap-1">
          <input
            type="checkbox"
            :checked="block.subtotal.of.includes(f.key)"
            @change="addUp(f.key, ($event.target as HTMLInputElement).checked)"
          />
          {{ f.label }}
        </label>
      </template>
      <TableDress :model-value="block" />
      <MissingWords v-model="block.missing" usual="nothing" />
    </SettingsGrid>
  </div>
</template>
