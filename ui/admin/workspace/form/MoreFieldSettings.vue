<script setup lang="ts">
import { computed } from 'vue'
import { fieldSettingNames } from '../../../shared/kinds.gen'
import { fieldSettings } from '../../../shared/settings'
import type { Field } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import FoldAway from '../../parts/FoldAway.vue'
import OnSwitch from '../../parts/OnSwitch.vue'
import SettingCell from '../../parts/SettingCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import { asks } from '../kinds'
import DefaultCells from './DefaultCells.vue'
import { canBegin, canBeUnique, fillable, parts, settingsOf, type Setting } from './settings'
import { t } from '../../words'

/** What a field has besides the common settings: limits, how it begins, when it shows, its key. */
const props = defineProps<{ rows: string; clash?: string | undefined }>()
const field = defineModel<Field>({ required: true })
const emit = defineEmits<{ rename: [key: string] }>()
const own = computed(() => fieldSettings(field.value))
const calculated = computed(() => field.value.formula !== undefined)

function set(s: Setting, text: string) {
  const f = own.value as Record<string, unknown>
  const v = s.number ? Number.parseInt(text, 10) || undefined : text || undefined
  if (v === undefined) Reflect.deleteProperty(f, s.key)
  else f[s.key] = v
}
function put(key: 'message', text: string) {
  if (text) field.value[key] = text
  else Reflect.deleteProperty(field.value, key)
}
const partKind = computed(() =>
  field.value.kind === 'name' || field.value.kind === 'address' ? parts[field.value.kind] : undefined,
)
const asked = computed(() => (own.value.parts?.length ? own.value.parts : (partKind.value?.usual ?? [])))
function togglePart(part: string) {
  const now = asked.value.includes(part) ? asked.value.filter((p) => p !== part) : [...asked.value, part]
  own.value.parts = partKind.value!.all.filter((p) => now.includes(p))
}
// A calculated field has no answer to be held within limits.
const offered = computed(() =>
  settingsOf(field.value.kind).filter(
    (s) => field.value.formula === undefined || ['prefix', 'suffix', 'currency'].includes(s.key),
  ),
)

const condition = computed({
  get: () => field.value.when,
  set: (v) => (v === undefined ? delete field.value.when : (field.value.when = v)),
})
const about = [
  { value: '', words: t('form.asWordsSay') },
  { value: 'self', words: t('form.respondents') },
  { value: 'other', words: t('form.somebodyElses') },
]
const widths = [
  { value: 'full', words: t('form.full') },
  { value: 'half', words: t('form.half') },
  { value: 'third', words: t('form.third') },
]
function setAbout(to: string) {
  if (to) own.value.about = to as 'self'
  else delete own.value.about
}
function setWidth(to: string) {
  if (to === 'full') delete field.value.width
  else field.value.width = to as 'half'
}
const unique = computed({
  get: () => field.value.unique ?? false,
  set: (on) => (on ? (field.value.unique = true) : delete field.value.unique),
})
const accept = (text: string) =>
  (own.value.accept = text
    .toLowerCase()
    .split(/[\s,.]+/)
    .filter(Boolean))
/** What lies folded away, in words. */
const inside = computed(() =>
  [
    ...offered.value.map((s) => s.words),
    canBegin(field.value.kind) && !calculated.value ? t('form.beginsAs') : '',
    fillable(field.value.kind) && !calculated.value ? t('form.whose') : '',
    t('form.shown'),
    asks(field.value.kind) && !props.rows ? 'width' : '',
    t('form.keyOf', { key: field.value.key }),
  ]
    .filter(Boolean)
    .join(', '),
)
</script>

<template>
  <FoldAway :label="$t('form.more')" :inside="inside" :open="!!clash || !!field.when">
    <div class="grid gap-3">
      <ConditionWords v-model="condition" :verb="$t('form.shown')" :rows="rows" />
      <SettingsGrid>
        <SettingCell v-if="partKind" :label="$t('form.asks')" full>
          <div class="flex flex-wrap gap-x-4 gap-y-1">
            <label v-for="p in partKind.all" :key="p" class="flex items-center gap-1.5">
              <input type="checkbox" :checked="asked.includes(p)" @change="togglePart(p)" /> {{ p }}
            </label>
          </div>
        </SettingCell>
        <EntryCell
          v-for="s in asks(field.kind) ? offered : []"
          :key="s.key"
          :label="s.words"
          :mode="s.number ? 'numeric' : undefined"
          :placeholder="s.placeholder ?? $t('form.none')"
          :model-value="String(own[s.key] ?? '')"
          @update:model-value="set(s, $event)"
        />
        <DefaultCells v-if="canBegin(field.kind) && !calculated" :model-value="field" />
        <EntryCell
          v-if="fieldSettingNames[field.kind].includes('accept')"
          :label="$t('form.kindsFile')"
          :placeholder="$t('form.anyPdfDocx')"
          :model-value="own.accept?.join(', ') ?? ''"
          @update:model-value="accept"
        />
        <ChoiceCell
          v-if="fillable(field.kind) && !calculated"
          :label="$t('form.whose2')"
          :options="about"
          :model-value="own.about ?? ''"
          @update:model-value="setAbout"
        />
        <ChoiceCell
          v-if="!rows && asks(field.kind) && field.kind !== 'hidden' && field.kind !== 'rows'"
          :label="$t('form.width')"
          :options="widths"
          :model-value="field.width ?? 'full'"
          @update:model-value="setWidth"
        />
        <EntryCell
          :key="clash"
          :label="$t('form.key')"
          mono
          :model-value="field.key"
          :error="clash ? $t('form.keyAsBefore', { clash, key: field.key }) : undefined"
          @update:model-value="emit('rename', $event)"
        />
        <EntryCell
          v-if="asks(field.kind) && !calculated"
          :label="$t('form.saidWhenAnswerDoesNot')"
          :placeholder="$t('form.ourOwnWords')"
          full
          :model-value="field.message ?? ''"
          @update:model-value="put('message', $event)"
        />
        <SettingCell v-if="canBeUnique(field.kind) && !rows && !calculated" :label="$t('form.onlyOnce')" full>
          <OnSwitch v-model="unique" :label="$t('form.unlikeAnswerAnyOtherSubmission')" />
        </SettingCell>
      </SettingsGrid>
    </div>
  </FoldAway>
</template>
