<script setup lang="ts">
import { useId } from 'vue'
import SettingCell from '../parts/SettingCell.vue'
import { t } from '../words'

/** A password: what is kept is never shown, only that there is one. */
const value = defineModel<string>({ required: true })
defineProps<{ label: string; kept: boolean; long?: boolean; error?: string | undefined }>()
const id = useId()
</script>

<template>
  <SettingCell :label="label" :of="id" :error="error" :help="kept && !value ? t('outside.secretKept') : undefined">
    <textarea
      v-if="long && value.includes('\n')"
      :id="id"
      v-model="value"
      rows="3"
      class="entry w-full font-mono text-[13px]"
      autocomplete="off"
      spellcheck="false"
    ></textarea>
    <input
      v-else
      :id="id"
      v-model="value"
      type="password"
      class="entry min-h-[34px] w-full"
      autocomplete="new-password"
      :placeholder="kept ? '••••••••' : ''"
    />
  </SettingCell>
</template>
