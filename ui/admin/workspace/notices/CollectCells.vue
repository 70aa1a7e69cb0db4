<script setup lang="ts">
import type { Notice } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import { t } from '../../words'
import { weekdays } from './said'

/** When what was collected goes, and how its documents do. */
const notice = defineModel<Notice>({ required: true })
type Collect = NonNullable<Notice['collect']>
function set(to: Partial<Collect>) {
  if (!notice.value.collect) return
  const { joined, ...rest } = { ...notice.value.collect, ...to }
  notice.value.collect = { ...rest, ...(joined ? { joined } : {}) }
}
const ways = [
  { value: 'each', words: t('notices.eachForItself') },
  { value: 'joined', words: t('notices.joined') },
]
</script>

<template>
  <template v-if="notice.collect">
    <ChoiceCell
      v-if="notice.collect.every === 'week'"
      :label="$t('notices.weekday')"
      :model-value="notice.collect.day ?? ''"
      :options="weekdays"
      @update:model-value="set({ day: $event })"
    />
    <EntryCell
      v-if="notice.collect.every === 'count'"
      :label="$t('notices.howMany')"
      mode="numeric"
      :model-value="String(notice.collect.count ?? 0)"
      @update:model-value="set({ count: Math.max(0, Math.round(Number($event)) || 0) })"
    />
    <EntryCell
      v-else
      :label="$t('notices.hour')"
      placeholder="17:00"
      :model-value="notice.collect.at ?? ''"
      @update:model-value="set({ at: $event.trim() })"
    />
    <ChoiceCell
      v-if="notice.attach.length"
      :label="$t('notices.howDocumentsGo')"
      :model-value="notice.collect.joined ? 'joined' : 'each'"
      :options="ways"
      @update:model-value="set({ joined: $event === 'joined' })"
    />
    <p class="col-span-full text-[13px] text-soft">{{ $t('notices.collectedHelp') }}</p>
  </template>
</template>
