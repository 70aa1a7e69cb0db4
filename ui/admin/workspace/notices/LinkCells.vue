<script setup lang="ts">
import { computed } from 'vue'
import type { Enclosure } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import { put } from '../../settings'
import { t } from '../../words'

/** Whether what a notice carries goes along, or comes by links that work for a time. */
const list = defineModel<Enclosure[]>({ required: true })
const link = computed(() => list.value.find((e) => e.link)?.link)
const ways = [
  { value: 'along', words: t('notices.goesAlong'), note: t('notices.goesAlongNote') },
  { value: 'link', words: t('notices.byLink'), note: t('notices.byLinkNote') },
]
function set(to: Enclosure['link'] | undefined) {
  list.value = list.value.map((e) => put(e, 'link', to))
}
function count(of: 'days' | 'openings', s: string) {
  const next = { ...link.value, [of]: Math.max(0, Math.round(Number(s)) || 0) }
  set({ ...(next.days ? { days: next.days } : {}), ...(next.openings ? { openings: next.openings } : {}) })
}
</script>

<template>
  <SettingsGrid>
    <ChoiceCell
      :label="$t('notices.howTheyGo')"
      :model-value="link ? 'link' : 'along'"
      :options="ways"
      @update:model-value="set($event === 'link' ? { days: 14 } : undefined)"
    />
    <template v-if="link">
      <EntryCell
        mode="numeric"
        :label="$t('notices.worksDays')"
        :help="$t('notices.forEver')"
        :model-value="String(link.days ?? 0)"
        @update:model-value="count('days', $event)"
      />
      <EntryCell
        mode="numeric"
        :label="$t('notices.worksOpenings')"
        :help="$t('notices.anyNumber')"
        :model-value="String(link.openings ?? 0)"
        @update:model-value="count('openings', $event)"
      />
    </template>
  </SettingsGrid>
</template>
