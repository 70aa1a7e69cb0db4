<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { computed, nextTick, onMounted, provide, ref, watch } from 'vue'
import LostPart from '../parts/LostPart.vue'
import { part } from '../../shared/part'
import { useRoute, useRouter } from 'vue-router'
import { fieldSettings } from '../../shared/settings'
import type { Finding } from '../../shared/types'
import { onChange } from '../changes'
import { lockedKey } from '../parts/locked'
import FindingsFoot from '../parts/FindingsFoot.vue'
import { setTitle, type Station } from '../router'
import { asDay } from '../times'
import { provideIntake } from './intake'
import { asks } from './kinds'
import { t } from '../words'

const route = useRoute()
const router = useRouter()
const draft = provideIntake(Number(route.params.id))
const { intake, design, may, keeping, problem, stale, joined, older, past, future, findings } = draft
onMounted(draft.load)
provide(
  lockedKey,
  computed(() => !may('design')),
)
const head = ref<HTMLElement>()
const said = ref('')
async function open() {
  const again = intake.value?.state === 'open'
  await draft.setOpen(true)
  if (problem.value) return
  said.value = again ? t('workspace.changesPublished') : t('workspace.intakeOpen')
  await nextTick()
  head.value?.focus() // the button that was pressed has gone
}
const clock = (at: number) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'short', timeStyle: 'short' }).format(new Date(at))
// The number of submissions in the head keeps up; the draft itself is mine until the server says otherwise.
onChange(() => {
  if (keeping.value === 'kept') void draft.refresh()
})

const views = {
  form: part(() => import('./form/FormStation.vue'), LostPart),
  documents: part(() => import('./documents/DocumentsStation.vue'), LostPart),
  notices: part(() => import('./notices/NoticesStation.vue'), LostPart),
  filing: part(() => import('./filing/FilingStation.vue'), LostPart),
  opening: part(() => import('./opening/OpeningStation.vue'), LostPart),
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
    return { text: n ? t('workspace.faults', n) : otherwise, fault: n > 0 }
  }
  return [
    { to: 'form', name: t('workspace.form'), ...says(['form'], t('workspace.fields', asked)) },
    { to: 'documents', name: t('workspace.documents'), ...says(['documents'], String(d?.documents.length ?? 0)) },
    { to: 'notices', name: t('workspace.notices'), ...says(['notices'], String(d?.notices.length ?? 0)) },
    { to: 'filing', name: t('workspace.filing'), ...says(['filings'], String(d?.filings.length ?? 0)) },
    {
      to: 'opening',
      name: t('workspace.opening'),
      ...says(
        ['slug', 'number', 'name', 'opening'],
        intake.value?.state === 'open'
          ? t('workspace.isOpen')
          : intake.value?.state === 'paused'
            ? t('workspace.isPaused')
            : t('workspace.notOpen'),
      ),
    },
  ]
})

watch(
  () => [design.value, design.value?.name, station.value] as const,
  ([known, name, at]) => {
    const tab = tabs.value.find((x) => x.to === at)?.name
    if (known) setTitle(`${name || t('workspace.withoutName')}, ${tab}`)
  },
  { immediate: true },
)

const standing = computed(() => {
  const i = intake.value
  if (!i) return { text: '', class: '' }
  if (i.state === 'open')
    return { text: t('workspace.openSince', { asDay: asDay(i.opened ?? i.updated) }), class: 'text-pine font-semibold' }
  if (i.state === 'paused') return { text: t('workspace.paused'), class: 'text-ochre font-semibold' }
  return {
    text: i.state === 'closed' ? t('workspace.closed') : t('workspace.notOpenedYet'),
    class: 'text-slate font-semibold',
  }
})
const counts = computed(() => {
  const i = intake.value
  if (!i?.version) return ''
  const n = t('workspace.submissions', i.submissions)
  if (i.failed) return t('workspace.withFaults', { n, failed: i.failed })
  return i.unfinished ? t('workspace.waiting', { n, unfinished: i.unfinished }) : n
})
const keptWords = { kept: t('workspace.allKept'), keeping: t('workspace.keeping'), unkept: t('workspace.notKeptYet') }

const go = (f: Finding) => goTo(f.place)
/** Writes what a finding proposes, as one step of the history. */
function write(f: Finding) {
  const field = /^form\/fields\/(.+)\/formula$/.exec(f.place)?.[1]
  const [key, column] = (field ?? '').split('.')
  const top = design.value?.form.fields.find((x) => x.key === field || x.key === key)
  const found = top?.key === field ? top : (top && fieldSettings(top).fields)?.find((x) => x.key === column)
  if (!found || !f.write) return
  draft.mark()
  found.formula = f.write
  draft.mark()
  go(f)
}
function goTo(place: string) {
  const parts = place.split('/')
  const places: Record<string, string> = {
    form: 'form',
    documents: 'documents',
    notices: 'notices',
    filings: 'filing',
  }
  const to = places[parts[0] ?? ''] ?? 'opening'
  const query =
    to === 'form'
      ? { line: parts[2] }
      : to === 'documents'
        ? { of: parts[1], line: parts[2] === 'marks' ? `mark ${parts[3]}` : parts[3] }
        : to === 'opening' || parts[0] === 'opening'
          ? {}
          : { of: parts[1] }
  void router.push({ path: `/intakes/${draft.id}/${to}`, query })
}
</script>

