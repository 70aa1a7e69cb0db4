<script setup lang="ts">
import { ref } from 'vue'
import type { Texts } from '../shared/texts'

/** A personal link under which the answers so far are kept, to go on with on another device. */
const props = defineProps<{ keep: () => Promise<string>; texts: Texts }>()
const link = ref('')
const problem = ref('')
async function keepThem() {
  problem.value = ''
  try {
    link.value = await props.keep()
  } catch {
    problem.value = props.texts.lost
  }
}
</script>

<template>
  <p class="mt-1 text-[13px]">
    <button type="button" class="link" @click="keepThem">{{ texts.elsewhere }}</button>
  </p>
  <label v-if="link" class="mt-2 block text-[13px]" role="status">
    {{ texts.elsewhereLink }}
    <input class="entry mt-1" readonly :value="link" data-go-on @focus="($event.target as HTMLInputElement).select()" />
  </label>
  <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
</template>
