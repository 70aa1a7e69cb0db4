<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import type { Filed } from '../../shared/types'
import { api, data } from '../api'
import { behind, useList } from '../load'
import PlaceHead from '../parts/PlaceHead.vue'
import { asMoment, asSize } from '../times'

const { all, more, problem, loaded, loadOlder } = useList<Filed>((cursor) =>
  data(api.GET('/api/filings', { params: { query: behind(cursor) } })),
)
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="$t('cabinet.cabinet')">
      <template #state
        ><span class="text-soft">{{ $t('cabinet.filedDocuments') }}</span></template
      >
    </PlaceHead>
    <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
    <div v-if="loaded" class="px-3 pb-6 sm:px-6">
      <div class="sheet overflow-x-auto">
        <table v-if="all.length" class="w-full min-w-[640px] border-collapse text-left">
          <thead class="text-soft">
            <tr class="border-b border-rule">
              <th scope="col" class="ledger w-[60px]">
                <span class="sr-only">{{ $t('cabinet.state') }}</span>
              </th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('cabinet.path') }}</th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('cabinet.submission') }}</th>
              <th scope="col" class="px-3 py-2 text-right font-normal">{{ $t('cabinet.size') }}</th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('cabinet.filed') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="f in all" :key="f.id" class="border-b border-faint">
              <td class="ledger pr-4 text-right text-pine">
                <span aria-hidden="true">●</span><span class="sr-only">{{ $t('cabinet.filed2') }}</span>
              </td>
              <td class="px-3 py-2 [overflow-wrap:anywhere]">{{ f.path }}</td>
              <td class="px-3 py-2 whitespace-nowrap">
                <RouterLink class="link" :to="`/register/${f.submissionId}`">{{ f.number }}</RouterLink>
              </td>
              <td class="px-3 py-2 text-right whitespace-nowrap">{{ asSize(f.size) }}</td>
              <td class="px-3 py-2 whitespace-nowrap">{{ asMoment(f.at) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="px-6 py-8">{{ $t('cabinet.everyFiledDocumentWillListed') }}</p>
        <div v-if="more" class="p-4">
          <ActionButton @click="loadOlder">{{ $t('cabinet.showOlderOnes') }}</ActionButton>
        </div>
      </div>
    </div>
  </main>
</template>
