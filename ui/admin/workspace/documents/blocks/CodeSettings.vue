<script setup lang="ts">
import type { Block } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import MillimetreWord from './MillimetreWord.vue'
import MissingWords from './MissingWords.vue'
import PayeeSettings from './PayeeSettings.vue'

/** What a code says and how it is drawn. */
const block = defineModel<Block>({ required: true })
function setCode(e: Event) {
  block.value.code = (e.target as HTMLSelectElement).value as NonNullable<Block['code']>
  if (block.value.code === 'payment') block.value.payee ??= { iban: '' }
}
</script>

<template>
  <div class="grid gap-3">
    <div><span class="text-soft">says</span><PhraseEditor v-model:line="block.text" label="What the code says" /></div>
    <PayeeSettings v-if="block.code === 'payment'" v-model="block" />
    <div class="words">
      <label>
        as
        <select class="word" :value="block.code ?? 'qr'" @change="setCode($event)">
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
