<script setup lang="ts">
import { computed, useId } from 'vue'
import { calculates, fieldSettingNames } from '../../../shared/kinds.gen'
import { fieldSettings } from '../../../shared/settings'
import type { Choice, Field, FieldKind } from '../../../shared/types'
import PictureChooser from '../../parts/PictureChooser.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import FormulaLine from '../formula/FormulaLine.vue'
import { asks, choosy, fieldKinds } from '../kinds'
import { plainName } from '../names'
import ChoicePictures from './ChoicePictures.vue'
import DefaultWords from './DefaultWords.vue'
import { canBegin, canBeUnique, fillable, parts, settingsOf, type Setting } from './settings'

/** A field's settings, inside its line. */
const props = defineProps<{ rows: string; clash?: string }>()
const field = defineModel<Field>({ required: true })
const emit = defineEmits<{ enter: []; rename: [key: string] }>()

const clashId = useId()
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
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value

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
      { value: 'first', label: 'First' },
      { value: 'second', label: 'Second' },
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
function set(s: Setting, text: string) {
  const f = own.value as Record<string, unknown>
  const v = s.number ? Number.parseInt(text, 10) || undefined : text || undefined
  if (v === undefined) Reflect.deleteProperty(f, s.key)
  else f[s.key] = v
}
function put(key: 'help' | 'message', text: string) {
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
const kinds = computed(() =>
  Object.entries(fieldKinds).filter(([k]) => !props.rows || (asks(k as FieldKind) && k !== 'rows')),
)
const condition = computed({
  get: () => field.value.when,
  set: (v) => (v === undefined ? delete field.value.when : (field.value.when = v)),
})
const requiredWhen = computed({
  get: () => field.value.requiredWhen,
  set: (v) => (v === undefined ? delete field.value.requiredWhen : (field.value.requiredWhen = v)),
})
</script>

<template>
  <div class="grid gap-3">
    <textarea
      v-if="field.kind === 'text'"
      v-model="field.label"
      class="entry"
      rows="3"
      aria-label="Label"
      placeholder="Words between the questions"
    ></textarea>
    <input
      v-else
      v-model="field.label"
      class="entry"
      aria-label="Label"
      placeholder="The question as people read it"
      @keydown.enter.prevent="emit('enter')"
    />
    <div class="words">
      <label>
        kind
        <select class="word" data-kind :value="field.kind" @change="setKind(val($event) as FieldKind)">
          <option v-for="[k, name] in kinds" :key="k" :value="k">{{ name }}</option>
        </select>
      </label>
      <label v-if="calculates[field.kind]">
        <select
          class="word"
          aria-label="asked or calculated"
          :value="field.formula === undefined ? 'asked' : 'calculated'"
          @change="setSource(val($event))"
        >
          <option>asked</option>
          <option>calculated</option>
        </select>
      </label>
      <label v-if="asks(field.kind) && field.kind !== 'hidden' && field.formula === undefined">
        required
        <select class="word" :value="required" @change="setRequired(val($event))">
          <option>no</option>
          <option>yes</option>
          <option>when</option>
        </select>
      </label>
      <label>
        key
        <input
          :key="clash"
          class="word w-[140px] font-mono text-[13px]"
          :value="field.key"
          spellcheck="false"
          :aria-invalid="clash ? 'true' : undefined"
          :aria-describedby="clash ? clashId : undefined"
          @change="emit('rename', val($event))"
        />
      </label>
      <p v-if="clash" :id="clashId" role="alert" class="font-semibold text-madder">
        ✕ {{ clash }} The key is “{{ field.key }}” as before.
      </p>
      <label v-if="fillable(field.kind) && field.formula === undefined">
        about
        <select
          class="word"
          :value="own.about ?? ''"
          @change="val($event) ? (own.about = val($event) as 'self') : delete own.about"
        >
          <option value="">whom the words say</option>
          <option value="self">who answers</option>
          <option value="other">somebody else</option>
        </select>
      </label>
      <label v-if="!rows && asks(field.kind) && field.kind !== 'hidden' && field.kind !== 'rows'">
        width
        <select
          class="word"
          :value="field.width ?? 'full'"
          @change="val($event) === 'full' ? delete field.width : (field.width = val($event) as 'half' | 'third')"
        >
          <option>full</option>
          <option>half</option>
          <option>third</option>
        </select>
      </label>
    </div>
    <FormulaLine
      v-if="field.formula !== undefined"
      v-model="field.formula"
      label="Formula"
      :rows="rows"
      placeholder="sum(lines.amount)"
    />
    <div class="words">
      <ConditionWords v-model="condition" verb="shown" :rows="rows" />
      <ConditionWords v-if="required === 'when'" v-model="requiredWhen" verb="required" :rows="rows" />
    </div>
    <label v-if="choosy(field.kind)" class="text-soft">
      choices, one a line
      <textarea
        v-model="choices"
        class="entry mt-1"
        :rows="Math.min(Math.max((own.choices?.length ?? 0) + 1, 3), 9)"
      ></textarea>
    </label>
    <ChoicePictures
      v-if="field.kind === 'one_pictured'"
      :model-value="own.choices ?? []"
      @update:model-value="own.choices = $event"
    />
    <PictureChooser v-if="field.kind === 'picture'" v-model="own.picture" />
    <div v-if="partKind" class="words">
      <span>asks for</span>
      <label v-for="p in partKind.all" :key="p" class="flex items-center gap-1">
        <input type="checkbox" :checked="asked.includes(p)" @change="togglePart(p)" /> {{ p }}
      </label>
    </div>
    <div v-if="asks(field.kind)" class="words">
      <DefaultWords v-if="canBegin(field.kind) && field.formula === undefined" :model-value="field" />
      <label v-for="s in offered" :key="s.key">
        {{ s.words }}
        <input
          class="word w-[104px]"
          :inputmode="s.number ? 'numeric' : undefined"
          :placeholder="s.placeholder ?? 'none'"
          :value="own[s.key] ?? ''"
          @change="set(s, val($event))"
        />
      </label>
      <label v-if="fieldSettingNames[field.kind].includes('accept')">
        kinds of file
        <input
          class="word w-[140px]"
          placeholder="any; or pdf, docx"
          :value="own.accept?.join(', ') ?? ''"
          @change="
            own.accept = val($event)
              .toLowerCase()
              .split(/[\s,.]+/)
              .filter(Boolean)
          "
        />
      </label>
      <label v-if="canBeUnique(field.kind) && !rows && field.formula === undefined" class="flex items-center gap-1">
        <input
          type="checkbox"
          :checked="field.unique ?? false"
          @change="field.unique ? delete field.unique : (field.unique = true)"
        />
        unlike any other submission’s
      </label>
    </div>
    <label v-if="asks(field.kind)" class="text-soft">
      help under the label
      <input
        class="word w-full text-ink"
        placeholder="none"
        :value="field.help ?? ''"
        @input="put('help', val($event))"
      />
    </label>
    <label v-if="asks(field.kind) && field.formula === undefined" class="text-soft">
      said when an answer does not fit
      <input
        class="word w-full text-ink"
        placeholder="our own words"
        :value="field.message ?? ''"
        @input="put('message', val($event))"
      />
    </label>
  </div>
</template>
