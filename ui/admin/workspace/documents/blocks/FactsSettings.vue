<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import EntryCell from '../../../parts/EntryCell.vue'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** Which facts stand in labelled tiles; one of them may matter most. */
const block = defineModel<BlockSettings>({ required: true })
defineProps<{ optional?: boolean }>()
function strengthen(i: number, on: boolean) {
  for (const [k, tile] of (block.value.tiles ?? []).entries()) {
    if (on && k === i) tile.accent = true
    else delete tile.accent
  }
}
function add() {
  block.value.tiles = [...(block.value.tiles ?? []), { label: '', text: [] }]
}
</script>

<template>
  <div class="grid gap-2">
    <p v-if="!optional && !block.tiles?.length" class="text-ochre">{{ $t('blocks.fewFacts') }}</p>
    <div v-for="(tile, i) in block.tiles ?? []" :key="i" class="grid gap-1 border-l-2 border-rule pl-3" data-tile>
      <PhraseEditor v-model:line="tile.text" :label="$t('blocks.factSays', { i: i + 1 })" />
      <SettingsGrid>
        <EntryCell
          :label="$t('blocks.factLabel')"
          :model-value="tile.label"
          @update:model-value="tile.label = $event"
        />
        <label class="flex items-center gap-1"
          ><input
            type="checkbox"
            :checked="tile.accent ?? false"
            @change="strengthen(i, ($event.target as HTMLInputElement).checked)"
          />
          {{ $t('blocks.factStrong') }}</label
        >
        <button type="button" class="link text-[13px]" @click="block.tiles!.splice(i, 1)">
          {{ $t('blocks.remove') }}<span class="sr-only">{{ ' ' + $t('blocks.fact', { i: i + 1 }) }}</span>
        </button>
      </SettingsGrid>
    </div>
    <p class="text-[13px]">
      <button type="button" class="link" @click="add">{{ $t('blocks.addFact') }}</button>
    </p>
  </div>
</template>
