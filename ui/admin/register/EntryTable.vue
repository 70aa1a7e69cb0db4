<script setup lang="ts">
import type { Entry } from '../../shared/types'
import EntryRows from './EntryRows.vue'
import { t } from '../words'

/** Lines of the register: each submission with the state of its documents, messages and filings. */
defineProps<{ pages: Entry[][] }>()
const kinds = ['document', 'notice', 'filing'] as const
const titles = { document: t('register.documents'), notice: t('register.post'), filing: t('register.cabinet') }
</script>

<template>
  <div class="overflow-x-auto">
    <table class="w-full min-w-[860px] border-collapse text-left">
      <thead class="text-soft">
        <tr class="border-b border-rule">
          <th scope="col" class="ledger w-[60px]">
            <span class="sr-only">{{ $t('register.state') }}</span>
          </th>
          <th scope="col" class="px-3 py-2 font-normal">{{ $t('register.number') }}</th>
          <th scope="col" class="px-3 py-2 font-normal">{{ $t('register.intakePerson') }}</th>
          <th scope="col" class="px-3 py-2 font-normal">{{ $t('register.received') }}</th>
          <th scope="col" v-for="k in kinds" :key="k" class="px-3 py-2 font-normal">{{ titles[k] }}</th>
        </tr>
      </thead>
      <EntryRows v-for="(entries, i) in pages" :key="i" :entries="entries" :kinds="kinds" />
    </table>
  </div>
</template>
