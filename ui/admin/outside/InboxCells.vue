<script setup lang="ts">
import { computed } from 'vue'
import type { Account } from '../../shared/types'
import ChoiceCell from '../parts/ChoiceCell.vue'
import EntryCell from '../parts/EntryCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import { put } from '../settings'
import SecretCell from './SecretCell.vue'
import { t } from '../words'

/** The mailbox into which reports of what came back come. */
type Inbox = NonNullable<Account['inbox']>
const value = defineModel<Inbox>({ required: true })
const secret = defineModel<string>('secret', { required: true })
const props = defineProps<{ hasSecret: boolean; errors: Record<string, string> }>()
const ways: { value: Inbox['protection']; words: string; note: string }[] = [
  { value: 'tls', words: 'TLS', note: t('outside.inboxTlsNote') },
  { value: 'starttls', words: 'STARTTLS', note: t('outside.inboxStarttlsNote') },
  { value: 'none', words: t('outside.noProtection'), note: t('outside.noProtectionNote') },
]
const error = (of: string) => props.errors[`inbox/${of}`]
const port = computed({
  get: () => (value.value.port ? String(value.value.port) : ''),
  set: (to: string) => (value.value = put(value.value, 'port', Number(to) || undefined)),
})
const set = (of: 'host' | 'user', to: string) => (value.value = { ...value.value, [of]: to })
</script>

<template>
  <SettingsGrid>
    <EntryCell
      live
      :label="$t('outside.inboxServer')"
      placeholder="imap.house.example"
      :model-value="value.host"
      :error="error('host')"
      @update:model-value="set('host', $event.trim())"
    />
    <ChoiceCell
      :label="$t('outside.protection')"
      :options="ways"
      :model-value="value.protection"
      :error="error('protection')"
      @update:model-value="value = put(value, 'protection', $event)"
    />
    <EntryCell
      live
      :label="$t('outside.user')"
      :model-value="value.user"
      :error="error('user')"
      @update:model-value="set('user', $event)"
    />
    <SecretCell v-model="secret" :label="$t('outside.password')" :kept="hasSecret" :error="error('secret')" />
    <EntryCell
      v-model="port"
      live
      mode="numeric"
      :label="$t('outside.port')"
      :placeholder="value.protection === 'tls' ? '993' : '143'"
      :error="error('port')"
    />
    <EntryCell
      live
      :label="$t('outside.inboxFolder')"
      placeholder="INBOX"
      :model-value="value.folder ?? ''"
      @update:model-value="value = put(value, 'folder', $event.trim() || undefined)"
    />
  </SettingsGrid>
</template>
