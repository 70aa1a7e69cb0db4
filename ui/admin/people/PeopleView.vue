<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { onChange } from '../changes'
import type { Person } from '../../shared/types'
import DialogSheet from '../parts/DialogSheet.vue'
import HouseHead from '../house/HouseHead.vue'
import { usePeople, standing } from './people'
import InviteDialog from './InviteDialog.vue'
import PersonLine from './PersonLine.vue'

const { people, intakes, problem, load, invite, set, remove, reinvite, signOut } = usePeople()
onMounted(load)
onChange(load)
const open = ref<number>()
const asking = ref(false)
const leaving = ref<Person>()
const said = ref('')

async function again(p: Person) {
  if (await reinvite(p.id)) said.value = `A letter goes to ${p.email}; those before open nothing more.`
}
async function out(p: Person) {
  if (await signOut(p.id)) said.value = `${p.name} is signed out everywhere.`
}
async function letGo() {
  const p = leaving.value
  leaving.value = undefined
  if (p && (await remove(p.id))) said.value = `${p.name} works here no more.`
}
function roleOf(p: Person) {
  const n = p.role === 'owner' ? 0 : p.intakes.length
  const on = n === 1 ? 'one intake' : `${n} intakes`
  if (p.role === 'guest') return n ? `guest on ${on}` : 'guest, on no intake yet'
  return n ? `${p.role}, ${on} besides` : p.role
}
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead><button class="button button-main" @click="asking = true">Ask somebody in</button></HouseHead>
    <div class="px-3 pb-6 sm:px-6">
      <p v-if="problem && !asking" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
      <p role="status" class="text-soft" :class="{ 'mb-3': said }">{{ said }}</p>
      <ol v-if="people" class="sheet" aria-label="People">
        <li
          v-for="(p, i) in people"
          :key="p.id"
          class="flex border-b border-faint"
          :class="{ 'bg-amber-wash': open === p.id }"
        >
          <span class="ledger w-[60px] shrink-0 py-2 pr-3 text-right text-soft">{{ i + 1 }}</span>
          <div class="min-w-0 grow">
            <button
              type="button"
              class="flex w-full flex-wrap items-baseline gap-x-4 px-3 py-2 text-left"
              :aria-expanded="open === p.id"
              @click="open = open === p.id ? undefined : p.id"
            >
              <span class="min-w-[160px] font-semibold"
                >{{ p.name }}<span v-if="p.self" class="font-normal text-soft"> (you)</span></span
              >
              <span class="min-w-0 grow truncate text-soft">{{ p.email }}</span>
              <span class="w-[220px]">{{ roleOf(p) }}</span>
              <span class="w-[230px]" :class="standing(p).tone"
                ><span aria-hidden="true">{{ standing(p).mark }}</span> {{ standing(p).words }}</span
              >
            </button>
            <PersonLine
              v-if="open === p.id"
              class="px-3 pt-1 pb-4"
              :person="p"
              :intakes="intakes"
              @set="set(p.id, $event)"
              @reinvite="again(p)"
              @sign-out="out(p)"
              @remove="leaving = p"
            />
          </div>
        </li>
      </ol>
    </div>
    <InviteDialog v-model="asking" :intakes="intakes" :problem="problem" :invite="invite" />
    <DialogSheet :model-value="!!leaving" :title="`Let ${leaving?.name} go?`" @update:model-value="leaving = undefined">
      <p class="mb-4">
        They are signed out and can come in no more. What they did stays in the register. You can ask them in again.
      </p>
      <div class="flex flex-wrap gap-3">
        <button type="button" class="button button-main" @click="letGo">Let them go</button>
        <button type="button" class="button" @click="leaving = undefined">Keep them</button>
      </div>
    </DialogSheet>
  </main>
</template>
