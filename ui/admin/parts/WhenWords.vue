<script setup lang="ts">
import { computed } from 'vue'

/** “shown always” or “shown when …”, with a formula behind it. */
defineProps<{ verb: string }>()
const when = defineModel<string | undefined>()
const always = computed(() => when.value === undefined)
</script>

<template>
  <span>
    {{ verb }}
    <select
      class="word"
      :value="always ? 'always' : 'when'"
      :aria-label="`${verb} always or when`"
      @change="when = always ? '' : undefined"
    >
      <option>always</option>
      <option>when</option>
    </select>
    <input
      v-if="!always"
      v-model="when"
      class="word ml-1 w-[200px] font-mono text-[13px]"
      aria-label="Condition"
      placeholder='deposit > 0 and kind = "hire"'
    />
  </span>
</template>
