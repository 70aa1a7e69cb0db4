<script setup lang="ts">
import { computed } from 'vue'
import type { Choice, Field, FieldKind } from '../../../shared/types'
import { fieldKinds } from '../kinds'
import { useKeyChange } from './keys'

/** A field's settings, inside its line. */
const field = defineModel<Field>({ required: true })
defineEmits<{ enter: [] }>()
const { rename } = useKeyChange()

const choices = computed({
  get: () => (field.value.choices ?? []).map((c) => c.label).join('\n'),
  set: (text: string) => {
    const before = field.value.choices ?? []
    const lines = text.split('\n')
    // A choice keeps its value while its words change, so that given answers keep their meaning.
    field.value.choices = lines.map((label, i): Choice => {
      const same = before.find((c) => c.label === label)
      if (same) return { ...same }
      const replaced = lines.length === before.length ? before[i] : undefined
      return { value: replaced?.value || valueOf(label, i), label }
    })
  },
})
function valueOf(label: string, i: number) {
  const plain = label
    .normalize('NFD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '')
  return plain || `choice_${i + 1}`
}
function setKind(kind: FieldKind) {
  field.value.kind = kind
  if ((kind === 'one_of' || kind === 'several_of') && !field.value.choices?.length) {
    field.value.choices = [
      { value: 'first', label: 'First' },
      { value: 'second', label: 'Second' },
    ]
  }
  if (kind !== 'one_of' && kind !== 'several_of') delete field.value.choices
  if (kind === 'section') delete field.value.required
}
</script>

<template>
  <div class="grid gap-3">
    <input
      v-model="field.label"
      class="entry"
      aria-label="Label"
      placeholder="The question as people read it"
      @keydown.enter.prevent="$emit('enter')"
    />
    <div class="words">
      <label>
        kind
        <select
          class="word"
          data-kind
          :value="field.kind"
          @change="setKind(($event.target as HTMLSelectElement).value as FieldKind)"
        >
          <option v-for="(name, k) in fieldKinds" :key="k" :value="k">{{ name }}</option>
        </select>
      </label>
      <label v-if="field.kind !== 'section'">
        required
        <select
          class="word"
          :value="field.required ? 'yes' : 'no'"
          @change="field.required = ($event.target as HTMLSelectElement).value === 'yes'"
        >
          <option>no</option>
          <option>yes</option>
        </select>
      </label>
      <label>
        key
        <input
          class="word w-[140px] font-mono text-[13px]"
          :value="field.key"
          spellcheck="false"
          @change="rename(field, ($event.target as HTMLInputElement).value)"
        />
      </label>
    </div>
    <label v-if="field.kind !== 'section'" class="text-soft">
      help under the label
      <input v-model="field.help" class="word w-full text-ink" placeholder="none" />
    </label>
    <label v-if="field.choices" class="text-soft">
      choices, one a line
      <textarea
        v-model="choices"
        class="entry mt-1"
        :rows="Math.min(Math.max(field.choices.length + 1, 3), 9)"
      ></textarea>
    </label>
  </div>
</template>
