<script setup lang="ts">
import { computed } from 'vue'
import type { Field, Typed } from '../types'

const props = defineProps<{ field: Field; error?: string; currency: string; prefix?: string }>()
const model = defineModel<Typed>({ required: true })

const id = computed(() => `${props.prefix ?? ''}${props.field.key}`)
const described = computed(
  () =>
    [props.field.help ? `${id.value}-help` : '', props.error ? `${id.value}-error` : ''].join(' ').trim() || undefined,
)
const text = computed({
  get: () => (typeof model.value === 'string' ? model.value : ''),
  set: (v: string) => (model.value = v),
})
const chosen = computed(() => (Array.isArray(model.value) ? model.value : []))

const inputs: Partial<
  Record<Field['kind'], { type: string; mode?: 'numeric' | 'decimal' | 'email' | 'tel'; fill?: string }>
> = {
  email: { type: 'email', mode: 'email', fill: 'email' },
  phone: { type: 'tel', mode: 'tel', fill: 'tel' },
  date: { type: 'date' },
  whole_number: { type: 'text', mode: 'numeric' },
  decimal: { type: 'text', mode: 'decimal' },
  money: { type: 'text', mode: 'decimal' },
}
const input = computed(() => inputs[props.field.kind] ?? { type: 'text' })
const grouped = computed(() => props.field.kind === 'one_of' || props.field.kind === 'several_of')

function toggle(value: string, on: boolean) {
  model.value = on ? [...chosen.value, value] : chosen.value.filter((v) => v !== value)
}
</script>

<template>
  <fieldset v-if="grouped" :id="id" class="min-w-0" :aria-describedby="described" tabindex="-1">
    <legend class="mb-1 font-semibold">
      {{ field.label }} <span v-if="!field.required" class="font-normal text-soft">(optional)</span>
    </legend>
    <p v-if="field.help" :id="`${id}-help`" class="mb-1 text-soft">{{ field.help }}</p>
    <label v-for="c in field.choices ?? []" :key="c.value" class="flex min-h-[32px] items-center gap-2.5">
      <input
        v-if="field.kind === 'one_of'"
        type="radio"
        class="size-[18px]"
        :name="id"
        :value="c.value"
        :checked="model === c.value"
        :aria-invalid="error ? 'true' : undefined"
        @change="model = c.value"
      />
      <input
        v-else
        type="checkbox"
        class="size-[18px]"
        :checked="chosen.includes(c.value)"
        @change="toggle(c.value, ($event.target as HTMLInputElement).checked)"
      />
      {{ c.label }}
    </label>
    <p v-if="error" :id="`${id}-error`" class="mt-1 font-semibold text-madder">✕ {{ error }}</p>
  </fieldset>

  <div v-else-if="field.kind === 'yes_no'">
    <label class="flex min-h-[32px] items-start gap-2.5">
      <input
        :id="id"
        type="checkbox"
        class="mt-0.5 size-[18px] shrink-0"
        :checked="model === true"
        :aria-describedby="described"
        :aria-invalid="error ? 'true' : undefined"
        @change="model = ($event.target as HTMLInputElement).checked"
      />
      <span class="font-semibold">
        {{ field.label }} <span v-if="!field.required" class="font-normal text-soft">(optional)</span>
      </span>
    </label>
    <p v-if="field.help" :id="`${id}-help`" class="text-soft">{{ field.help }}</p>
    <p v-if="error" :id="`${id}-error`" class="mt-1 font-semibold text-madder">✕ {{ error }}</p>
  </div>

  <div v-else>
    <label :for="id" class="mb-1 block font-semibold">
      {{ field.label }} <span v-if="!field.required" class="font-normal text-soft">(optional)</span>
    </label>
    <p v-if="field.help" :id="`${id}-help`" class="mb-1 text-soft">{{ field.help }}</p>
    <textarea
      v-if="field.kind === 'long_text'"
      :id="id"
      v-model="text"
      class="entry"
      rows="4"
      :aria-describedby="described"
      :aria-invalid="error ? 'true' : undefined"
    ></textarea>
    <div v-else class="flex items-center gap-2">
      <input
        :id="id"
        v-model="text"
        class="entry"
        :class="{ 'max-w-[220px]': field.kind === 'date' || input.mode === 'numeric' || input.mode === 'decimal' }"
        :type="input.type"
        :inputmode="input.mode"
        :autocomplete="input.fill"
        :aria-describedby="described"
        :aria-invalid="error ? 'true' : undefined"
        :aria-required="field.required || undefined"
      />
      <span v-if="field.kind === 'money'" class="text-soft">{{ currency }}</span>
    </div>
    <p v-if="error" :id="`${id}-error`" class="mt-1 font-semibold text-madder">✕ {{ error }}</p>
  </div>
</template>
