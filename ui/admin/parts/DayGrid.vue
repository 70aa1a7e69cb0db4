<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue'
import { later, monthsLater, weeksOf } from '../../shared/dates'

/** A month to choose a day from, by the ARIA pattern of a date grid: arrows go by days and weeks, Page Up and Down by months. */
const props = defineProps<{ day: string; language: string }>()
const emit = defineEmits<{ choose: [day: string] }>()
const at = ref(props.day)
const table = useTemplateRef<HTMLElement>('table')
const weeks = computed(() => weeksOf(at.value, props.language))
const utc = (iso: string) => new Date(`${iso}T00:00:00Z`)
const said = (iso: string, how: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { ...how, timeZone: 'UTC' }).format(utc(iso))
const steps: Record<string, (iso: string) => string> = {
  ArrowLeft: (d) => later(d, -1),
  ArrowRight: (d) => later(d, 1),
  ArrowUp: (d) => later(d, -7),
  ArrowDown: (d) => later(d, 7),
  PageUp: (d) => monthsLater(d, -1),
  PageDown: (d) => monthsLater(d, 1),
  Home: (d) => weeks.value.find((w) => w.includes(d))![0]!,
  End: (d) => weeks.value.find((w) => w.includes(d))![6]!,
}
async function focus() {
  await nextTick()
  table.value?.querySelector<HTMLElement>('[tabindex="0"]')?.focus()
}
function press(e: KeyboardEvent) {
  const step = steps[e.key]
  if (!step) return
  e.preventDefault()
  at.value = step(at.value)
  void focus()
}
onMounted(focus)
</script>

<template>
  <div>
    <div class="mb-2 flex items-center justify-between gap-3">
      <button type="button" class="link" :aria-label="$t('parts.monthBefore')" @click="at = monthsLater(at, -1)">
        ◂
      </button>
      <strong aria-live="polite">{{ said(at, { month: 'long', year: 'numeric' }) }}</strong>
      <button type="button" class="link" :aria-label="$t('parts.monthAfter')" @click="at = monthsLater(at, 1)">
        ▸
      </button>
    </div>
    <table ref="table" role="grid" :aria-label="said(at, { month: 'long', year: 'numeric' })" @keydown="press">
      <thead>
        <tr>
          <th v-for="d in weeks[0]" :key="d" scope="col" class="w-9 text-center text-[13px] font-normal text-soft">
            {{ said(d, { weekday: 'narrow' }) }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in weeks" :key="w[0]">
          <td v-for="d in w" :key="d" role="gridcell" :aria-selected="d === day" class="p-0 text-center">
            <button
              type="button"
              class="size-9 tabular-nums"
              :class="[
                d === day ? 'bg-ink text-white' : 'hover:bg-amber-wash',
                d.slice(0, 7) === at.slice(0, 7) || d === day ? '' : 'text-soft',
              ]"
              :tabindex="d === at ? 0 : -1"
              :aria-label="said(d, { dateStyle: 'full' })"
              @click="emit('choose', d)"
            >
              {{ Number(d.slice(8)) }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
