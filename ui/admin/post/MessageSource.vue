<script setup lang="ts">
import type { Message } from '../../shared/types'
import FoldAway from '../parts/FoldAway.vue'

/** A message as text, for readers that show no pages, and the page as it was written. */
defineProps<{ message: Message }>()
const boxed = 'border border-rule bg-white p-3 whitespace-pre-wrap [overflow-wrap:anywhere]'
</script>

<template>
  <div class="mt-3 grid gap-1">
    <FoldAway :label="$t('post.asText')">
      <pre :class="[boxed, 'text-[13px]']">{{ message.text }}</pre>
    </FoldAway>
    <FoldAway :label="$t('post.source')">
      <pre :class="[boxed, 'max-h-[320px] overflow-y-auto font-mono text-[12px]']">{{ message.html }}</pre>
    </FoldAway>
  </div>
</template>
