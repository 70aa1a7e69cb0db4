<script setup lang="ts">
import type { BlockSettings } from '../../../../shared/types'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** How many columns stand beside each other, and how wide each is. */
const block = defineModel<BlockSettings>({ required: true })
function setCount(n: number) {
  const sides = block.value.sides ?? []
  while (sides.length < n) sides.push({ blocks: [] })
  // What stood in a column that goes joins the last one that stays.
  const gone = sides.splice(n)
  sides.at(-1)?.blocks.push(...gone.flatMap((s) => s.blocks))
  block.value.sides = [...sides]
}
const share = (e: Event) => Math.max(0.1, Number((e.target as HTMLInputElement).value.replace(',', '.')) || 1)
</script>

<template>
  <SettingsGrid>
    <ChoiceCell
      :label="$t('blocks.columns')"
      :model-value="block.sides?.length ?? 2"
      @update:model-value="setCount($event)"
      :options="[2, 3, 4].map((n) => ({ value: n, words: String(n) }))"
    />
    <span
      >{{ $t('blocks.widths') }}
      <input
        v-for="(s, i) in block.sides ?? []"
        :key="i"
        class="word w-[40px]"
        inputmode="decimal"
        :aria-label="$t('blocks.shareColumn', { i: i + 1 })"
        :value="s.share ?? 1"
        @change="s.share = share($event)"
    /></span>
  </SettingsGrid>
</template>
