<script setup lang="ts">
import { chosenFile } from '../api'

/** A file from this device: the one native file input of the workshop, behind a button in our own words. */
defineProps<{ label: string; says?: string; accept?: string; busy?: boolean; plain?: boolean }>()
const emit = defineEmits<{ file: [file: File] }>()
function take(e: Event) {
  const file = chosenFile(e)
  if (file) emit('file', file)
}
</script>

<template>
  <label
    :class="plain ? 'link' : 'button'"
    class="cursor-pointer focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-carbon"
  >
    {{ label }}
    <input type="file" class="sr-only" :aria-label="says" :accept="accept" :disabled="busy ?? false" @change="take" />
  </label>
</template>
