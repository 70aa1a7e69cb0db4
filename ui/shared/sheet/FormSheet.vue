<script setup lang="ts">
import { fieldSettings } from '../settings'
import type { Field, Typed } from '../types'
import FieldControl from './FieldControl.vue'
import { emptyAnswer, useSheet } from './sheet'

/** Fields as a respondent sees them. In a proof a click names the field, and one can be marked. */
const props = defineProps<{ fields: Field[]; at?: string; marked?: string | undefined; proof?: boolean }>()
const emit = defineEmits<{ pick: [name: string]; touch: [path: string] }>()
const answers = defineModel<Record<string, Typed>>({ required: true })
const sheet = useSheet()

const path = (f: Field) => (props.at ?? '') + f.key
const name = (f: Field) => path(f).replace(/\/\d+\//, '.')
const widths: Record<string, string> = { half: 'sm:col-span-3', third: 'sm:col-span-2' }

function set(f: Field, value: Typed) {
  answers.value = { ...answers.value, [f.key]: value }
  emit('touch', path(f))
}
const hidden = (f: Field) => f.kind === 'hidden' || !sheet.shows(path(f))
</script>

<template>
  <div class="grid grid-cols-1 gap-x-5 gap-y-5 sm:grid-cols-6">
    <template v-for="(field, i) in fields" :key="field.key + i">
      <div
        v-if="!hidden(field) || (proof && field.kind === 'hidden')"
        :data-field="name(field)"
        class="min-w-0 sm:col-span-6"
        :class="[
          widths[field.width ?? ''],
          {
            'cursor-pointer outline outline-1 outline-offset-4 outline-transparent hover:outline-edge': proof,
            '!outline-2 !outline-amber': proof && marked === name(field),
          },
        ]"
        @click.stop="emit('pick', name(field))"
        @focusin.stop="emit('pick', name(field))"
      >
        <h2 v-if="field.kind === 'section'" class="mt-3 border-b border-rule pb-1 text-[17px]">{{ field.label }}</h2>
        <p v-else-if="field.kind === 'text'" class="whitespace-pre-line">{{ field.label }}</p>
        <img
          v-else-if="field.kind === 'picture' && fieldSettings(field).picture"
          :src="sheet.pictureOf(fieldSettings(field).picture!)"
          :alt="field.label"
          class="max-h-[320px] max-w-full"
        />
        <p v-else-if="field.kind === 'hidden' || field.kind === 'picture'" class="text-soft">
          {{ field.label || field.key }} ·
          {{ field.kind === 'hidden' ? 'hidden from respondents' : 'no picture chosen' }}
        </p>
        <h2 v-else-if="field.kind === 'page'" class="mt-6 border-t-2 border-ink pt-2 text-[19px]">{{ field.label }}</h2>
        <FieldControl
          v-else
          :field="field"
          :path="path(field)"
          :model-value="answers[field.key] ?? emptyAnswer(field)"
          :proof="proof ?? false"
          :marked="marked"
          @update:model-value="set(field, $event)"
          @pick="emit('pick', $event)"
          @touch="emit('touch', $event)"
        />
      </div>
    </template>
  </div>
</template>
