<script setup lang="ts">
import type { Receipt } from '../shared/types'

defineProps<{ receipt: Receipt }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <p class="mb-1">We have received it under the number</p>
  <p class="mb-6 font-title text-[24px] font-semibold" data-number>{{ receipt.number }}</p>
  <p class="mb-6">If you gave an email address, a message with the document is on its way to you.</p>
  <ul class="mb-8 grid gap-3">
    <li v-for="d in receipt.documents" :key="d.key">
      <a class="button min-h-[44px] px-6" :href="d.href" target="_blank" rel="noopener"
        >Open the {{ d.name.toLowerCase() }} (PDF)</a
      >
    </li>
  </ul>
  <button class="link" @click="$emit('again')">Answer once more</button>
</template>
