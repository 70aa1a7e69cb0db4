<script setup lang="ts">
import { useId } from 'vue'
import SettingCell from './SettingCell.vue'

/** A setting that is typed on one line, kept when it is left or Enter is pressed. */
const value = defineModel<string>({ required: true })
defineProps<{
  label: string
  full?: boolean
  placeholder?: string | undefined
  type?: string
  mode?: 'numeric' | 'decimal' | undefined
  mono?: boolean
  error?: string | undefined
  help?: string | undefined
  /** Every letter is told at once. */
  live?: boolean
}>()
const id = useId()
</script>

<template>
  <SettingCell :label="label" :full="full ?? false" :error="error" :help="help" :of="id">
    <input
      :id="id"
      class="entry min-h-[34px] w-full"
      :class="{ 'font-mono text-[13px]': mono }"
      :type="type ?? 'text'"
      :inputmode="mode"
      :placeholder="placeholder"
      :value="value"
      :spellcheck="mono ? 'false' : undefined"
      :aria-invalid="error ? 'true' : undefined"
      @input="live && (value = ($event.target as HTMLInputElement).value)"
      @change="value = ($event.target as HTMLInputElement).value"
    />
  </SettingCell>
</template>
