<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { useIntake } from '../../intake'
import { fieldsOf, isNumber } from './blocks'
import FieldTicks from './FieldTicks.vue'
import MissingWords from './MissingWords.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import MillimetreCell from './MillimetreCell.vue'
import { t } from '../../../words'

/** Which numbers a chart draws: those of rows, or chosen ratings and numbers. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const fields = computed(() => design.value?.form.fields ?? [])
const groups = computed(() => fields.value.filter((f) => f.kind === 'rows' && fieldsOf(f).some(isNumber)))
const numbers = computed(() => fields.value.filter(isNumber))
const inner = computed(() => fieldsOf(groups.value.find((g) => g.key === block.value.rows)))
const chart = computed(() => block.value.series ?? { kind: 'bars' as const })

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
const kinds = { bars: t('blocks.bars'), hbars: t('blocks.barsLyingDown'), pie: t('blocks.pie'), line: t('blocks.line') }
</script>

<template>
  <div class="grid gap-3">
    <SettingsGrid>
      <ChoiceCell
        :label="$t('blocks.drawnAs')"
        :model-value="chart.kind"
        @update:model-value="set({ kind: $event as NonNullable<BlockSettings['series']>['kind'] })"
        :options="Object.entries(kinds).map(([k, words]) => ({ value: k, words: words }))"
      />
      <ChoiceCell
        :label="$t('blocks.numbers')"
        :model-value="block.rows ?? ''"
        @update:model-value="setRows($event)"
        :options="[
          { value: '', words: $t('blocks.chosenFields') },
          ...groups.map((g) => ({ value: g.key, words: $t('blocks.rows', { label: g.label }) })),
        ]"
      />
      <template v-if="block.rows">
        <ChoiceCell
          :label="$t('blocks.eachRows')"
          :model-value="chart.value ?? ''"
          @update:model-value="set({ value: $event })"
          :options="inner.filter(isNumber).map((f) => ({ value: f.key, words: f.label }))"
        />
        <ChoiceCell
          :label="$t('blocks.named')"
          :model-value="chart.label ?? ''"
          @update:model-value="set({ label: $event })"
          :options="[
            { value: '', words: $t('blocks.number') },
            ...inner.map((f) => ({ value: f.key, words: f.label })),
          ]"
        />
      </template>
      <MillimetreCell v-model="block.width" :label="$t('blocks.width')" :usual="150" />
      <MillimetreCell v-model="block.height" :label="$t('blocks.height')" :usual="70" />
      <MissingWords v-model="block.missing" usual="nothing" />
    </SettingsGrid>
    <FieldTicks v-if="!block.rows" v-model="block.fields" :fields="numbers" :legend="$t('blocks.whichNumbers')">
      <p v-if="!numbers.length" class="text-ochre">{{ $t('blocks.formAsksNoNumbersRatings') }}</p>
    </FieldTicks>
    <div>
      <span class="text-[13px] text-soft">{{ $t('blocks.wordsUnder') }}</span><PhraseEditor
        v-model:line="block.caption"
        :label="$t('blocks.caption')"
      />
    </div>
  </div>
</template>
