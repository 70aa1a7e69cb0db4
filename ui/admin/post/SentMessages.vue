<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { onMounted, ref, watch } from 'vue'
import type { IntakeLine, Message } from '../../shared/types'
import { api, data } from '../api'
import { behind, everyIntake, useList } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import ListChoice from '../parts/ListChoice.vue'
import MessageSheet from '../parts/MessageSheet.vue'
import { session, somewhere } from '../session'
import { asMoment } from '../times'
import MessageSource from './MessageSource.vue'
import SendAgain from './SendAgain.vue'

/** Messages as they went out, found by words and intake, and the chosen one as its reader sees it. */
const find = ref('')
const intake = ref(0)
const { all, more, problem, loaded, loadOlder, start } = useList<Message>((cursor) =>
  data(
    api.GET('/api/messages', {
      params: {
        query: {
          ...(find.value ? { words: find.value } : {}),
          ...(intake.value ? { intake: intake.value } : {}),
          ...behind(cursor),
        },
      },
    }),
  ),
)
watch([find, intake], useDebounceFn(start, 250))
const open = ref<Message>()
const intakes = ref<IntakeLine[]>([])
onMounted(async () => {
  try {
    intakes.value = await everyIntake()
  } catch {
    // The list is complete without the choice among intakes.
  }
})
</script>

<template>
  <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
  <div v-if="loaded" class="grid items-start gap-4 px-3 pb-6 sm:px-6 lg:grid-cols-[3fr_2fr]">
    <div class="sheet">
      <div class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule px-3 py-3 sm:pl-[76px]">
        <label class="w-full max-w-[340px]">
          <span class="sr-only">{{ $t('post.find') }}</span>
          <input v-model="find" class="entry" type="search" :placeholder="$t('post.find')" />
        </label>
        <ListChoice
          v-if="intakes.length > 1"
          v-model="intake"
          inline
          :label="$t('post.intake')"
          :options="[
            { value: 0, words: $t('post.allIntakes') },
            ...intakes.map((i) => ({ value: i.id, words: i.name })),
          ]"
        />
      </div>
      <ul v-if="all.length">
        <li v-for="m in all" :key="m.id" class="border-b border-faint">
          <button
            class="grid w-full grid-cols-[60px_1fr_auto] gap-x-3 text-left hover:bg-amber-wash"
            :class="{ 'bg-amber-wash': open?.id === m.id }"
            :aria-pressed="open?.id === m.id"
            @click="open = m"
          >
            <span
              class="ledger self-stretch py-2 pr-4 text-right"
              :class="m.returned.length ? 'font-semibold text-madder' : 'text-pine'"
              ><span aria-hidden="true">{{ m.returned.length ? '✕' : '●' }}</span></span
            >
            <span class="min-w-0 py-2">
              <span class="block truncate font-semibold">{{ m.subject }}</span>
              <span class="block truncate text-soft">{{ [...m.to, ...m.copy, ...m.blindCopy].join(', ') }}</span>
              <span v-for="r in m.returned" :key="r.address" class="block text-madder">{{
                $t('post.cameBack', { address: r.address, reason: r.reason })
              }}</span>
            </span>
            <span class="py-2 pr-3 whitespace-nowrap text-soft tabular-nums">{{ asMoment(m.sent) }}</span>
          </button>
        </li>
      </ul>
      <p v-else class="px-6 py-8">
        {{ find || intake ? $t('post.nothingFound') : $t('post.everyMessageGoesOutWill') }}
      </p>
      <div v-if="more" class="p-4">
        <ActionButton @click="loadOlder">{{ $t('post.showOlderOnes') }}</ActionButton>
      </div>
    </div>
    <div v-if="open" class="bg-bed p-5 lg:sticky lg:top-3">
      <MessageSheet
        :from="session?.house ?? ''"
        :to="open.to"
        :copy="open.copy"
        :blind="open.blindCopy"
        :reply-to="open.replyTo"
        :subject="open.subject"
        :html="open.html"
        :attached="open.attached"
      />
      <MessageSource :key="open.id" :message="open" />
      <SendAgain v-if="somewhere('handle')" :key="open.id" :message="open" />
      <p class="mt-3">
        <RouterLink class="link" :to="`/register/${open.submissionId}`">{{
          $t('post.see', { number: open.number })
        }}</RouterLink>
      </p>
    </div>
    <p v-else-if="all.length" class="p-5 text-soft">{{ $t('post.chooseMessageRead') }}</p>
  </div>
</template>
