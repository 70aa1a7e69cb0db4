<script setup lang="ts">
import type { Message } from '../../shared/types'
import FoldAway from '../parts/FoldAway.vue'
import SourceText from './SourceText.vue'

/** A message as text, for readers that show no pages, and its source as it was handed over. */
defineProps<{ message: Message }>()
</script>

<template>
  <div class="mt-3 grid gap-1">
    <FoldAway :label="$t('post.asText')">
      <pre class="border border-rule bg-white p-3 text-[13px] [overflow-wrap:anywhere] whitespace-pre-wrap">{{
        message.text
      }}</pre>
    </FoldAway>
    <FoldAway :label="$t('post.source')">
      <p v-if="message.attached.length" class="text-[13px] text-soft">{{ $t('post.filesLeftOut') }}</p>
      <SourceText :submission="message.submissionId" :message="message.id" />
    </FoldAway>
  </div>
</template>
