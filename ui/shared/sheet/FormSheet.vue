<script setup lang="ts">
import type { Form, Typed } from '../types'
import FieldControl from './FieldControl.vue'

/** The fields as a respondent sees them. In a proof a click names the field, and one can be marked. */
defineProps<{
  form: Form
  errors: Record<string, string>
  currency: string
  prefix?: string
  marked?: string | undefined
  proof?: boolean
}>()
const emit = defineEmits<{ pick: [key: string]; touch: [key: string] }>()
const answers = defineModel<Record<string, Typed>>({ required: true })

function set(key: string, value: Typed) {
  answers.value = { ...answers.value, [key]: value }
  emit('touch', key)
}
</script>

<template>
  <p v-if="form.intro" class="mb-6 whitespace-pre-line">{{ form.intro }}</p>
  <div
    v-for="(field, i) in form.fields"
    :key="field.key + i"
    :data-field="field.key"
    class="mb-5"
    :class="{
      'cursor-pointer outline outline-1 outline-offset-4 outline-transparent hover:outline-edge': proof,
      '!outline-2 !outline-amber': proof && marked === field.key,
    }"
    @click="emit('pick', field.key)"
    @focusin="emit('pick', field.key)"
  >
    <h2 v-if="field.kind === 'section'" class="mt-8 border-b border-rule pb-1 text-[17px]">{{ field.label }}</h2>
    <FieldControl
      v-else
      :field="field"
      :error="errors[field.key] ?? ''"
      :currency="currency"
      :prefix="prefix ?? ''"
      :model-value="answers[field.key] ?? (field.kind === 'yes_no' ? false : field.kind === 'several_of' ? [] : '')"
      @update:model-value="set(field.key, $event)"
    />
  </div>
</template>
