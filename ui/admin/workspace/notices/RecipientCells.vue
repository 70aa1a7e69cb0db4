<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { fieldSettings } from '../../../shared/settings'
import type { Notice, Span } from '../../../shared/types'
import { api, data } from '../../api'
import { roles } from '../../people/people'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import TickList from '../../parts/TickList.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import { useIntake } from '../intake'
import { t } from '../../words'

/** Whom a notice goes to besides its first line: by an answer, people of the house, copies; and where answers to it go. */
const notice = defineModel<Notice>({ required: true })
const { design } = useIntake()

const choosers = computed(() =>
  (design.value?.form.fields ?? []).filter((f) => ['one_of', 'one_pictured', 'several_of'].includes(f.kind)),
)
const ways = computed(() => [
  { value: '', words: t('notices.noAnswer') },
  ...choosers.value.map((f) => ({ value: f.key, words: f.label })),
])
const choices = computed(() => {
  const f = choosers.value.find((x) => x.key === notice.value.route?.field)
  return f ? (fieldSettings(f).choices ?? []) : []
})
function choose(field: string) {
  if (field) notice.value.route = { field, to: {} }
  else delete notice.value.route
}
function route(value: string, to: string) {
  const r = notice.value.route
  if (!r) return
  const rest = Object.entries(r.to).filter(([v]) => v !== value)
  r.to = Object.fromEntries(to.trim() ? [...rest, [value, to.trim()]] : rest)
}
function otherwise(to: string) {
  const r = notice.value.route
  if (!r) return
  if (to.trim()) r.else = to.trim()
  else delete r.else
}

const people = ref<{ name: string; email: string }[]>([])
onMounted(async () => {
  try {
    people.value = await data(api.GET('/api/colleagues'))
  } catch {
    // Those that are chosen already are shown by their addresses.
  }
})
const staff = computed(() => [
  ...people.value.map((p) => ({ value: p.email, words: p.name })),
  ...(notice.value.people ?? [])
    .filter((a) => !people.value.some((p) => p.email === a))
    .map((a) => ({ value: a, words: a })),
])
function turn(of: 'roles' | 'people', value: string, on: boolean) {
  const rest = (notice.value[of] ?? []).filter((x) => x !== value)
  const next = on ? [...rest, value] : rest
  if (next.length) notice.value[of] = next
  else if (of === 'roles') delete notice.value.roles
  else delete notice.value.people
}
const told = (value: string) =>
  (value.startsWith('role ') ? notice.value.roles?.includes(value.slice(5)) : notice.value.people?.includes(value)) ??
  false
type Line = 'copy' | 'blindCopy' | 'replyTo' | 'senderName'
const lines: { of: Line; words: string; help?: string }[] = [
  { of: 'copy', words: t('notices.copy') },
  { of: 'blindCopy', words: t('notices.blindCopy'), help: t('notices.nobodySeesThem') },
  { of: 'replyTo', words: t('notices.replyTo'), help: t('notices.respondentsAsARule') },
  { of: 'senderName', words: t('notices.senderName'), help: t('notices.housesNameWhenEmpty') },
]
function set(of: Line, to: Span[] | undefined) {
  if (to?.length) notice.value[of] = to
  else if (of === 'copy') delete notice.value.copy
  else if (of === 'blindCopy') delete notice.value.blindCopy
  else if (of === 'replyTo') delete notice.value.replyTo
  else delete notice.value.senderName
}
</script>

<template>
  <div class="grid gap-3">
    <TickList
      :label="$t('notices.peopleOfHouse')"
      :options="[
        ...roles
          .slice(0, 4)
          .map((r) => ({ value: `role ${r.value}`, words: $t('notices.everyRole', { role: r.words }) })),
        ...staff,
      ]"
      :ticked="told"
      @turn="(value, on) => (value.startsWith('role ') ? turn('roles', value.slice(5), on) : turn('people', value, on))"
    />
    <SettingsGrid>
      <ChoiceCell
        v-if="choosers.length"
        full
        :label="$t('notices.byAnswer')"
        :model-value="notice.route?.field ?? ''"
        :options="ways"
        @update:model-value="choose"
      />
      <template v-if="notice.route">
        <EntryCell
          v-for="c in choices"
          :key="c.value"
          :label="$t('notices.forChoice', { choice: c.label })"
          placeholder="name@house.example"
          :model-value="notice.route.to[c.value] ?? ''"
          @update:model-value="route(c.value, $event)"
        />
        <EntryCell
          :label="$t('notices.forEveryOther')"
          :model-value="notice.route.else ?? ''"
          @update:model-value="otherwise"
        />
      </template>
    </SettingsGrid>
    <div v-for="l in lines" :key="l.of">
      <span class="text-[13px] text-soft first-letter:uppercase">{{ l.words }}</span>
      <PhraseEditor :line="notice[l.of] ?? []" :label="l.words" @update:line="set(l.of, $event)" />
      <p v-if="l.help" class="text-[13px] text-soft">{{ l.help }}</p>
    </div>
  </div>
</template>
