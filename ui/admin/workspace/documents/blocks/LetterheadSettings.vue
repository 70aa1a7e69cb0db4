<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import FactsSettings from './FactsSettings.vue'

/** To whom the document goes, and what stands beside the address. */
const block = defineModel<BlockSettings>({ required: true })
</script>

<template>
  <div class="grid gap-3">
    <div>
      <span class="text-[13px] text-soft">{{ $t('blocks.letterTo') }}</span>
      <PhraseEditor v-model:body="block.to" rich :label="$t('blocks.letterTo')" />
    </div>
    <div>
      <span class="text-[13px] text-soft">{{ $t('blocks.letterBeside') }}</span>
      <FactsSettings v-model="block" optional />
    </div>
  </div>
</template>
