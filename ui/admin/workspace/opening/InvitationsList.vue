<script setup lang="ts">
import ActionButton from '../../parts/ActionButton.vue'
import { ref } from 'vue'
import type { Invitation } from '../../../shared/types'
import { api, data } from '../../api'
import { behind, useList } from '../../load'
import { keptWords } from '../../kept'
import { useIntake } from '../intake'
import FileEntry from '../../parts/FileEntry.vue'
import { t } from '../../words'

/** Personal invitations by email: pasted addresses or a CSV file, and who has answered. */
const { intake, id, may } = useIntake()
const pasted = keptWords(`invited-${id}`)
const own = keptWords(`invitation-${id}`)
const said = ref('')
const strange = ref<string[]>([])
const {
  all: list,
  more,
  problem,
  run,
  load,
  loadOlder,
} = useList<Invitation>((cursor) =>
  data(api.GET('/api/intakes/{id}/invitations', { params: { path: { id }, query: behind(cursor) } })),
)

function invite() {
  said.value = ''
  return run(async () => {
    const r = await data(
      api.POST('/api/intakes/{id}/invitations', {
        params: { path: { id } },
        body: { addresses: pasted.value, ...(own.value.trim() ? { words: own.value } : {}) },
      }),
    )
    said.value = `${r.added} invited${r.already ? t('opening.wereInvitedBefore', { already: r.already }) : ''}`
    strange.value = r.bad
    pasted.value = r.bad.join('\n')
    await load()
    setTimeout(() => void load(), 1500)
  })
}
async function fromFile(file: File) {
  pasted.value = await file.text()
}
type Doing = 'retry' | 'withdrawal'
const change = (x: Invitation, what: Doing) =>
  run(async () => {
    await data(
      api.POST(`/api/intakes/{id}/invitations/{invitation}/${what}`, { params: { path: { id, invitation: x.id } } }),
    )
    await load()
  })
</script>

<template>
  <div>
    <h2 class="mb-2 text-[18px]">{{ $t('opening.invitations') }}</h2>
    <p v-if="intake!.state !== 'open'" class="text-soft">{{ $t('opening.onceOpenPeopleCanInvited') }}</p>
    <form v-else-if="may('handle')" @submit.prevent="invite">
      <label>
        <span class="mb-1 block text-soft">{{ $t('opening.addressesPastedFromCsvFile') }}</span>
        <textarea
          v-model="pasted"
          class="entry"
          rows="3"
          :placeholder="$t('opening.adaPlaceExampleBoPlace')"
        ></textarea>
      </label>
      <label class="mt-2 block">
        <span class="mb-1 block text-soft">{{ $t('opening.yourWordsBeforeLinkOurs') }}</span>
        <textarea
          v-model="own"
          class="entry"
          rows="2"
          maxlength="4000"
          :placeholder="$t('opening.goodDayWeAskYou')"
        ></textarea>
      </label>
      <div class="mt-2 flex flex-wrap items-center gap-4">
        <ActionButton type="submit" :disabled="!pasted.includes('@')">{{ $t('opening.inviteThem') }}</ActionButton>
        <FileEntry :label="$t('opening.addressesFromFile')" accept=".csv,.txt" plain @file="fromFile" />
      </div>
      <p role="status" class="mt-1 text-pine">{{ said }}</p>
      <p v-if="strange.length" role="alert" class="mt-1 font-semibold text-madder" data-strange>
        {{ $t('opening.notAddressNotInvitedMend', { join: strange.join(', ') }) }}
      </p>
    </form>
    <p v-else-if="!list.length" class="text-soft">{{ $t('opening.nobodyWasInvitedYet') }}</p>
    <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
    <ul class="mt-2">
      <li v-for="x in list" :key="x.id" class="flex flex-wrap gap-x-4 border-t border-faint py-1">
        <span class="min-w-0 [overflow-wrap:anywhere]">{{ x.email }}</span>
        <span class="ml-auto">
          <RouterLink v-if="x.submission" class="link" :to="`/register/${x.submission}`">{{
            $t('opening.answered', { number: x.number })
          }}</RouterLink>
          <span v-else-if="x.state === 'withdrawn'" class="text-soft">{{ $t('opening.withdrawn') }}</span>
          <template v-else-if="x.state === 'sent'">
            <span class="text-soft">{{ $t('opening.sent') }}</span>
            <button v-if="may('handle')" type="button" class="link ml-3" @click="change(x, 'retry')">
              {{ $t('opening.sendAgain')
              }}<span class="sr-only">{{ ' ' + $t('opening.to2', { email: x.email }) }}</span>
            </button>
          </template>
          <template v-else>
            <span :class="x.state === 'failed' ? 'text-madder' : 'text-ochre'">
              {{ x.state === 'failed' ? '✕' : '◐' }} {{ x.reason || $t('opening.waits') }}
            </span>
            <button v-if="may('handle')" type="button" class="link ml-3" @click="change(x, 'retry')">
              {{ $t('opening.tryAgainNow') }}
            </button>
          </template>
          <button
            v-if="!x.submission && x.state !== 'withdrawn' && may('handle')"
            type="button"
            class="link ml-3"
            @click="change(x, 'withdrawal')"
          >
            {{ $t('opening.withdraw')
            }}<span class="sr-only">{{ ' ' + $t('opening.invitation', { email: x.email }) }}</span>
          </button>
        </span>
      </li>
    </ul>
    <button v-if="more" type="button" class="link" @click="loadOlder">
      {{ $t('opening.showEarlierOnes') }}
    </button>
  </div>
</template>
