<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Account, AccountLine } from '../../shared/types'
import { api, data } from '../api'
import HouseHead from '../house/HouseHead.vue'
import ActionButton from '../parts/ActionButton.vue'
import DialogSheet from '../parts/DialogSheet.vue'
import EntryCell from '../parts/EntryCell.vue'
import { session } from '../session'
import { asMoment } from '../times'
import { t } from '../words'
import AccountCells from './AccountCells.vue'
import { second, useOutside } from './outside'
import ServiceLines from './ServiceLines.vue'
import TrialParts from './TrialParts.vue'

/** By which servers the house sends its mail: each with its settings, and a real message to try it. */
const to = ref(session.value?.email ?? '')
const { all, loaded, open, draft, secrets, errors, parts, problem, busy, unfold, change, add, keep, attempt, remove } =
  useOutside<Account, AccountLine>({
    list: () => data(api.GET('/api/accounts')),
    settings: (line) => line.account,
    set: (account, secret, inboxSecret) =>
      data(
        api.PUT('/api/accounts/{key}', {
          params: { path: { key: account.key } },
          body: {
            account,
            ...(secret === undefined ? {} : { secret }),
            ...(inboxSecret === undefined ? {} : { inboxSecret }),
          },
        }),
      ),
    remove: (key) => data(api.DELETE('/api/accounts/{key}', { params: { path: { key } } })),
    attempt: async (key) =>
      (await data(api.POST('/api/accounts/{key}/trial', { params: { path: { key } }, body: { to: to.value } }))).parts,
  })
const shown = computed(() =>
  all.value.map((x) => {
    const a = draft(x.key) ?? x.settings
    const words = [`${a.user ? `${a.user} ${t('outside.at')} ` : ''}${a.host}`]
    if (a.rule) words.push(t('outside.theRule'))
    if (x.line?.given) words.push(t('outside.given'))
    return { key: x.key, line: x.line, name: a.name, sentence: words.join(' · ') }
  }),
)
const leaving = ref<string>()
function leave() {
  if (leaving.value) void remove(leaving.value)
  leaving.value = undefined
}
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead />
    <div class="px-3 pb-6 sm:px-6">
      <p class="mb-3 max-w-[70ch] text-soft">{{ $t('outside.nothingLeavesUntilOneWorks') }}</p>
      <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
      <ServiceLines v-if="loaded" :all="shown" :open="open" :label="$t('outside.mail')" @unfold="unfold">
        <template #default="{ of, line }">
          <p v-if="line?.given" class="mb-3 max-w-[70ch]">{{ $t('outside.givenSays') }}</p>
          <form v-else-if="draft(of)" class="grid max-w-[760px] gap-4" @submit.prevent="keep(of)">
            <AccountCells
              :model-value="draft(of)!"
              :secret="secrets[of] ?? ''"
              :has-secret="line?.secret ?? false"
              :record="line?.record"
              :errors="errors"
              @update:model-value="change(of, $event)"
              :inbox-secret="secrets[second(of)] ?? ''"
              :has-inbox-secret="line?.inboxSecret ?? false"
              @update:secret="secrets[of] = $event"
              @update:inbox-secret="secrets[second(of)] = $event"
            />
            <p class="flex flex-wrap gap-x-4 gap-y-2">
              <ActionButton main type="submit">{{ $t('outside.keep') }}</ActionButton>
              <button type="button" class="link text-madder" @click="line ? (leaving = of) : remove(of)">
                {{ $t('outside.remove') }}
              </button>
            </p>
          </form>
          <p v-if="line?.looked" class="mt-2 max-w-[70ch]" :class="line.lookFailed ? 'text-ochre' : 'text-soft'">
            {{ $t('outside.looked', { when: asMoment(line.looked) }) }} {{ line.lookFailed }}
          </p>
          <form class="mt-4 flex max-w-[760px] flex-wrap items-end gap-x-4 gap-y-2" @submit.prevent="attempt(of)">
            <EntryCell
              v-model="to"
              live
              class="w-[300px]"
              type="email"
              :label="$t('outside.messageTo')"
              :error="errors.to"
            />
            <ActionButton type="submit">{{ $t('outside.sendTrial') }}</ActionButton>
          </form>
          <p v-if="busy === 'trying' && open === of" role="status" class="mt-3 text-soft">{{ $t('outside.trying') }}</p>
          <TrialParts v-else-if="parts[of]" class="mt-3" :parts="parts[of]!" :well="$t('outside.mailWorks', { to })" />
        </template>
        <template #add>
          <button type="button" class="link min-h-[34px]" @click="add({ name: '', host: '', protection: 'starttls' })">
            {{ $t('outside.addAccount') }}
          </button>
        </template>
      </ServiceLines>
    </div>
    <DialogSheet
      :model-value="!!leaving"
      :title="$t('outside.removeAccount')"
      @update:model-value="leaving = undefined"
    >
      <p class="mb-4">{{ t('outside.whatWaitsGoesByAnother') }}</p>
      <p class="flex gap-4">
        <ActionButton main @click="leave">{{ $t('outside.remove') }}</ActionButton>
        <ActionButton @click="leaving = undefined">{{ $t('outside.leaveIt') }}</ActionButton>
      </p>
    </DialogSheet>
  </main>
</template>
