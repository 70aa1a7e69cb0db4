<script setup lang="ts" generic="T extends string | number">
import ListChoice, { type Option } from './ListChoice.vue'
import SettingCell from './SettingCell.vue'

/** A setting that is one of a few. */
const value = defineModel<T>({ required: true })
defineProps<{
  label: string
  options: Option<T>[]
  full?: boolean
  help?: string | undefined
  error?: string | undefined
  disabled?: boolean
}>()
</script>

<template>
  <SettingCell :label="label" :full="full ?? false" :error="error" :help="help">
    <ListChoice v-model="value" :label="label" :options="options" :disabled="disabled ?? false" />
  </SettingCell>
</template>
