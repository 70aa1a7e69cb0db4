<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import MillimetreWord from './MillimetreWord.vue'
import MissingWords from './MissingWords.vue'
import PayeeSettings from './PayeeSettings.vue'

/** What a code says and how it is drawn. */
const block = defineModel<BlockSettings>({ required: true })
function setCode(e: Event) {
  block.value.symbology = (e.target as HTMLSelectElement).value as NonNullable<BlockSettings['symbology']>
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
    <div><span class="text-soft">says</span><PhraseEditor v-model:line="block.text" label="What the code says" /></div>
    <p class="words text-[13px]">
      often:
      <button v-for="p in presets" :key="p.words" type="button" class="link min-h-[24px]" @click="take(p)">
        {{ p.words }}
      </button>
    </p>
    <PayeeSettings v-if="block.symbology === 'payment'" :model-value="block" />
    <div class="words">
      <label>
        as
        <select class="word" :value="block.symbology ?? 'qr'" @change="setCode($event)">
          <option value="qr">QR</option>
          <option value="datamatrix">Data Matrix</option>
          <option value="code128">Code 128</option>
          <option value="ean13">EAN-13</option>
          <option value="payment">payment (SEPA)</option>
        </select>
      </label>
      <label>width <MillimetreWord v-model="block.width" label="Width in millimetres" :usual="30" /> mm</label>
      <MissingWords v-model="block.missing" usual="nothing" />
    </div>
  </div>
</template>
