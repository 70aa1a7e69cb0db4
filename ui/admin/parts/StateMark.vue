<script setup lang="ts">
import { computed } from 'vue'

/** A sign and a word for how something stands; never colour alone. */
const props = defineProps<{ state: 'done' | 'working' | 'ready' | 'waits' | 'failed' | 'void'; bare?: boolean }>()
const marks = {
  done: ['●', 'done', 'text-pine'],
  working: ['○', 'under way', 'text-slate'],
  waits: ['○', 'waits', 'text-slate'],
  ready: ['◐', 'waiting', 'text-ochre'],
  failed: ['✕', 'fault', 'text-madder'],
  void: ['–', 'void', 'text-soft'],
} as const
const mark = computed(() => marks[props.state])
</script>

<template>
  <span :class="mark[2]" class="whitespace-nowrap font-semibold">
    <span aria-hidden="true">{{ mark[0] }}</span>
    <span :class="bare ? 'sr-only' : 'ml-1'">{{ mark[1] }}</span>
  </span>
</template>
