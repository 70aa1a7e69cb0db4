<script setup lang="ts">
import { computed } from 'vue'
import { fieldSettings } from '../../settings'
import type { Choice, Field, Typed } from '../../types'
import { useSheet } from '../sheet'

/** One of several, several of several, yes or no, a rating; a long list of single choices folds into a menu. */
const props = defineProps<{
  field: Field
  id: string
  described?: string | undefined
  invalid: boolean
  required: boolean
}>()
const model = defineModel<Typed>({ required: true })
const sheet = useSheet()
const mostRadios = 12

const own = computed(() => fieldSettings(props.field))
const options = computed<Choice[]>(() => {
  switch (props.field.kind) {
    case 'yes_no':
      return [
        { value: 'yes', label: sheet.texts.yes },
        { value: 'no', label: sheet.texts.no },
      ]
    case 'rating': {
      const n = Math.min(own.value.scale || 5, 10)
      return Array.from({ length: n }, (_, i) => ({ value: String(i + 1), label: String(i + 1) }))
    }
    default:
      return own.value.choices ?? []
  }
})
const pictured = computed(() => props.field.kind === 'one_pictured')
const several = computed(() => props.field.kind === 'several_of')
const inLine = computed(() => props.field.kind === 'yes_no' || props.field.kind === 'rating')
const current = computed(() => (typeof model.value === 'boolean' ? (model.value ? 'yes' : 'no') : model.value))
const chosen = computed(() => (Array.isArray(model.value) ? (model.value as string[]) : []))

function pick(value: string) {
  model.value = props.field.kind === 'yes_no' ? value === 'yes' : value
}
function toggle(value: string, on: boolean) {
  model.value = on ? [...chosen.value, value] : chosen.value.filter((v) => v !== value)
}
</script>

<template>
  <select
    v-if="!several && !inLine && !pictured && options.length > mostRadios"
    class="entry max-w-[360px]"
    :value="current ?? ''"
    :aria-label="field.label"
    :aria-describedby="described"
    :aria-invalid="invalid ? 'true' : undefined"
    :aria-required="required || undefined"
    @change="pick(($event.target as HTMLSelectElement).value)"
  >
    <option value="">{{ sheet.texts.choose }}</option>
    <option v-for="c in options" :key="c.value" :value="c.value">{{ c.label }}</option>
  </select>
  <div v-else-if="pictured" class="grid grid-cols-2 gap-3 sm:grid-cols-3">
    <label
      v-for="c in options"
      :key="c.value"
      class="flex cursor-pointer flex-col border bg-white p-2"
      :class="[
        'focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-carbon',
        current === c.value ? 'border-ink outline outline-2 -outline-offset-2 outline-ink' : 'border-rule',
      ]"
    >
      <img
        v-if="c.picture"
        :src="sheet.pictureOf(c.picture)"
        alt=""
        class="mb-2 h-[110px] w-full object-contain"
        loading="lazy"
      />
      <span class="mt-auto flex items-center gap-2.5">
        <input
          type="radio"
          class="size-[18px] shrink-0 outline-none"
          :name="id"
          :value="c.value"
          :checked="current === c.value"
          :aria-describedby="described"
          :required="required"
          :aria-invalid="invalid ? 'true' : undefined"
          @change="pick(c.value)"
        />
        {{ c.label }}
      </span>
    </label>
  </div>
  <div v-else :class="inLine ? 'flex flex-wrap gap-x-6' : ''">
    <label v-for="c in options" :key="c.value" class="flex min-h-[32px] items-center gap-2.5">
      <input
        v-if="several"
        type="checkbox"
        class="size-[18px] shrink-0"
        :checked="chosen.includes(c.value)"
        :aria-describedby="described"
        :aria-invalid="invalid ? 'true' : undefined"
        @change="toggle(c.value, ($event.target as HTMLInputElement).checked)"
      />
      <input
        v-else
        type="radio"
        class="size-[18px] shrink-0"
        :name="id"
        :value="c.value"
        :checked="current === c.value"
        :aria-describedby="described"
        :required="required"
        :aria-invalid="invalid ? 'true' : undefined"
        @change="pick(c.value)"
      />
      {{ c.label }}
    </label>
  </div>
</template>
