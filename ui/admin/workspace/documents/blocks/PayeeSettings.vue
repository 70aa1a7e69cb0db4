<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import { useIntake } from '../../intake'

/** Who a payment code sends money to, and how much. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()

const amounts = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'money'))
const parts = [
  { key: 'iban', words: 'IBAN', width: 'w-[240px]' },
  { key: 'bic', words: 'BIC', width: 'w-[176px]' },
  { key: 'name', words: 'paid to', width: 'w-[220px]' },
] as const
function set(key: (typeof parts)[number]['key'], e: Event) {
  const text = (e.target as HTMLInputElement).value.trim()
  const payee = { ...(block.value.payee ?? { iban: '' }) }
  if (text || key === 'iban') payee[key] = text
  else Reflect.deleteProperty(payee, key)
  block.value.payee = payee
}
function setAmount(e: Event) {
  const key = (e.target as HTMLSelectElement).value
  if (key) block.value.field = key
  else delete block.value.field
}
const hints = { iban: '', bic: 'not needed in the EEA', name: 'the house' }
</script>

<template>
  <div class="words">
    <label v-for="p in parts" :key="p.key">
      {{ p.words }}
      <input
        class="word"
        :class="p.width"
        :placeholder="hints[p.key]"
        :value="block.payee?.[p.key] ?? ''"
        @change="set(p.key, $event)"
      />
    </label>
    <label>
      amount
      <select class="word" :value="block.field ?? ''" @change="setAmount">
        <option value="">the payer writes it</option>
        <option v-for="f in amounts" :key="f.key" :value="f.key">{{ f.label }}</option>
      </select>
    </label>
  </div>
</template>
