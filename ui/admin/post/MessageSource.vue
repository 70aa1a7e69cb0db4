<script setup lang="ts">
import type { Message } from '../../shared/types'
import FoldAway from '../parts/FoldAway.vue'

/** A message as text, for readers that show no pages, and the page as it was written. */
defineProps<{ message: Message }>()
</script>

<template>
  <div class="mt-3 grid gap-1">
    <FoldAway :label="$t('post.asText')">
      <pre class="border border-rule bg-white p-3 text-[13px] whitespace-pre-wrap [overflow-wrap:anywhere]">{{
        message.text
      }}</pre>
    </FoldAway>
    <FoldAway :label="$t('post.source')">
      <pre
        class="max-h-[320px] overflow-y-auto border border-rule bg-white p-3 font-mono text-[12px] whitespace-pre-wrap [overflow-wrap:anywhere]"
        >{{ message.html }}</pre>
    </FoldAway>
  </div>
</template>
