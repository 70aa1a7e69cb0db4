<script setup lang="ts">
import type { ProofAnswers } from '../../shared/types'

/** Whose answers a proof shows. */
const model = defineModel<ProofAnswers>({ required: true })
const kinds: { value: ProofAnswers; name: string }[] = [
  { value: 'made-up', name: 'made up' },
  { value: 'emptest', name: 'emptest' },
  { value: 'longest', name: 'longest' },
]
</script>

<template>
  <span class="text-soft">
    answers:
    <template v-for="(k, i) in kinds" :key="k.value">
      <template v-if="i"> · </template>
      <button
        :class="model === k.value ? 'font-semibold text-ink underline' : 'hover:text-ink'"
        :aria-pressed="model === k.value"
        @click="model = k.value"
      >
        {{ k.name }}
      </button>
    </template>
  </span>
</template>
