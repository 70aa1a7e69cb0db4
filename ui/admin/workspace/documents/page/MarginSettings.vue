<script setup lang="ts">
import type { PaperDocument } from '../../../../shared/types'
import EntryCell from '../../../parts/EntryCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import { t } from '../../../words'

/** The page's margins in millimetres; those of the look when none are written. */
const page = defineModel<PaperDocument['page']>({ required: true })
type Margins = NonNullable<PaperDocument['page']['margins']>
const sides = { top: t('page.top2'), right: t('page.right2'), bottom: t('page.foot2'), left: t('page.left2') } as const
function set(side: keyof Margins, typed: string) {
  const text = typed.replace(',', '.').trim()
  const n = Number(text)
  if (text && n >= 0)
    page.value.margins = { top: 20, right: 20, bottom: 22, left: 20, ...page.value.margins, [side]: n }
}
</script>

<template>
  <SettingsGrid>
    <EntryCell
      v-for="(words, side) in sides"
      :key="side"
      :label="$t('page.marginMm', { words })"
      mode="decimal"
      :placeholder="$t('page.looks')"
      :model-value="String(page.margins?.[side] ?? '')"
      @update:model-value="set(side, $event)"
    />
  </SettingsGrid>
</template>
