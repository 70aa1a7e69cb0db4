<script setup lang="ts">
import { computed } from 'vue'
import type { Notice } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import { useIntake } from '../intake'
import { t } from '../../words'
import CollectCells from './CollectCells.vue'

/** When a notice goes: at once, some time after the arrival, around a day that an answer gives, or collected with others. */
const notice = defineModel<Notice>({ required: true })
const { design } = useIntake()

const ways = computed(() => [
  { value: 'now', words: t('notices.atOnce') },
  { value: 'arrival', words: t('notices.afterArrival') },
  ...(design.value?.form.fields ?? [])
    .filter((f) => f.kind === 'date' || f.kind === 'date_time')
    .map((f) => ({ value: `day ${f.key}`, words: t('notices.byDayOf', { label: f.label }) })),
  { value: 'collect day', words: t('notices.collectedDaily') },
  { value: 'collect week', words: t('notices.collectedWeekly') },
  { value: 'collect count', words: t('notices.collectedCount') },
])
const way = computed(() => {
  const d = notice.value.delay
  if (notice.value.collect) return `collect ${notice.value.collect.every}`
  if (!d) return 'now'
  return d.field ? `day ${d.field}` : 'arrival'
})
const usual: Record<string, NonNullable<Notice['collect']>> = {
  'collect day': { every: 'day', at: '17:00' },
  'collect week': { every: 'week', day: 'friday', at: '17:00' },
  'collect count': { every: 'count', count: 10 },
}
function choose(to: string) {
  const collect = usual[to]
  delete notice.value.delay
  if (collect) {
    notice.value.collect = { ...collect, ...(notice.value.collect?.joined ? { joined: true } : {}) }
    return
  }
  delete notice.value.collect
  if (to === 'now') return
  notice.value.delay = to === 'arrival' ? { days: 1 } : { field: to.slice(4), days: -1, at: '09:00' }
}
const days = computed(() => Math.abs(notice.value.delay?.days ?? 0))
const before = computed(() => (notice.value.delay?.days ?? 0) < 0)
function set(to: Partial<NonNullable<Notice['delay']>>) {
  const next = { ...notice.value.delay, ...to }
  notice.value.delay = {
    ...(next.field ? { field: next.field } : {}),
    ...(next.days ? { days: next.days } : {}),
    ...(next.minutes ? { minutes: next.minutes } : {}),
    ...(next.at ? { at: next.at } : {}),
  }
}
const setDays = (n: number, earlier: boolean) => set({ days: (earlier ? -1 : 1) * Math.max(0, Math.round(n) || 0) })
</script>

<template>
  <SettingsGrid>
    <ChoiceCell :label="$t('notices.goes')" :model-value="way" :options="ways" @update:model-value="choose" />
    <CollectCells v-if="notice.collect" v-model="notice" />
    <template v-if="notice.delay">
      <EntryCell
        :label="$t('notices.days')"
        mode="numeric"
        :model-value="String(days)"
        @update:model-value="setDays(Number($event), before)"
      />
      <ChoiceCell
        v-if="notice.delay.field"
        :label="$t('notices.beforeOrAfter')"
        :model-value="before ? 'before' : 'after'"
        :options="[
          { value: 'before', words: $t('notices.before') },
          { value: 'after', words: $t('notices.after') },
        ]"
        @update:model-value="setDays(days, $event === 'before')"
      />
      <EntryCell
        :label="$t('notices.hour')"
        placeholder="09:00"
        :help="$t('notices.hourHelp')"
        :model-value="notice.delay.at ?? ''"
        @update:model-value="set({ at: $event.trim() })"
      />
      <EntryCell
        v-if="!notice.delay.field"
        :label="$t('notices.minutes')"
        mode="numeric"
        :model-value="String(notice.delay.minutes ?? 0)"
        @update:model-value="set({ minutes: Math.max(0, Math.round(Number($event)) || 0) })"
      />
    </template>
  </SettingsGrid>
</template>
