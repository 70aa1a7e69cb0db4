<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'

/** What stands in a block's place when there is nothing to print: room, nothing, or words. */
const missing = defineModel<BlockSettings['missing'] | undefined>({ required: true })
const props = defineProps<{ usual: 'space' | 'nothing' }>()
const usualWords = 'There is none.'
const how = computed(() => (missing.value?.words ? 'words' : (missing.value?.leave ?? props.usual)))
function set(to: string) {
  if (to === 'words') missing.value = { words: usualWords }
  else missing.value = to === props.usual ? undefined : { leave: to as 'space' }
}
</script>

<template>
  <label>
    when it is missing
    <select class="word" :value="how" @change="set(($event.target as HTMLSelectElement).value)">
      <option value="space">leave space</option>
      <option value="nothing">leave nothing</option>
      <option value="words">print words</option>
    </select>
    <input
      v-if="how === 'words'"
      class="word w-[160px]"
      aria-label="Words where it is missing"
      :value="missing?.words"
      @change="missing = { words: ($event.target as HTMLInputElement).value || usualWords }"
    />
  </label>
</template>
