<script setup lang="ts">
import { filled, type Texts } from '../shared/texts'
import type { Receipt } from '../shared/types'
import FirstPage from './FirstPage.vue'

/** What was taken in, right after sending or when it is read again by its link. */
defineProps<{ receipt: Receipt; texts: Texts; again: boolean; corrected: boolean; day: string; arrival: string }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <p v-if="arrival" role="status" class="mb-4 border-s-4 border-amber ps-4">{{ arrival }}</p>
  <p class="mb-1">{{ again ? filled(texts.received, { date: day }) : corrected ? texts.corrected : texts.number }}</p>
  <p class="mb-6 font-title text-[24px] font-semibold" data-number>{{ receipt.number }}</p>
  <p v-if="receipt.revision > 1" class="mb-6" data-revision>
    {{ receipt.revision === 2 ? texts.revisionOne : filled(texts.revision, { n: receipt.revision - 1 }) }}
  </p>
  <template v-if="receipt.thanks.length">
    <p v-for="(p, i) in receipt.thanks" :key="i" class="mb-4 whitespace-pre-line">{{ p }}</p>
  </template>
  <p v-else-if="!again" class="mb-6">{{ texts.mail }}</p>
  <ul class="mb-8 grid gap-3">
    <li v-for="(d, i) in receipt.documents" :key="d.key">
      <FirstPage v-if="i === 0" :href="d.href" :label="d.name" />
      <br v-if="i === 0" />
      <a class="button min-h-[44px] px-6" :href="d.href" target="_blank" rel="noopener">{{
        filled(texts.open, { name: d.name })
      }}</a>
    </li>
    <li v-if="receipt.onward">
      <a class="button button-main min-h-[44px] px-6" :href="receipt.onward">{{ texts.onward }}</a>
    </li>
  </ul>
  <p v-if="receipt.correct" class="mb-3">
    <a class="link" :href="receipt.correct" data-correct>{{ texts.correct }}</a>
  </p>
  <button v-if="!again" class="link" @click="$emit('again')">{{ texts.once }}</button>
</template>
