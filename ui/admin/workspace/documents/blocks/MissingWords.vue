<script setup lang="ts">
import { computed } from 'vue'

/** What stands in a block's place when there is nothing to print: room, nothing, or words. */
const missing = defineModel<string | undefined>({ required: true })
const props = defineProps<{ usual: 'space' | 'nothing' }>()
const how = computed(() => {
  const m = missing.value ?? props.usual
  return m === 'space' || m === 'nothing' ? m : 'words'
})
function set(to: string) {
  missing.value = to === 'words' ? 'There is none.' : to === props.usual ? undefined : to
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
      :value="missing"
      @change="missing = ($event.target as HTMLInputElement).value || 'There is none.'"
    />
  </label>
</template>
