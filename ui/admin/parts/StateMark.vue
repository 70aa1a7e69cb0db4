<script setup lang="ts">
import { computed } from 'vue'
import { t } from '../words'

/** A sign and a word for how something stands; never colour alone. */
const props = defineProps<{ state: 'done' | 'working' | 'ready' | 'waits' | 'failed' | 'void'; bare?: boolean }>()
const marks = {
  done: ['●', t('parts.done'), 'text-pine'],
  working: ['○', t('parts.underWay'), 'text-slate'],
  waits: ['○', t('parts.waits'), 'text-slate'],
  ready: ['◐', t('parts.waiting'), 'text-ochre'],
  failed: ['✕', t('parts.fault'), 'text-madder'],
  void: ['–', t('parts.void'), 'text-soft'],
} as const
const mark = computed(() => marks[props.state])
</script>

<template>
  <span :class="mark[2]" class="whitespace-nowrap font-semibold">
    <span aria-hidden="true">{{ mark[0] }}</span>
    <span :class="bare ? 'sr-only' : 'ml-1'">{{ mark[1] }}</span>
  </span>
</template>
