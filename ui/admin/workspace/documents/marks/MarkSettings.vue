<script setup lang="ts">
import { computed } from 'vue'
import type { PageMark } from '../../../../shared/types'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import ConditionWords from '../../formula/ConditionWords.vue'
import { useIntake } from '../../intake'
import { t } from '../../../words'
import EachWords from '../blocks/EachWords.vue'
import { fieldsOf } from '../blocks/blocks'

/** What a mark says, where it stands to the tenth of a millimetre, and when. */
const mark = defineModel<PageMark>({ required: true })
const { design } = useIntake()
const pictures = computed(() =>
  (design.value?.form.fields ?? []).flatMap((f) => {
    const of = (x: { kind: string }) => x.kind === 'signature' || (mark.value.kind === 'picture' && x.kind === 'photo')
    const columns = fieldsOf(f)
      .filter(of)
      .map((c) => ({ value: `${f.key}.${c.key}`, words: `${f.label}: ${c.label}` }))
    return [...(of(f) ? [{ value: f.key, words: f.label }] : []), ...columns]
  }),
)
const says = computed(() => mark.value.kind === 'words' || mark.value.kind === 'code')
function number(text: string, least: number) {
  const n = Number(text.replace(',', '.'))
  return Number.isFinite(n) && n >= least ? n : undefined
}
function set(name: 'left' | 'top' | 'width' | 'height', text: string) {
  const n = number(text, name === 'left' || name === 'top' ? 0 : 0.1)
  if (n !== undefined) mark.value[name] = n
}
/** A number that may be left out. */
function setOr(name: 'size' | 'cells' | 'step' | 'most', text: string) {
  const n = number(text, 0.1)
  if (n === undefined) Reflect.deleteProperty(mark.value, name)
  else mark.value[name] = name === 'cells' || name === 'most' ? Math.round(n) : n
}
const lengths = ['left', 'top', 'width', 'height'] as const
const lengthWords = {
  left: t('marks.left'),
  top: t('marks.top'),
  width: t('blocks.width'),
  height: t('blocks.height'),
}
</script>

<template>
  <div class="grid gap-3">
    <div v-if="says">
      <span class="text-[13px] text-soft">{{ $t('marks.says') }}</span>
      <PhraseEditor v-model:line="mark.text" :label="$t('marks.says')" />
    </div>
    <ConditionWords v-model="mark.when" :verb="$t('blocks.shown')" :rows="mark.each ?? ''" />
    <SettingsGrid>
      <ChoiceCell
        v-if="mark.kind === 'picture' || mark.kind === 'signature'"
        :label="$t('marks.ofQuestion')"
        v-model="mark.field"
        :options="pictures"
      />
      <EntryCell
        :label="$t('marks.page')"
        mode="numeric"
        :model-value="String(mark.page)"
        @update:model-value="mark.page = Math.max(1, Number.parseInt($event, 10) || 1)"
      />
      <EntryCell
        v-for="name in lengths"
        :key="name"
        :label="$t('blocks.mm', { label: lengthWords[name] })"
        mode="decimal"
        :model-value="String(mark[name])"
        @update:model-value="set(name, $event)"
      />
      <template v-if="mark.kind === 'words'">
        <EntryCell
          :label="$t('marks.size')"
          mode="decimal"
          :placeholder="$t('marks.asFits')"
          :model-value="mark.size ? String(mark.size) : ''"
          @update:model-value="setOr('size', $event)"
        />
        <EntryCell
          :label="$t('marks.cells')"
          mode="numeric"
          :placeholder="$t('marks.noCells')"
          :model-value="mark.cells ? String(mark.cells) : ''"
          @update:model-value="setOr('cells', $event)"
        />
        <ChoiceCell
          :label="$t('marks.runs')"
          :model-value="mark.lines ? 'lines' : 'line'"
          @update:model-value="$event === 'lines' ? (mark.lines = true) : delete mark.lines"
          :options="[
            { value: 'line', words: $t('marks.oneLine') },
            { value: 'lines', words: $t('marks.severalLines') },
          ]"
        />
      </template>
      <ChoiceCell
        v-if="!['tick', 'cross', 'strike'].includes(mark.kind)"
        :label="$t('blocks.stands')"
        :model-value="mark.align ?? 'start'"
        @update:model-value="mark.align = $event"
        :options="[
          { value: 'start', words: $t('blocks.start') },
          { value: 'center', words: $t('blocks.middle') },
          { value: 'end', words: $t('blocks.end') },
        ]"
      />
      <EachWords v-model="mark.each" />
      <template v-if="mark.each">
        <EntryCell
          :label="$t('marks.step')"
          mode="decimal"
          :model-value="mark.step ? String(mark.step) : ''"
          @update:model-value="setOr('step', $event)"
        />
        <EntryCell
          :label="$t('marks.most')"
          mode="numeric"
          :placeholder="$t('marks.asRoom')"
          :model-value="mark.most ? String(mark.most) : ''"
          @update:model-value="setOr('most', $event)"
        />
      </template>
    </SettingsGrid>
    <p class="text-[13px] text-soft">{{ $t('marks.howMoved') }}</p>
  </div>
</template>
