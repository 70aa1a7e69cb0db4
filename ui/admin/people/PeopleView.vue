<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref } from 'vue'
import type { Person } from '../../shared/types'
import DialogSheet from '../parts/DialogSheet.vue'
import HouseHead from '../house/HouseHead.vue'
import { roleWords, standing, usePeople } from './people'
import InviteDialog from './InviteDialog.vue'
import PersonLine from './PersonLine.vue'
import { t } from '../words'

const { people, intakes, problem, invite, set, remove, reinvite, signOut } = usePeople()
const open = ref<number>()
const asking = ref(false)
const leaving = ref<Person>()
const said = ref('')

async function again(p: Person) {
  if (await reinvite(p.id)) said.value = t('people.letterGoesThoseBeforeOpen', { email: p.email })
}
async function out(p: Person) {
  if (await signOut(p.id)) said.value = t('people.signedOutEverywhere', { name: p.name })
}
async function letGo() {
  const p = leaving.value
  leaving.value = undefined
  if (p && (await remove(p.id))) said.value = t('people.worksHereNoMore', { name: p.name })
}
function roleOf(p: Person) {
  const n = p.role === 'owner' ? 0 : p.intakes.length
  const on = t('people.intakes', n)
  if (p.role === 'guest') return n ? t('people.guest2', { on }) : t('people.guestNoIntakeYet')
  return n ? t('people.besides', { role: roleWords(p.role), on }) : roleWords(p.role)
}
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead
      ><ActionButton main @click="asking = true">{{ $t('people.askSomebody') }}</ActionButton></HouseHead
    >
    <div class="px-3 pb-6 sm:px-6">
      <p v-if="problem && !asking" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
      <p role="status" class="text-soft" :class="{ 'mb-3': said }">{{ said }}</p>
      <ol v-if="people" class="sheet" :aria-label="$t('people.people')">
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
                >{{ p.name }}<span v-if="p.self" class="font-normal text-soft">{{ ' ' + $t('people.you') }}</span></span
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
    <DialogSheet
      :model-value="!!leaving"
      :title="$t('people.letGo', { name: leaving?.name })"
      @update:model-value="leaving = undefined"
    >
      <p class="mb-4">{{ $t('people.theySignedOutCanCome') }}</p>
      <div class="flex flex-wrap gap-3">
        <ActionButton main @click="letGo">{{ $t('people.letThemGo') }}</ActionButton>
        <ActionButton @click="leaving = undefined">{{ $t('people.keepThem') }}</ActionButton>
      </div>
    </DialogSheet>
  </main>
</template>
