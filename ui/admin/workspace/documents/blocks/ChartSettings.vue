<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { useIntake } from '../../intake'
import { fieldsOf, isNumber } from './blocks'
import FieldTicks from './FieldTicks.vue'
import MillimetreWord from './MillimetreWord.vue'
import MissingWords from './MissingWords.vue'

/** Which numbers a chart draws: those of rows, or chosen ratings and numbers. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const fields = computed(() => design.value?.form.fields ?? [])
const groups = computed(() => fields.value.filter((f) => f.kind === 'rows' && fieldsOf(f).some(isNumber)))
const numbers = computed(() => fields.value.filter(isNumber))
const inner = computed(() => fieldsOf(groups.value.find((g) => g.key === block.value.rows)))
const chart = computed(() => block.value.series ?? { kind: 'bars' as const })
const val = (e: Event) => (e.target as HTMLSelectElement).value

function set(change: Partial<NonNullable<BlockSettings['series']>>) {
  block.value.series = { ...chart.value, ...change }
}
function setRows(key: string) {
  const kind = chart.value.kind
  const value = fieldsOf(groups.value.find((g) => g.key === key)).find(isNumber)?.key
  delete block.value.rows
  delete block.value.fields
  if (key) block.value.rows = key
  else block.value.fields = numbers.value.map((f) => f.key)
  block.value.series = { kind, ...(key && value ? { value } : {}) }
}
const kinds = { bars: 'bars', hbars: 'bars lying down', pie: 'a pie', line: 'a line' }
</script>

<template>
  <div class="grid gap-3">
    <div class="words">
      <label>
        drawn as
        <select
          class="word"
          :value="chart.kind"
          @change="set({ kind: val($event) as NonNullable<BlockSettings['series']>['kind'] })"
        >
          <option v-for="(words, k) in kinds" :key="k" :value="k">{{ words }}</option>
        </select>
      </label>
      <label>
        numbers of
        <select class="word" :value="block.rows ?? ''" @change="setRows(val($event))">
          <option value="">chosen fields</option>
          <option v-for="g in groups" :key="g.key" :value="g.key">the rows of {{ g.label }}</option>
        </select>
      </label>
      <template v-if="block.rows">
        <label>
          each row’s
          <select class="word" :value="chart.value ?? ''" @change="set({ value: val($event) })">
            <option v-for="f in inner.filter(isNumber)" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <label>
          named by
          <select class="word" :value="chart.label ?? ''" @change="set({ label: val($event) })">
            <option value="">its number</option>
            <option v-for="f in inner" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
      </template>
      <label
        >size <MillimetreWord v-model="block.width" label="Width in millimetres" :usual="150" /> ×
        <MillimetreWord v-model="block.height" label="Height in millimetres" :usual="70" /> mm</label
      >
      <MissingWords v-model="block.missing" usual="nothing" />
    </div>
    <FieldTicks v-if="!block.rows" v-model="block.fields" :fields="numbers" legend="Which numbers">
      <p v-if="!numbers.length" class="text-ochre">◐ The form asks for no numbers or ratings yet.</p>
    </FieldTicks>
    <div>
      <span class="text-soft">words under it</span><PhraseEditor v-model:line="block.caption" label="Caption" />
    </div>
  </div>
</template>
