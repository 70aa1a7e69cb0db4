<script setup lang="ts">
import { computed, provide, ref } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import ConditionWords from '../../formula/ConditionWords.vue'
import { gridRow } from './blocks'
import { rowsHere, useRowsHere } from '../../rows'
import EachWords from './EachWords.vue'
import TableDress from './TableDress.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import EntryCell from '../../../parts/EntryCell.vue'

/** The cells of a fixed table: a small sheet to choose one from, and the chosen one's words. */
const block = defineModel<BlockSettings>({ required: true })
block.value.grid ??= { rows: [gridRow(2)] }
const grid = computed(() => block.value.grid!)
const width = computed(() =>
  Math.max(1, ...grid.value.rows.map((r) => r.cells.reduce((n, c) => n + Math.max(c.span ?? 1, 1), 0))),
)
const at = ref({ row: 0, cell: 0 })
const row = computed(() => grid.value.rows[Math.min(at.value.row, grid.value.rows.length - 1)])
const cell = computed(() => row.value?.cells[Math.min(at.value.cell, row.value.cells.length - 1)])
const outer = useRowsHere()
const rows = computed(() => row.value?.each ?? outer?.value ?? '')
provide(rowsHere, rows)
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value

const words = (c: { body: { spans: { text?: string; field?: string }[] }[] }) =>
  c.body.map((p) => p.spans.map((s) => s.text ?? `{${s.field}}`).join('')).join(' ')

function addRow() {
  grid.value.rows.splice(at.value.row + 1, 0, gridRow(width.value))
  at.value = { row: at.value.row + 1, cell: 0 }
}
function removeRow() {
  if (grid.value.rows.length > 1) grid.value.rows.splice(at.value.row, 1)
  at.value = { row: Math.max(0, Math.min(at.value.row, grid.value.rows.length - 1)), cell: 0 }
}
function addColumn() {
  for (const r of grid.value.rows) r.cells.push({ body: [] })
  delete grid.value.shares
}
function removeColumn() {
  for (const r of grid.value.rows)
    if (r.cells.length > 1) r.cells.splice(Math.min(at.value.cell, r.cells.length - 1), 1)
  delete grid.value.shares
  at.value.cell = 0
}
function setShare(i: number, e: Event) {
  const shares = grid.value.shares ?? Array.from({ length: width.value }, () => 1)
  shares[i] = Math.max(0.1, Number(val(e).replace(',', '.')) || 1)
  grid.value.shares = [...shares]
}
function setAlign(to: string) {
  if (!cell.value) return
  if (to) cell.value.align = to as 'start'
  else delete cell.value.align
}
function setShade(colour: string) {
  if (!cell.value) return
  if (colour) cell.value.shade = colour
  else delete cell.value.shade
}
</script>

<template>
  <div class="grid gap-3">
    <table class="w-full table-fixed border-collapse bg-white text-[13px]" :aria-label="$t('blocks.cellsTable')">
      <tbody>
        <tr v-for="(r, i) in grid.rows" :key="i" :class="{ 'font-semibold': grid.header && i === 0 }">
          <td
            v-for="(c, k) in r.cells"
            :key="k"
            :colspan="c.span ?? 1"
            :rowspan="c.down ?? 1"
            class="border border-rule p-0"
          >
            <button
              type="button"
              class="block min-h-[28px] w-full truncate px-2 text-left"
              :class="{ 'bg-amber-wash outline outline-2 -outline-offset-2 outline-amber': c === cell }"
              :aria-pressed="c === cell"
              :aria-label="$t('blocks.rowCell', { i: i + 1, k: k + 1, words: words(c) || $t('blocks.empty') })"
              @click="at = { row: i, cell: k }"
            >
              {{ words(c) || '·' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="words text-[13px]">
      <button type="button" class="link" @click="addRow">{{ $t('blocks.addRow') }}</button>
      <button type="button" class="link" @click="removeRow">{{ $t('blocks.removeRow') }}</button>
      <button type="button" class="link" @click="addColumn">{{ $t('blocks.addColumn') }}</button>
      <button type="button" class="link" @click="removeColumn">{{ $t('blocks.removeColumn') }}</button>
    </p>
    <PhraseEditor
      v-if="cell"
      :key="`${at.row}.${at.cell}.${grid.rows.length}.${width}`"
      v-model:body="cell.body"
      :label="$t('blocks.wordsCell')"
      rich
    />
    <ConditionWords v-if="row" v-model="row.when" :verb="$t('blocks.rowShown')" :rows="rows" />
    <SettingsGrid>
      <template v-if="cell && row">
        <ChoiceCell
          :label="$t('blocks.cellCovers')"
          :model-value="cell.span ?? 1"
          @update:model-value="cell.span = $event"
          :options="
            Array.from({ length: width }, (_, i) => i + 1).map((n) => ({
              value: n,
              words: n === 1 ? $t('blocks.oneColumn2') : $t('blocks.columns2', { n }),
            }))
          "
        />
        <ChoiceCell
          :label="$t('blocks.and')"
          :model-value="cell.down ?? 1"
          @update:model-value="cell.down = $event"
          :options="
            Array.from({ length: grid.rows.length }, (_, i) => i + 1).map((n) => ({
              value: n,
              words: n === 1 ? $t('blocks.oneRow') : $t('blocks.rows2', { n }),
            }))
          "
        />
        <ChoiceCell
          :label="$t('blocks.stands')"
          :model-value="cell.align ?? ''"
          @update:model-value="setAlign($event)"
          :options="[
            { value: '', words: $t('blocks.asWords') },
            { value: 'start', words: $t('blocks.start') },
            { value: 'center', words: $t('blocks.middle') },
            { value: 'end', words: $t('blocks.end') },
          ]"
        />
        <EntryCell
          :label="$t('blocks.shade')"
          :placeholder="$t('blocks.none')"
          :model-value="cell.shade ?? ''"
          @update:model-value="setShade"
        />
        <EachWords v-model="row.each" />
      </template>
      <ChoiceCell
        :label="$t('blocks.firstRow')"
        :model-value="grid.header ? 'yes' : 'no'"
        @update:model-value="grid.header = $event === 'yes'"
        :options="[
          { value: 'yes', words: $t('blocks.headsColumns') },
          { value: 'no', words: $t('blocks.likeOthers') },
        ]"
      />
      <TableDress :model-value="block" />
    </SettingsGrid>
    <p class="words text-soft">
      {{ $t('blocks.widths') }}
      <input
        v-for="i in width"
        :key="i"
        class="word w-[40px]"
        inputmode="decimal"
        :aria-label="$t('blocks.shareColumn', { i })"
        :value="grid.shares?.[i - 1] ?? 1"
        @change="setShare(i - 1, $event)"
      />
    </p>
  </div>
</template>
