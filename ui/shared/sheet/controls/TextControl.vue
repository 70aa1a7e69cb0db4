<script setup lang="ts">
import { computed, onBeforeUnmount, useTemplateRef, watchEffect } from 'vue'
import { fieldSettings } from '../../settings'
import type { Field } from '../../types'
import { useSheet, type ControlProps } from '../sheet'

/** Answers of one text: words, numbers, addresses, days and times. */
const props = defineProps<ControlProps>()
const model = defineModel<string>({ required: true })
const sheet = useSheet()
const root = useTemplateRef<HTMLInputElement>('root')

interface Input {
  type: string
  mode?: 'numeric' | 'decimal' | 'email' | 'tel' | 'url'
}
const inputs: Partial<Record<Field['kind'], Input>> = {
  email: { type: 'email', mode: 'email' },
  phone: { type: 'tel', mode: 'tel' },
  web_address: { type: 'url', mode: 'url' },
  date: { type: 'date' },
  time: { type: 'time' },
  date_time: { type: 'datetime-local' },
  whole_number: { type: 'text', mode: 'numeric' },
  decimal: { type: 'text', mode: 'decimal' },
  money: { type: 'text', mode: 'decimal' },
}
const own = computed(() => fieldSettings(props.field))
const input = computed<Input>(() => inputs[props.field.kind] ?? { type: 'text' })
// Only who answers can be filled in by the browser; what is asked about somebody else is left alone (WCAG 2.2, 1.3.5).
const fill = computed(() => sheet.fillOf(props.path) ?? undefined)
const short = computed(
  () => input.value.mode === 'numeric' || input.value.mode === 'decimal' || /^(date|time)/.test(input.value.type),
)
const suffix = computed(
  () => own.value.suffix ?? (props.field.kind === 'money' ? own.value.currency || sheet.currency : ''),
)
const limit = (s: string | undefined) => (short.value && !input.value.mode && s && !s.startsWith('@') ? s : undefined)

// The mask's library is fetched only where a field has one.
let unmask: (() => void) | undefined
watchEffect(async () => {
  const el = root.value
  const mask = own.value.mask
  unmask?.()
  unmask = undefined
  if (!el || !mask) return
  const { MaskInput } = await import('maska')
  const tokens = { '#': { pattern: /\d/ }, A: { pattern: /\p{L}/u }, '*': { pattern: /[\p{L}\d]/u } }
  const made = new MaskInput(el, { mask, tokens, tokensReplace: true })
  unmask = () => made.destroy()
})
onBeforeUnmount(() => unmask?.())
</script>

<template>
  <textarea
    v-if="field.kind === 'long_text'"
    :id="id"
    v-model="model"
    class="entry"
    rows="4"
    dir="auto"
    :placeholder="own.placeholder"
    :aria-describedby="described"
    :aria-invalid="invalid ? 'true' : undefined"
    :aria-required="required || undefined"
  ></textarea>
  <div v-else class="flex items-center gap-2">
    <span v-if="own.prefix" class="text-soft">{{ own.prefix }}</span>
    <input
      :id="id"
      ref="root"
      v-model="model"
      class="entry"
      :class="{ 'max-w-[220px]': short }"
      dir="auto"
      :type="input.type"
      :inputmode="input.mode"
      :autocomplete="fill"
      :placeholder="own.placeholder || own.mask"
      :min="limit(own.min)"
      :max="limit(own.max)"
      :aria-describedby="described"
      :aria-invalid="invalid ? 'true' : undefined"
      :aria-required="required || undefined"
    />
    <span v-if="suffix" class="text-soft">{{ suffix }}</span>
  </div>
</template>
