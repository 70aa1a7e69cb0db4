<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref } from 'vue'
import type { Message } from '../../shared/types'
import { api, data } from '../api'
import { behind, useList } from '../load'
import MessageSheet from '../parts/MessageSheet.vue'
import { session } from '../session'
import { asMoment } from '../times'

/** Messages as they went out, and the chosen one as its reader sees it. */
const { all, more, problem, loaded, loadOlder } = useList<Message>((cursor) =>
  data(api.GET('/api/messages', { params: { query: behind(cursor) } })),
)
const open = ref<Message>()
</script>

<template>
  <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
  <div v-if="loaded" class="grid items-start gap-4 px-3 pb-6 sm:px-6 lg:grid-cols-[3fr_2fr]">
    <div class="sheet">
      <ul v-if="all.length">
        <li v-for="m in all" :key="m.id" class="border-b border-faint">
          <button
            class="grid w-full grid-cols-[60px_1fr_auto] gap-x-3 text-left hover:bg-amber-wash"
            :class="{ 'bg-amber-wash': open?.id === m.id }"
            :aria-pressed="open?.id === m.id"
            @click="open = m"
          >
            <span class="ledger self-stretch py-2 pr-4 text-right text-pine" aria-hidden="true">●</span>
            <span class="min-w-0 py-2">
              <span class="block truncate font-semibold">{{ m.subject }}</span>
              <span class="block truncate text-soft">{{ m.to.join(', ') }}</span>
            </span>
            <span class="py-2 pr-3 whitespace-nowrap text-soft tabular-nums">{{ asMoment(m.sent) }}</span>
          </button>
        </li>
      </ul>
      <p v-else class="px-6 py-8">{{ $t('post.everyMessageGoesOutWill') }}</p>
      <div v-if="more" class="p-4">
        <ActionButton @click="loadOlder">{{ $t('post.showOlderOnes') }}</ActionButton>
      </div>
    </div>
    <div v-if="open" class="bg-bed p-5">
      <MessageSheet
        :from="session?.house ?? ''"
        :to="open.to"
        :subject="open.subject"
        :html="open.html"
        :attached="open.attached"
      />
      <p class="mt-3">
        <RouterLink class="link" :to="`/register/${open.submissionId}`">{{
          $t('post.see', { number: open.number })
        }}</RouterLink>
      </p>
    </div>
    <p v-else-if="all.length" class="p-5 text-soft">{{ $t('post.chooseMessageRead') }}</p>
  </div>
</template>
