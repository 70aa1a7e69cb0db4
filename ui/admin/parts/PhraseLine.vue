<script setup lang="ts">
import type { Span } from '../../shared/types'
import { pieces, usePlaceholders } from '../workspace/placeholders'

/** A phrase on one line, placeholders as chips. */
defineProps<{ spans: Span[] }>()
const { stands } = usePlaceholders(true)
</script>

<template>
  <template v-for="(p, i) in pieces(spans, stands)" :key="i">
    <span v-if="p.chip" class="chip text-[13px] leading-5" :class="{ 'chip-fault': p.fault }">{{ p.text }}</span>
    <template v-else>{{ p.text }}</template>
  </template>
</template>
