<script setup lang="ts">
import type { Destination } from '../../shared/types'
import EntryCell from '../parts/EntryCell.vue'
import SettingCell from '../parts/SettingCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import { put } from '../settings'
import SecretCell from './SecretCell.vue'
import { t } from '../words'

/** The settings of a destination; each kind has some of them. */
const value = defineModel<Destination>({ required: true })
const secret = defineModel<string>('secret', { required: true })
defineProps<{ hasSecret: boolean; fingerprint: string | undefined; errors: Record<string, string> }>()

type Setting = 'name' | 'address' | 'bucket' | 'region' | 'folder' | 'user' | 'reach'
const asked: Record<Destination['kind'], Setting[]> = {
  folder: ['name', 'folder', 'reach'],
  bucket: ['name', 'address', 'bucket', 'region', 'user', 'folder', 'reach'],
  share: ['name', 'address', 'user', 'folder', 'reach'],
  vault: ['name', 'address', 'user', 'folder', 'reach'],
}
const examples: Partial<Record<string, string>> = {
  'folder folder': '/srv/records',
  'bucket address': 'https://s3.example',
  'share address': 'https://cloud.example/dav',
  'vault address': 'files.example:22',
  'bucket region': 'eu-central-1',
}
function label(of: Setting) {
  const words = {
    name: t('outside.name'),
    address: value.value.kind === 'vault' ? t('outside.hostPort') : t('outside.address'),
    bucket: t('outside.bucketName'),
    region: t('outside.region'),
    folder: value.value.kind === 'folder' ? t('outside.folderOfMachine') : t('outside.folderBelow'),
    user: value.value.kind === 'bucket' ? t('outside.accessKey') : t('outside.user'),
    reach: t('outside.reach'),
  }
  return words[of]
}
const help = (of: Setting) => (of === 'reach' ? t('outside.reachHelp') : undefined)
function set(of: Setting, to: string) {
  value.value = put(value.value, of, to || (of === 'name' ? '' : undefined))
}
const forget = 'forget' // the API's word for it
function newKey() {
  value.value = put(value.value, 'hostKey', forget)
}
</script>

<template>
  <SettingsGrid>
    <template v-for="of in asked[value.kind]" :key="of">
      <EntryCell
        live
        :label="label(of)"
        :model-value="value[of] ?? ''"
        :placeholder="examples[`${value.kind} ${of}`]"
        :error="errors[of]"
        :help="help(of)"
        @update:model-value="set(of, $event)"
      />
      <SecretCell
        v-if="of === 'user'"
        v-model="secret"
        :label="
          value.kind === 'bucket'
            ? $t('outside.secretKey')
            : value.kind === 'vault'
              ? $t('outside.passwordOrKey')
              : $t('outside.password')
        "
        :kept="hasSecret"
        :long="value.kind === 'vault'"
        :error="errors.secret"
      />
    </template>
    <SettingCell v-if="value.kind === 'vault' && fingerprint" :label="$t('outside.hostKey')" full>
      <p class="font-mono text-[13px] [overflow-wrap:anywhere]">
        {{ value.hostKey === forget ? $t('outside.nextKeyIsTaken') : fingerprint }}
      </p>
      <button v-if="value.hostKey !== forget" type="button" class="link text-[13px]" @click="newKey">
        {{ $t('outside.takeNewKey') }}
      </button>
    </SettingCell>
  </SettingsGrid>
</template>
