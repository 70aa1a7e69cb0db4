<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Message } from '../../shared/types'
import { api, data, words } from '../api'
import { onChange } from '../changes'
import MessageSheet from '../parts/MessageSheet.vue'
import PlaceHead from '../parts/PlaceHead.vue'
import { session } from '../session'
import { asMoment } from '../times'

const messages = ref<Message[]>()
const older = ref<Message[]>([])
const end = ref(false)
const open = ref<Message>()
const problem = ref('')

async function load() {
  try {
    messages.value = await data(api.GET('/api/messages', { params: { query: {} } }))
  } catch (e) {
    problem.value = words(e)
  }
}
async function loadOlder() {
  const last = older.value.at(-1) ?? messages.value?.at(-1)
  const next = await data(api.GET('/api/messages', { params: { query: last ? { before: last.id } : {} } }))
  older.value.push(...next)
  end.value = next.length < 50
}
onMounted(load)
onChange(load)
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead title="Post">
      <template #state><span class="text-soft">Messages as they went out</span></template>
    </PlaceHead>
    <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
    <div v-if="messages" class="grid items-start gap-4 px-3 pb-6 sm:px-6 lg:grid-cols-[3fr_2fr]">
      <div class="sheet">
        <ul v-if="messages.length">
          <li v-for="m in [...messages, ...older]" :key="m.id" class="border-b border-faint">
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
        <p v-else class="px-6 py-8">Every message that goes out will be kept here.</p>
        <div v-if="messages.length === 50 && !end" class="p-4">
          <button class="button" @click="loadOlder">Show older ones</button>
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
          <RouterLink class="link" :to="`/register/${open.submissionId}`">See {{ open.number }}</RouterLink>
        </p>
      </div>
      <p v-else-if="messages.length" class="p-5 text-soft">Choose a message to read it.</p>
    </div>
  </main>
</template>
