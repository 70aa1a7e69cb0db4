<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Invitation } from '../../../shared/types'
import { api, data, words } from '../../api'
import { onChange } from '../../changes'
import { useIntake } from '../intake'

/** Personal invitations by email: pasted addresses or a CSV file, and who has answered. */
const { intake, id } = useIntake()
const pasted = ref('')
const list = ref<Invitation[]>([])
const said = ref('')
const problem = ref('')
const more = ref(false)
const pageSize = 50

async function load(before?: number) {
  try {
    const got = await data(
      api.GET('/api/intakes/{id}/invitations', { params: { path: { id }, query: before ? { before } : {} } }),
    )
    list.value = before ? [...list.value, ...got] : got
    more.value = got.length === pageSize
  } catch (e) {
    problem.value = words(e)
  }
}
onMounted(load)
onChange(() => load())

async function invite() {
  problem.value = said.value = ''
  try {
    const r = await data(
      api.POST('/api/intakes/{id}/invitations', { params: { path: { id } }, body: { addresses: pasted.value } }),
    )
    said.value = `${r.added} invited${r.bad.length ? `; not an address: ${r.bad.join(', ')}` : ''}`
    pasted.value = r.bad.join('\n')
    await load()
    setTimeout(() => void load(), 1500)
  } catch (e) {
    problem.value = words(e)
  }
}
async function fromFile(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) pasted.value = await file.text()
}
async function again(x: Invitation) {
  await api.POST('/api/intakes/{id}/invitations/{invitation}/retry', { params: { path: { id, invitation: x.id } } })
  await load()
}
</script>

<template>
  <div>
    <h2 class="mb-2 text-[18px]">Invitations</h2>
    <p v-if="intake!.state !== 'open'" class="text-soft">
      Once it is open, people can be invited here, each by a link that works once.
    </p>
    <form v-else @submit.prevent="invite">
      <label>
        <span class="mb-1 block text-soft">Addresses, pasted or from a CSV file; each gets a link that works once</span>
        <textarea v-model="pasted" class="entry" rows="3" placeholder="ada@place.example, bo@place.example"></textarea>
      </label>
      <div class="mt-2 flex flex-wrap items-center gap-4">
        <button class="button" :disabled="!pasted.includes('@')">Invite them</button>
        <input type="file" accept=".csv,.txt" aria-label="Addresses from a file" @change="fromFile" />
      </div>
      <p role="status" class="mt-1 text-pine">{{ said }}</p>
    </form>
    <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
    <ul class="mt-2">
      <li v-for="x in list" :key="x.id" class="flex flex-wrap gap-x-4 border-t border-faint py-1">
        <span class="min-w-0 [overflow-wrap:anywhere]">{{ x.email }}</span>
        <span class="ml-auto">
          <RouterLink v-if="x.submission" class="link" :to="`/register/${x.submission}`"
            >● answered, {{ x.number }}</RouterLink
          >
          <span v-else-if="x.state === 'sent'" class="text-soft">sent</span>
          <template v-else>
            <span :class="x.state === 'failed' ? 'text-madder' : 'text-ochre'">
              {{ x.state === 'failed' ? '✕' : '◐' }} {{ x.reason || 'waits' }}
            </span>
            <button type="button" class="link ml-3" @click="again(x)">Try again now</button>
          </template>
        </span>
      </li>
    </ul>
    <button v-if="more" type="button" class="link" @click="load(list.at(-1)!.id)">Show earlier ones</button>
  </div>
</template>
