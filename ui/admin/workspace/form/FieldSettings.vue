<script setup lang="ts">
import { computed, useId } from 'vue'
import { calculates, fieldKindOrder, fieldSettingNames } from '../../../shared/kinds.gen'
import { fieldSettings } from '../../../shared/settings'
import type { Choice, Field, FieldKind } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import ComboChoice from '../../parts/ComboChoice.vue'
import EntryCell from '../../parts/EntryCell.vue'
import PictureChooser from '../../parts/PictureChooser.vue'
import SettingCell from '../../parts/SettingCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import FormulaLine from '../formula/FormulaLine.vue'
import { asks, choosy, fieldKinds } from '../kinds'
import { plainName } from '../names'
import ChoicePictures from './ChoicePictures.vue'
import MoreFieldSettings from './MoreFieldSettings.vue'
import { canBegin } from './settings'
import { t } from '../../words'

/** A field's settings, inside its line. */
const props = defineProps<{ rows: string; clash?: string | undefined }>()
const field = defineModel<Field>({ required: true })
const emit = defineEmits<{ enter: []; rename: [key: string] }>()

const labelId = useId()
const choicesId = useId()
const sources = [
  { value: 'asked', words: t('form.asked') },
  { value: 'calculated', words: t('form.calculated') },
]
const requirements = [
  { value: 'no', words: t('form.no') },
  { value: 'yes', words: t('form.yes') },
  { value: 'when', words: t('form.when') },
]
const own = computed(() => fieldSettings(field.value))
const choices = computed({
  get: () => (own.value.choices ?? []).map((c) => c.label).join('\n'),
  set: (text: string) => {
    const before = own.value.choices ?? []
    const lines = text.split('\n')
    // A choice keeps its value while its words change, so that given answers keep their meaning.
    own.value.choices = lines.map((label, i): Choice => {
      const same = before.find((c) => c.label === label)
      if (same) return { ...same }
      const replaced = lines.length === before.length ? before[i] : undefined
      return { ...replaced, value: replaced?.value || plainName(label, `choice_${i + 1}`), label }
    })
  },
})
/** Another kind keeps what it has of the settings; the others would lie hidden in the file. */
function setKind(kind: FieldKind) {
  const f = field.value
  const kept = Object.entries(own.value).filter(([name]) => fieldSettingNames[kind].includes(name as 'min'))
  Reflect.deleteProperty(f, f.kind)
  f.kind = kind
  const next = fieldSettings(f)
  Object.assign(next, Object.fromEntries(kept))
  if (choosy(kind) && !next.choices?.length) {
    next.choices = [
      { value: 'first', label: t('form.first') },
      { value: 'second', label: t('form.second') },
    ]
  }
  if (kind === 'rows') next.fields ??= []
  if (!asks(kind)) {
    delete f.required
    delete f.requiredWhen
  }
  if (!calculates[kind]) delete f.formula
  if (!canBegin(kind)) delete f.default
}

const required = computed(() => (field.value.required ? 'yes' : field.value.requiredWhen !== undefined ? 'when' : 'no'))
function setRequired(how: string) {
  delete field.value.required
  delete field.value.requiredWhen
  if (how === 'yes') field.value.required = true
  if (how === 'when') field.value.requiredWhen = '?' // not chosen yet: the sentence asks for it
}
function setSource(how: string) {
  if (how === 'asked') delete field.value.formula
  else field.value.formula = ''
}
const put = (text: string) => {
  if (text) field.value.help = text
  else delete field.value.help
}
const kinds = computed(() =>
  fieldKindOrder
    .filter((k) => !props.rows || (asks(k) && k !== 'rows'))
    .map((k) => ({ value: k as string, words: fieldKinds[k] })),
)
const requiredWhen = computed({
  get: () => field.value.requiredWhen,
  set: (v) => (v === undefined ? delete field.value.requiredWhen : (field.value.requiredWhen = v)),
})
</script>

<template>
  <div class="grid gap-3">
    <SettingsGrid>
      <SettingCell v-if="field.kind === 'text'" :label="$t('form.wordsBetweenQuestions')" full :of="labelId">
        <textarea :id="labelId" v-model="field.label" class="entry" rows="3"></textarea>
      </SettingCell>
      <SettingCell v-else :label="$t('form.question')" :of="labelId">
        <input
          :id="labelId"
          v-model="field.label"
          class="entry min-h-[34px]"
          :placeholder="$t('form.asPeopleRead')"
          @keydown.enter.prevent="emit('enter')"
        />
      </SettingCell>
      <SettingCell :label="$t('form.kind')">
        <ComboChoice
          data-kind
          :label="$t('form.kind')"
          :options="kinds"
          :model-value="field.kind"
          @update:model-value="setKind($event as FieldKind)"
        />
      </SettingCell>
      <ChoiceCell
        v-if="calculates[field.kind]"
        :label="$t('form.askedCalculated')"
        :options="sources"
        :model-value="field.formula === undefined ? 'asked' : 'calculated'"
        @update:model-value="setSource"
      />
      <ChoiceCell
        v-if="asks(field.kind) && field.kind !== 'hidden' && field.formula === undefined"
        :label="$t('form.required')"
        :options="requirements"
        :model-value="required"
        @update:model-value="setRequired"
      />
    </SettingsGrid>
    <FormulaLine
      v-if="field.formula !== undefined"
      v-model="field.formula"
      :label="$t('form.formula')"
      :rows="rows"
      placeholder="sum(lines.amount)"
    />
    <ConditionWords v-if="required === 'when'" v-model="requiredWhen" :verb="$t('form.required2')" :rows="rows" />
    <SettingsGrid>
      <SettingCell v-if="choosy(field.kind)" :label="$t('form.choicesOneLine')" full :of="choicesId">
        <textarea
          :id="choicesId"
          v-model="choices"
          class="entry"
          :rows="Math.min(Math.max((own.choices?.length ?? 0) + 1, 3), 9)"
        ></textarea>
      </SettingCell>
      <SettingCell v-if="field.kind === 'one_pictured'" :label="$t('form.theirPictures')" full>
        <ChoicePictures :model-value="own.choices ?? []" @update:model-value="own.choices = $event" />
      </SettingCell>
      <SettingCell v-if="field.kind === 'picture'" :label="$t('form.picture2')" full
        ><PictureChooser v-model="own.picture"
      /></SettingCell>
      <EntryCell
        v-if="asks(field.kind)"
        :label="$t('form.helpUnderQuestion')"
        full
        live
        :model-value="field.help ?? ''"
        @update:model-value="put"
      />
    </SettingsGrid>
    <MoreFieldSettings v-model="field" :rows="rows" :clash="clash" @rename="emit('rename', $event)" />
  </div>
</template>
