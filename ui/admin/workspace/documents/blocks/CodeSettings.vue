<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import MissingWords from './MissingWords.vue'
import PayeeSettings from './PayeeSettings.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import MillimetreCell from './MillimetreCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** What a code says and how it is drawn. */
const block = defineModel<BlockSettings>({ required: true })
function setCode(to: string) {
  block.value.symbology = to as NonNullable<BlockSettings['symbology']>
  if (block.value.symbology === 'payment') block.value.payee ??= { iban: '' }
}
/** What codes often say. */
const presets: {
  words: string
  code: NonNullable<BlockSettings['symbology']>
  text: NonNullable<BlockSettings['text']>
}[] = [
  { words: 'the check address', code: 'qr', text: [{ field: '@check' }] },
  { words: 'the link to read it again', code: 'qr', text: [{ field: '@link' }] },
  { words: 'the number', code: 'code128', text: [{ field: '@number' }] },
  { words: 'a web address', code: 'qr', text: [{ text: 'https://' }] },
  { words: 'a payment', code: 'payment', text: [{ field: '@number' }] },
]
function take(p: (typeof presets)[number]) {
  block.value.symbology = p.code
  block.value.text = p.text.map((s) => ({ ...s }))
  if (p.code === 'payment') block.value.payee ??= { iban: '' }
}
</script>

<template>
  <div class="grid gap-3">
    <div>
      <span class="text-[13px] text-soft">Says</span
      ><PhraseEditor v-model:line="block.text" label="What the code says" />
    </div>
    <p class="flex flex-wrap gap-x-4 text-[13px] text-soft">
      Often:
      <button v-for="p in presets" :key="p.words" type="button" class="link min-h-[24px]" @click="take(p)">
        {{ p.words }}
      </button>
    </p>
    <PayeeSettings v-if="block.symbology === 'payment'" :model-value="block" />
    <SettingsGrid>
      <ChoiceCell
        label="kind of code"
        :model-value="block.symbology ?? 'qr'"
        @update:model-value="setCode($event)"
        :options="[
          { value: 'qr', words: 'QR' },
          { value: 'datamatrix', words: 'Data Matrix' },
          { value: 'code128', words: 'Code 128' },
          { value: 'ean13', words: 'EAN-13' },
          { value: 'payment', words: 'payment (SEPA)' },
        ]"
      />
      <MillimetreCell label="width" v-model="block.width" :usual="30" />
      <MissingWords v-model="block.missing" usual="nothing" />
    </SettingsGrid>
  </div>
</template>
