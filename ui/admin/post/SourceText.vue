<script setup lang="ts">
import { api, data } from '../api'
import { useLoad } from '../load'

/** The source of a message as it was handed over. */
const props = defineProps<{ submission: number; message: number }>()
const { value: source, problem } = useLoad(() =>
  data(
    api.GET('/api/submissions/{id}/messages/{message}/source', {
      params: { path: { id: props.submission, message: props.message } },
      parseAs: 'text',
    }),
  ),
)
</script>

<template>
  <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  <pre
    tabindex="0"
    class="max-h-[320px] overflow-y-auto border border-rule bg-white p-3 font-mono text-[12px] [overflow-wrap:anywhere] whitespace-pre-wrap"
    data-source
    >{{ source ?? '…' }}</pre>
</template>
