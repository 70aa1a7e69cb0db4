<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Account } from '../../shared/types'
import ChoiceCell from '../parts/ChoiceCell.vue'
import EntryCell from '../parts/EntryCell.vue'
import OnSwitch from '../parts/OnSwitch.vue'
import SettingCell from '../parts/SettingCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import { put } from '../settings'
import InboxCells from './InboxCells.vue'
import SecretCell from './SecretCell.vue'
import { t } from '../words'

/** The settings of a mail account. */
const value = defineModel<Account>({ required: true })
const secret = defineModel<string>('secret', { required: true })
const inboxSecret = defineModel<string>('inboxSecret', { required: true })
const props = defineProps<{
  hasSecret: boolean
  hasInboxSecret: boolean
  record: string | undefined
  errors: Record<string, string>
}>()

const ways: { value: Account['protection']; words: string; note: string }[] = [
  { value: 'starttls', words: 'STARTTLS', note: t('outside.starttlsNote') },
  { value: 'tls', words: 'TLS', note: t('outside.tlsNote') },
  { value: 'none', words: t('outside.noProtection'), note: t('outside.noProtectionNote') },
]
const usual = { starttls: '587', tls: '465', none: '25' }
const port = computed({
  get: () => (value.value.port ? String(value.value.port) : ''),
  set: (to: string) => set('port', Number(to) || undefined),
})
const most = (of: 'perMinute' | 'perReader') =>
  computed({
    get: () => (value.value[of] ? String(value.value[of]) : ''),
    set: (to: string) => set(of, Math.max(0, Math.round(Number(to)) || 0) || undefined),
  })
const pace = most('perMinute')
const perReader = most('perReader')
function set<K extends keyof Account>(of: K, to: Account[K] | undefined) {
  value.value = put(value.value, of, to === '' && of !== 'name' && of !== 'host' ? undefined : to)
}
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(props.record ?? '')
  copied.value = true
}
</script>

<template>
  <SettingsGrid>
    <EntryCell
      live
      :label="$t('outside.name')"
      :model-value="value.name"
      :error="errors.name"
      @update:model-value="set('name', $event)"
    />
    <EntryCell
      live
      :label="$t('outside.mailServer')"
      placeholder="mail.house.example"
      :model-value="value.host"
      :error="errors.host"
      @update:model-value="set('host', $event.trim())"
    />
    <ChoiceCell
      :label="$t('outside.protection')"
      :options="ways"
      :model-value="value.protection"
      :error="errors.protection"
      @update:model-value="set('protection', $event)"
    />
    <EntryCell
      v-model="port"
      live
      mode="numeric"
      :label="$t('outside.port')"
      :placeholder="usual[value.protection]"
      :error="errors.port"
    />
    <EntryCell
      live
      :label="$t('outside.user')"
      :help="$t('outside.emptyForNobody')"
      :model-value="value.user ?? ''"
      @update:model-value="set('user', $event)"
    />
    <SecretCell v-model="secret" :label="$t('outside.password')" :kept="hasSecret" :error="errors.secret" />
    <EntryCell
      live
      type="email"
      :label="$t('outside.sender')"
      :help="$t('outside.emptyForHouse')"
      :model-value="value.sender ?? ''"
      :error="errors.sender"
      @update:model-value="set('sender', $event.trim())"
    />
    <EntryCell
      live
      type="email"
      :label="$t('outside.returns')"
      :help="$t('outside.returnsHelp')"
      :model-value="value.returns ?? ''"
      :error="errors.returns"
      @update:model-value="set('returns', $event.trim())"
    />
    <EntryCell
      v-model="pace"
      live
      mode="numeric"
      :label="$t('outside.perMinute')"
      :help="$t('outside.perMinuteHelp')"
      :error="errors.perMinute"
    />
    <EntryCell
      v-model="perReader"
      live
      mode="numeric"
      :label="$t('outside.perReader')"
      :help="$t('outside.perReaderHelp')"
      :error="errors.perReader"
    />
    <SettingCell :label="$t('outside.whenTaken')">
      <OnSwitch
        :model-value="value.rule ?? false"
        :label="$t('outside.asARule')"
        @update:model-value="set('rule', $event || undefined)"
      />
    </SettingCell>
    <SettingCell :label="$t('outside.whatComesBack')" full :help="$t('outside.inboxHelp')">
      <OnSwitch
        :model-value="!!value.inbox"
        :label="$t('outside.readsInbox')"
        @update:model-value="set('inbox', $event ? { host: '', protection: 'tls', user: '' } : undefined)"
      />
      <InboxCells
        v-if="value.inbox"
        v-model:secret="inboxSecret"
        class="mt-2"
        :model-value="value.inbox"
        :has-secret="hasInboxSecret"
        :errors="errors"
        @update:model-value="set('inbox', $event)"
      />
    </SettingCell>
    <SettingCell :label="$t('outside.signature')" full :help="$t('outside.signatureHelp')" :error="errors.selector">
      <OnSwitch
        :model-value="!!value.selector"
        :label="$t('outside.signed')"
        @update:model-value="set('selector', $event ? 'amberseal' : undefined)"
      />
      <div v-if="record && value.selector" class="mt-2">
        <p class="text-[13px] text-soft">{{ $t('outside.lineForDNS') }}</p>
        <p class="border border-rule bg-white p-2 font-mono text-[12px] [overflow-wrap:anywhere]" data-record>
          {{ record }}
        </p>
        <button type="button" class="link text-[13px]" @click="copy">
          {{ copied ? $t('outside.copied') : $t('outside.copyLine') }}
        </button>
      </div>
      <p v-else-if="value.selector" class="mt-1 text-[13px] text-soft">{{ $t('outside.keptFirst') }}</p>
    </SettingCell>
  </SettingsGrid>
</template>
