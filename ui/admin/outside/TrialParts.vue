<script setup lang="ts">
import type { TrialPart } from '../../shared/types'
import { t } from '../words'

/** How a trial went, part by part, with the answer of the one that failed. */
defineProps<{ parts: TrialPart[]; well: string }>()
const names: Record<TrialPart['part'], string> = {
  name: t('outside.partName'),
  connection: t('outside.partConnection'),
  protection: t('outside.partProtection'),
  'sign-in': t('outside.partSignIn'),
  sender: t('outside.partSender'),
  recipient: t('outside.partRecipient'),
  message: t('outside.partMessage'),
  inbox: t('outside.partInbox'),
  write: t('outside.partWrite'),
  read: t('outside.partRead'),
  list: t('outside.partList'),
  delete: t('outside.partDelete'),
}
</script>

<template>
  <div role="status" class="border-l-4 border-rule pl-3" data-trial>
    <ul class="flex flex-wrap gap-x-5">
      <li v-for="p in parts" :key="p.part" :class="p.reason ? 'font-semibold text-madder' : 'text-pine'">
        <span aria-hidden="true">{{ p.reason ? '✕' : '●' }}</span> {{ names[p.part] }}
      </li>
    </ul>
    <template v-for="p in parts" :key="p.part">
      <p v-if="p.reason" class="mt-1">{{ p.reason }}</p>
    </template>
    <p v-if="parts.every((p) => !p.reason)" class="mt-1">{{ well }}</p>
  </div>
</template>
