<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import MissingWords from './MissingWords.vue'
import PayeeSettings from './PayeeSettings.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import MillimetreCell from './MillimetreCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import { t } from '../../../words'

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
  { words: t('blocks.checkAddress'), code: 'qr', text: [{ field: '@check' }] },
  { words: t('blocks.linkReadAgain'), code: 'qr', text: [{ field: '@link' }] },
  { words: t('blocks.number2'), code: 'code128', text: [{ field: '@number' }] },
  { words: t('blocks.webAddress'), code: 'qr', text: [{ text: 'https://' }] },
  { words: t('blocks.payment'), code: 'payment', text: [{ field: '@number' }] },
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
      <span class="text-[13px] text-soft">{{ $t('blocks.says') }}</span><PhraseEditor
        v-model:line="block.text"
        :label="$t('blocks.whatCodeSays')"
      />
    </div>
    <p class="flex flex-wrap gap-x-4 text-[13px] text-soft">
      {{ $t('blocks.often') }}
      <button v-for="p in presets" :key="p.words" type="button" class="link min-h-[24px]" @click="take(p)">
        {{ p.words }}
      </button>
    </p>
    <div>
      <span class="text-[13px] text-soft">{{ $t('blocks.codeCaption') }}</span><PhraseEditor
        v-model:line="block.caption"
        :label="$t('blocks.codeCaption')"
      />
    </div>
    <PayeeSettings v-if="block.symbology === 'payment'" :model-value="block" />
    <SettingsGrid>
      <ChoiceCell
        :label="$t('blocks.kindCode')"
        :model-value="block.symbology ?? 'qr'"
        @update:model-value="setCode($event)"
        :options="[
          { value: 'qr', words: $t('blocks.qr') },
          { value: 'datamatrix', words: $t('blocks.dataMatrix') },
          { value: 'code128', words: $t('blocks.code128') },
          { value: 'ean13', words: $t('blocks.ean13') },
          { value: 'payment', words: $t('blocks.paymentSepa') },
        ]"
      />
      <MillimetreCell :label="$t('blocks.width')" v-model="block.width" :usual="30" />
      <MissingWords v-model="block.missing" usual="nothing" />
    </SettingsGrid>
  </div>
</template>
