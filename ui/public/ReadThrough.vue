<script setup lang="ts">
import { computed } from 'vue'
import type { Field, Form, Typed } from '../shared/types'

const props = defineProps<{
  form: Form
  answers: Record<string, Typed>
  language: string
  problem: string
  sending: boolean
}>()
defineEmits<{ back: []; send: [] }>()

/** The fields under the headings of their sections. */
const parts = computed(() => {
  const out: { title: string; fields: Field[] }[] = [{ title: '', fields: [] }]
  for (const f of props.form.fields) {
    if (f.kind === 'section') out.push({ title: f.label, fields: [] })
    else out.at(-1)!.fields.push(f)
  }
  return out.filter((p) => p.fields.length)
})

function words(f: Field): string {
  const v = props.answers[f.key]
  if (v === true) return 'Yes'
  if (f.kind === 'yes_no') return 'No'
  const label = (value: string) => f.choices?.find((c) => c.value === value)?.label ?? value
  if (f.kind === 'date' && v) {
    return new Intl.DateTimeFormat(props.language, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(v as string))
  }
  if (Array.isArray(v)) return v.map(label).join(', ') || '–'
  return v ? label(v as string) : '–'
}
</script>

<template>
  <template v-for="(part, n) in parts" :key="n">
    <h2 v-if="part.title" class="mt-6 mb-1 text-[17px]">{{ part.title }}</h2>
    <dl>
      <div v-for="f in part.fields" :key="f.key" class="border-b border-faint py-2 sm:flex sm:gap-4">
        <dt class="text-soft sm:w-2/5">{{ f.label }}</dt>
        <dd class="whitespace-pre-line [overflow-wrap:anywhere] sm:w-3/5" dir="auto">{{ words(f) }}</dd>
      </div>
    </dl>
  </template>
  <p v-if="problem" role="alert" class="mt-6 border-2 border-madder px-4 py-3 font-semibold">✕ {{ problem }}</p>
  <div class="mt-6 flex flex-wrap gap-3">
    <button class="button button-main min-h-[44px] px-6" :disabled="sending" @click="$emit('send')">
      {{ sending ? 'Sending' : 'Send it' }}
    </button>
    <button class="button min-h-[44px] px-6" :disabled="sending" @click="$emit('back')">Change something</button>
  </div>
</template>
