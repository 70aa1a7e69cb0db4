<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { fieldSettings } from '../../shared/settings'
import type { Finding } from '../../shared/types'
import { onChange } from '../changes'
import FindingsFoot from '../parts/FindingsFoot.vue'
import { setTitle, type Station } from '../router'
import { asDay } from '../times'
import { provideIntake } from './intake'
import { asks } from './kinds'

const route = useRoute()
const router = useRouter()
const desk = provideIntake(Number(route.params.id))
const { intake, design, may, keeping, problem, stale, joined, older, past, future, findings } = desk
onMounted(desk.load)
watch(
  () => [design.value?.name, route.params.station] as const,
  ([name, at]) => {
    const tab = String(at).charAt(0).toUpperCase() + String(at).slice(1)
    if (design.value) setTitle(`${name || 'Without a name'}, ${tab}`)
  },
  { immediate: true },
)
const head = ref<HTMLElement>()
const said = ref('')
async function open() {
  const again = intake.value?.state === 'open'
  await desk.setOpen(true)
  if (problem.value) return
  said.value = again ? 'The changes are published.' : 'The intake is open.'
  await nextTick()
  head.value?.focus() // the button that was pressed has gone
}
const clock = (at: number) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'short', timeStyle: 'short' }).format(new Date(at))
// The number of submissions in the head keeps up; the draft itself is mine until the server says otherwise.
onChange(() => {
  if (keeping.value === 'kept') void desk.refresh()
})

const views = {
  form: defineAsyncComponent(() => import('./form/FormStation.vue')),
  documents: defineAsyncComponent(() => import('./documents/DocumentsStation.vue')),
  notices: defineAsyncComponent(() => import('./notices/NoticesStation.vue')),
  filing: defineAsyncComponent(() => import('./filing/FilingStation.vue')),
  opening: defineAsyncComponent(() => import('./opening/OpeningStation.vue')),
}
const station = computed(() => route.params.station as Station)
const faultsIn = (start: string[]) =>
  findings.value.filter((f) => f.level === 'fault' && start.some((s) => f.place.startsWith(s))).length
const faults = computed(() => findings.value.filter((f) => f.level === 'fault').length)

const tabs = computed(() => {
  const d = design.value
  const asked = d?.form.fields.filter((f) => asks(f.kind)).length ?? 0
  const says = (start: string[], otherwise: string) => {
    const n = faultsIn(start)
    return { text: n ? `${n} ${n === 1 ? 'fault' : 'faults'}` : otherwise, fault: n > 0 }
  }
  return [
    { to: 'form', name: 'Form', ...says(['form'], `${asked} ${asked === 1 ? 'field' : 'fields'}`) },
    { to: 'documents', name: 'Documents', ...says(['documents'], String(d?.documents.length ?? 0)) },
    { to: 'notices', name: 'Notices', ...says(['notices'], String(d?.notices.length ?? 0)) },
    { to: 'filing', name: 'Filing', ...says(['filings'], String(d?.filings.length ?? 0)) },
    {
      to: 'opening',
      name: 'Opening',
      ...says(
        ['slug', 'number', 'name', 'opening'],
        intake.value?.state === 'open' ? 'open' : intake.value?.state === 'paused' ? 'paused' : 'not open',
      ),
    },
  ]
})

const standing = computed(() => {
  const i = intake.value
  if (!i) return { text: '', class: '' }
  if (i.state === 'open')
    return { text: `Open since ${asDay(i.opened ?? i.updated)}`, class: 'text-pine font-semibold' }
  if (i.state === 'paused') return { text: '‖ Paused', class: 'text-ochre font-semibold' }
  return { text: i.state === 'closed' ? 'Closed' : 'Not opened yet', class: 'text-slate font-semibold' }
})
const counts = computed(() => {
  const i = intake.value
  if (!i?.version) return ''
  const n = `${i.submissions} ${i.submissions === 1 ? 'submission' : 'submissions'}`
  if (i.failed) return `${n}, ${i.failed} with a fault`
  return i.unfinished ? `${n}, ${i.unfinished} waiting` : n
})
const keptWords = { kept: 'All kept', keeping: 'Keeping', unkept: 'Not kept yet' }

const go = (f: Finding) => goTo(f.place)
/** Writes what a finding proposes, as one step of the history. */
function write(f: Finding) {
  const field = /^form\/fields\/(.+)\/formula$/.exec(f.place)?.[1]
  const [key, column] = (field ?? '').split('.')
  const top = design.value?.form.fields.find((x) => x.key === field || x.key === key)
  const found = top?.key === field ? top : (top && fieldSettings(top).fields)?.find((x) => x.key === column)
  if (!found || !f.write) return
  desk.mark()
  found.formula = f.write
  desk.mark()
  go(f)
}
function goTo(place: string) {
  const parts = place.split('/')
  const places: Record<string, string> = { form: 'form', documents: 'documents', notices: 'notices', filings: 'filing' }
  const to = places[parts[0] ?? ''] ?? 'opening'
  const query =
    to === 'form'
      ? { line: parts[2] }
      : to === 'documents'
        ? { of: parts[1], line: parts[3] }
        : to === 'opening' || parts[0] === 'opening'
          ? {}
          : { of: parts[1] }
  void router.push({ path: `/intakes/${desk.id}/${to}`, query })
}
</script>

