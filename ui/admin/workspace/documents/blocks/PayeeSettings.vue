<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import { useIntake } from '../../intake'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import { t } from '../../../words'

/** Who a payment code sends money to, and how much. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()

const amounts = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'money'))
const parts = [
  { key: 'iban', words: t('blocks.iban') },
  { key: 'bic', words: t('blocks.bic') },
  { key: 'name', words: t('blocks.paid') },
] as const
function set(key: (typeof parts)[number]['key'], typed: string) {
  const text = typed.trim()
  const payee = { ...(block.value.payee ?? { iban: '' }) }
  if (text || key === 'iban') payee[key] = text
  else Reflect.deleteProperty(payee, key)
  block.value.payee = payee
}
function setAmount(key: string) {
  if (key) block.value.field = key
  else delete block.value.field
}
const hints = { iban: '', bic: t('blocks.notNeededEea'), name: t('blocks.house') }
</script>

<template>
  <SettingsGrid>
    <EntryCell
      v-for="p in parts"
      :key="p.key"
      :label="p.words"
      :placeholder="hints[p.key]"
      :model-value="block.payee?.[p.key] ?? ''"
      @update:model-value="set(p.key, $event)"
    />
    <ChoiceCell
      :label="$t('blocks.amount')"
      :model-value="block.field ?? ''"
      @update:model-value="setAmount"
      :options="[
        { value: '', words: $t('blocks.payerWrites') },
        ...amounts.map((f) => ({ value: f.key, words: f.label })),
      ]"
    />
  </SettingsGrid>
</template>
