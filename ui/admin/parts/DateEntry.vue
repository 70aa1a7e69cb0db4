<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { isoOf, pattern, readDay, written } from '../../shared/dates'
import { session } from '../session'
import DayGrid from './DayGrid.vue'
import { PanelPlace } from './panelPlace'

/**
 * A day, or with `timed` a day and a time, typed in the house’s order or chosen in a month. It is kept as 2026-11-24 or
 * 2026-11-24T09:00.
 */
const props = defineProps<{ label: string; timed?: boolean; inline?: boolean }>()
const value = defineModel<string | undefined>({ required: true })
const language = computed(() => session.value?.language || 'en-GB')
const day = computed(() => value.value?.slice(0, 10) ?? '')
const time = computed(() => value.value?.slice(11, 16) ?? '')
const typed = ref('')
const wrong = ref(false)
watch([day, language], () => (typed.value = written(day.value, language.value)), { immediate: true })

function put(d: string, t: string) {
  wrong.value = false
  if (!d) value.value = undefined
  else value.value = props.timed ? `${d}T${t || '00:00'}` : d
}
function take() {
  if (!typed.value.trim()) return put('', '')
  const d = readDay(typed.value, language.value)
  if (d) put(d, time.value)
  else wrong.value = true
}
function takeTime(e: Event) {
  const m = /^(\d{1,2})[:.h]?(\d{2})?$/.exec((e.target as HTMLInputElement).value.trim())
  const [h, min] = [Number(m?.[1]), Number(m?.[2] ?? 0)]
  if (m && h < 24 && min < 60)
    put(day.value || isoOf(new Date()), `${String(h).padStart(2, '0')}:${String(min).padStart(2, '0')}`)
  else (e.target as HTMLInputElement).value = time.value
}
const button = useTemplateRef<object>('button')
</script>

<template>
  <div :class="inline ? 'inline-flex' : 'flex'" class="min-w-0 flex-wrap items-stretch gap-2">
    <Popover class="flex min-w-0">
      <input
        v-model="typed"
        :class="inline ? 'word w-[92px]' : 'entry min-h-[34px] w-[120px]'"
        :aria-label="label"
        :aria-invalid="wrong ? 'true' : undefined"
        :placeholder="pattern(language)"
        autocomplete="off"
        @change="take"
      />
      <PopoverButton
        ref="button"
        :class="inline ? 'link px-1' : 'border border-l-0 border-edge px-2'"
        :aria-label="$t('parts.chooseMonth', { label })"
        >▦</PopoverButton
      >
      <PopoverPanel v-slot="{ close }" class="panel p-3">
        <PanelPlace :anchor="button ?? undefined" narrow />
        <DayGrid :day="day || isoOf(new Date())" :language="language" @choose="(put($event, time), close())" />
      </PopoverPanel>
    </Popover>
    <input
      v-if="timed"
      :class="inline ? 'word w-[52px]' : 'entry min-h-[34px] w-[76px]'"
      :aria-label="$t('parts.time', { label })"
      :value="time"
      :placeholder="$t('parts.hhMm')"
      autocomplete="off"
      @change="takeTime"
    />
    <span v-if="wrong" role="alert" class="w-full font-semibold text-madder">{{
      $t('parts.writeAs', { pattern: pattern(language) })
    }}</span>
  </div>
</template>
