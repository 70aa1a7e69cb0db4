<script setup lang="ts" generic="T extends string | number">
import ListChoice, { type Option } from './ListChoice.vue'
import SettingCell from './SettingCell.vue'

/** A setting that is one of a few. */
defineProps<{
  modelValue: T | undefined
  label: string
  options: Option<T>[]
  full?: boolean
  help?: string | undefined
  error?: string | undefined
  disabled?: boolean
}>()
defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
  <SettingCell :label="label" :full="full ?? false" :error="error" :help="help">
    <ListChoice
      :model-value="modelValue"
      :label="label"
      :options="options"
      :disabled="disabled ?? false"
      @update:model-value="$emit('update:modelValue', $event)"
    />
  </SettingCell>
</template>
