<script setup lang="ts">
import { computed } from 'vue'
import { partsOf } from '../../parts'
import { useSheet, type ControlProps } from '../sheet'

/** A name or a postal address in its parts. */
const props = defineProps<ControlProps>()
const model = defineModel<Record<string, string>>({ required: true })
const sheet = useSheet()

const fills: Record<string, string> = {
  title: 'honorific-prefix',
  given: 'given-name',
  middle: 'additional-name',
  family: 'family-name',
  suffix: 'honorific-suffix',
  street: 'address-line1',
  extra: 'address-line2',
  postcode: 'postal-code',
  city: 'address-level2',
  region: 'address-level1',
  country: 'country-name',
}
const needed = ['given', 'family', 'street', 'postcode', 'city']
const widths: Record<string, string> = {
  street: 'sm:col-span-6',
  extra: 'sm:col-span-6',
  postcode: 'sm:col-span-2',
  city: 'sm:col-span-4',
  title: 'sm:col-span-2',
  suffix: 'sm:col-span-2',
}
const parts = computed(() => partsOf(props.field))
</script>

<template>
  <div class="grid grid-cols-1 gap-x-4 gap-y-2 sm:grid-cols-6">
    <label v-for="(part, i) in parts" :key="part" class="block" :class="widths[part] ?? 'sm:col-span-3'">
      <span class="block text-soft" :lang="sheet.ours || undefined">{{ sheet.texts.parts[part] }}</span>
      <input
        :id="i === 0 ? `${id}-first` : undefined"
        class="entry"
        dir="auto"
        :value="model[part] ?? ''"
        :autocomplete="sheet.fillOf(path) === 'off' ? 'off' : fills[part]"
        :aria-required="(required && needed.includes(part)) || undefined"
        :aria-describedby="described"
        :aria-invalid="invalid ? 'true' : undefined"
        @input="model = { ...model, [part]: ($event.target as HTMLInputElement).value }"
      />
    </label>
  </div>
</template>
