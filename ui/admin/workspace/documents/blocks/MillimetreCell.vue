<script setup lang="ts">
import EntryCell from '../../../parts/EntryCell.vue'

/** A length in millimetres; what is no length becomes the usual one. */
const length = defineModel<number | undefined>({ required: true })
const props = defineProps<{ label: string; usual: number }>()
function set(text: string) {
  const n = Number(text.replace(',', '.'))
  length.value = n > 0 ? n : props.usual
}
</script>

<template>
  <EntryCell
    :label="$t('blocks.mm', { label })"
    mode="decimal"
    :model-value="String(length ?? usual)"
    @update:model-value="set"
  />
</template>