<template>
  <main class="flex min-h-0 grow flex-col">
    <template v-if="design && intake">
      <div class="flex min-h-[62px] flex-wrap items-center gap-x-4 gap-y-2 px-3 py-3 sm:px-6">
        <h1 ref="head" tabindex="-1" class="text-[26px] leading-none">{{ design.name || 'Without a name' }}</h1>
        <span class="sr-only" role="status">{{ said }}</span>
        <span :class="standing.class">{{ standing.text }}</span>
        <RouterLink
          v-if="counts && may('records')"
          class="text-soft hover:underline"
          :to="{ path: '/register', query: { intake: desk.id } }"
          >{{ counts }}</RouterLink
        >
        <div class="ml-auto flex flex-wrap items-center gap-3">
          <span role="status" class="text-soft" :class="{ 'text-ochre': keeping === 'unkept' }" data-keeping>{{
            keptWords[keeping]
          }}</span>
          <button class="button" :disabled="!past.length" @click="desk.undo">Undo</button>
          <button class="button" :disabled="!future.length" @click="desk.redo">Redo</button>
          <a v-if="intake.version" class="button" :href="`/f/${intake.address}`" target="_blank" rel="noopener"
            >See it as a respondent</a
          >
          <button
            v-if="may('open') && (intake.state !== 'open' || intake.changed)"
            class="button button-main"
            :disabled="faults > 0"
            :title="faults ? 'Mend the faults first' : undefined"
            @click="open"
          >
            {{
              intake.state === 'open'
                ? 'Publish the changes'
                : intake.state === 'paused'
                  ? 'Open it again'
                  : 'Open the intake'
            }}
          </button>
        </div>
      </div>
      <div
        v-if="stale"
        role="alert"
        class="mx-3 mb-2 flex flex-wrap items-center gap-4 border-2 border-madder bg-sheet px-4 py-2 sm:mx-6"
      >
        <p class="grow">
          <strong>Somebody else has changed the same places of this intake.</strong> Your changes are kept in this
          browser and nothing was overwritten.
        </p>
        <button class="button" @click="desk.yieldTo">Take theirs</button>
        <button class="button" @click="desk.overrule">Keep mine there</button>
      </div>
      <div
        v-if="older"
        role="alert"
        class="mx-3 mb-2 flex flex-wrap items-center gap-4 border-2 border-amber-ink bg-sheet px-4 py-2 sm:mx-6"
      >
        <p class="grow">
          <strong>There is other work of yours from {{ clock(older.at) }} in this browser.</strong> It was not kept,
          since the intake has changed.
        </p>
        <button class="button" @click="desk.takeOlder">Take it</button>
        <button class="button" @click="desk.throwAway">Throw it away</button>
      </div>
      <p v-if="joined && !stale" role="status" class="mx-3 mb-2 flex items-center gap-4 text-soft sm:mx-6">
        ● Somebody else changed other places meanwhile; both are kept.
        <button class="link" @click="joined = false">Good</button>
      </p>
      <p v-if="!may('design')" class="mx-3 mb-2 text-soft sm:mx-6" data-looking>
        You may look at this intake. What is typed here is not kept: designers and owners change it.
      </p>
      <p v-if="problem && !stale" role="alert" class="mx-3 mb-2 font-semibold text-madder sm:mx-6">✕ {{ problem }}</p>
      <nav aria-label="Stations" class="flex flex-wrap gap-1 px-3 sm:px-6">
        <RouterLink
          v-for="(t, i) in tabs"
          :key="t.to"
          :to="`/intakes/${desk.id}/${t.to}`"
          class="flex min-h-[38px] items-center gap-2 border-t-[3px] px-4"
          :class="
            station === t.to
              ? 'border-amber bg-sheet font-semibold forced-colors:border-[Highlight]'
              : 'border-deep bg-deep hover:bg-bed forced-colors:border-[Canvas]'
          "
          :aria-current="station === t.to ? 'page' : undefined"
        >
          <span class="font-title text-[15px] font-semibold">{{ i + 1 }}</span> {{ t.name }}
          <span
            class="text-[13px] font-normal"
            :class="t.fault ? '!font-semibold text-madder' : station === t.to ? 'text-soft' : 'text-slate'"
            >{{ t.text }}</span
          >
        </RouterLink>
      </nav>
      <div class="flex min-h-0 grow flex-col px-3 sm:px-6">
        <component :is="views[station]" :key="station" @go="goTo" />
      </div>
      <FindingsFoot :findings="findings" @go="go" @write="write" />
    </template>
    <p v-else-if="problem" class="p-6" role="alert">
      ✕ {{ problem }} <RouterLink class="link" to="/intakes">See all intakes</RouterLink>
    </p>
    <p v-else class="p-6 text-soft">One moment</p>
  </main>
</template>