<template>
  <main class="flex min-h-0 grow flex-col">
    <template v-if="design && intake">
      <div class="flex min-h-[62px] flex-wrap items-center gap-x-4 gap-y-2 px-3 py-3 sm:px-6">
        <h1 ref="head" tabindex="-1" class="text-[26px] leading-none">
          {{ design.name || $t('workspace.withoutName') }}
        </h1>
        <span class="sr-only" role="status">{{ said }}</span>
        <span :class="standing.class">{{ standing.text }}</span>
        <RouterLink
          v-if="counts && may('records')"
          class="text-soft hover:underline"
          :to="{ path: '/register', query: { intake: draft.id } }"
          >{{ counts }}</RouterLink
        >
        <div class="ml-auto flex flex-wrap items-center gap-3">
          <span
            v-if="may('design')"
            role="status"
            class="text-soft"
            :class="{ 'text-ochre': keeping === 'unkept' }"
            data-keeping
            >{{ keptWords[keeping] }}</span
          >
          <template v-if="may('design')">
            <ActionButton :disabled="!past.length" @click="draft.undo">{{ $t('workspace.undo') }}</ActionButton>
            <ActionButton :disabled="!future.length" @click="draft.redo">{{ $t('workspace.redo') }}</ActionButton>
          </template>
          <a v-if="intake.version" class="button" :href="`/f/${intake.address}`" target="_blank" rel="noopener">{{
            $t('workspace.seeAsRespondent')
          }}</a>
          <ActionButton
            v-if="may('open') && station !== 'opening' && (intake.state !== 'open' || intake.changed)"
            main
            :disabled="faults > 0"
            :title="faults ? $t('workspace.mendFaultsFirst') : undefined"
            @click="open"
          >
            {{
              intake.state === 'open'
                ? $t('workspace.publishChanges')
                : intake.state === 'paused'
                  ? $t('workspace.openAgain')
                  : $t('workspace.openIntake')
            }}
          </ActionButton>
        </div>
      </div>
      <div
        v-if="stale"
        role="alert"
        class="mx-3 mb-2 flex flex-wrap items-center gap-4 border-2 border-madder bg-sheet px-4 py-2 sm:mx-6"
      >
        <p class="grow">
          <strong>{{ $t('workspace.somebodyElseHasChangedSame') }}</strong>
          {{ $t('workspace.yourChangesKeptBrowserNothing') }}
        </p>
        <ActionButton @click="draft.yieldTo">{{ $t('workspace.takeTheirs') }}</ActionButton>
        <ActionButton @click="draft.overrule">{{ $t('workspace.keepMineThere') }}</ActionButton>
      </div>
      <div
        v-if="older"
        role="alert"
        class="mx-3 mb-2 flex flex-wrap items-center gap-4 border-2 border-amber-ink bg-sheet px-4 py-2 sm:mx-6"
      >
        <p class="grow">
          <strong>{{ $t('workspace.thereOtherWorkYoursFrom', { clock: clock(older.at) }) }}</strong>
          {{ $t('workspace.wasNotKeptSinceIntake') }}
        </p>
        <ActionButton @click="draft.takeOlder">{{ $t('workspace.take') }}</ActionButton>
        <ActionButton @click="draft.throwAway">{{ $t('workspace.throwAway') }}</ActionButton>
      </div>
      <p v-if="joined && !stale" role="status" class="mx-3 mb-2 flex items-center gap-4 text-soft sm:mx-6">
        {{ $t('workspace.somebodyElseChangedOtherPlaces') }}
        <button class="link" @click="joined = false">{{ $t('workspace.good') }}</button>
      </p>
      <p v-if="!may('design')" class="mx-3 mb-2 text-soft sm:mx-6" data-looking>
        {{ $t('workspace.youMayLook') }}
      </p>
      <p v-if="problem && !stale" role="alert" class="mx-3 mb-2 font-semibold text-madder sm:mx-6">✕ {{ problem }}</p>
      <nav :aria-label="$t('workspace.stations')" class="flex flex-wrap gap-1 px-3 sm:px-6">
        <RouterLink
          v-for="(tab, i) in tabs"
          :key="tab.to"
          :to="`/intakes/${draft.id}/${tab.to}`"
          class="flex min-h-[38px] items-center gap-2 border-t-[3px] px-4"
          :class="
            station === tab.to
              ? 'border-amber bg-sheet font-semibold forced-colors:border-[Highlight]'
              : 'border-deep bg-deep hover:bg-bed forced-colors:border-[Canvas]'
          "
          :aria-current="station === tab.to ? 'page' : undefined"
        >
          <span class="font-title text-[15px] font-semibold">{{ i + 1 }}</span> {{ tab.name }}
          <span
            class="text-[13px] font-normal"
            :class="tab.fault ? '!font-semibold text-madder' : station === tab.to ? 'text-soft' : 'text-slate'"
            >{{ tab.text }}</span
          >
        </RouterLink>
      </nav>
      <div class="flex min-h-0 grow flex-col px-3 sm:px-6">
        <component :is="views[station]" :key="station" @go="goTo" />
      </div>
      <FindingsFoot :findings="findings" :design="design" @go="go" @write="write" />
    </template>
    <p v-else-if="problem" class="p-6" role="alert">
      ✕ {{ problem }} <RouterLink class="link" to="/intakes">{{ $t('workspace.seeAllIntakes') }}</RouterLink>
    </p>
    <p v-else class="p-6 text-soft">{{ $t('workspace.oneMoment') }}</p>
  </main>
</template>
