<script setup lang="ts">
import { useLocked } from '../../parts/locked'
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue'
import LostPart from '../../parts/LostPart.vue'
import { part } from '../../../shared/part'
import { useRoute } from 'vue-router'
import type { Place } from '../../../shared/types'
import { api, data, words } from '../../api'
import ScriptList from '../../parts/ScriptList.vue'
import { useIntake } from '../intake'
import { fieldKinds } from '../kinds'
import SplitDesk from '../SplitDesk.vue'
import ConstantsList from './ConstantsList.vue'
import FieldSettings from './FieldSettings.vue'
import FormProof from './FormProof.vue'
import { useFocusAfterUndo } from '../undone'
import { useLines, type FormLine } from './lines'
import NewQuestion from './NewQuestion.vue'
import { useQuestions } from './questions'
import TakeBack, { type Gone } from '../../parts/TakeBack.vue'
import { t } from '../../words'

const RemoveField = part(() => import('./RemoveField.vue'), LostPart)
const WhereaboutsTable = part(() => import('./WhereaboutsTable.vue'), LostPart)
const TranslationsTable = part(() => import('./TranslationsTable.vue'), LostPart)

const emit = defineEmits<{ go: [place: string] }>()
const { id, design, mark, replace, undo, future } = useIntake()
const locked = useLocked()
const route = useRoute()
const { lines, move: moveLine, insert, rowsAbove } = useLines(design)
const selected = ref<number>()
type Side = 'phone' | 'desk' | 'whereabouts' | 'languages'
const side = ref<Side>('desk')
const sides: { value: Side; words: string }[] = [
  { value: 'phone', words: t('form.phone') },
  { value: 'desk', words: t('form.desk') },
  { value: 'whereabouts', words: t('form.whereabouts') },
  { value: 'languages', words: t('form.languages') },
]
const problem = ref('')
/** The line that new questions go behind; at the end when there is none. */
const behind = ref<FormLine>()
const { typed, guess, settle } = useQuestions(
  id,
  () => lines.value.map((l) => l.field.key),
  () => {
    const before = behind.value
      ? lines.value.slice(0, lines.value.findIndex((l) => l.name === behind.value!.name) + 1)
      : lines.value
    const heading = before.findLast((l) => l.field.kind === 'section' || l.field.kind === 'page')
    return heading?.field.kind === 'section' && !behind.value?.rows ? heading.field.key : ''
  },
)
// One of the two that may stand in the page: below a line or at the end.
const newLine = ref<{ focus: () => void } | { focus: () => void }[] | null>(null)
async function focusNew() {
  await nextTick()
  const at = Array.isArray(newLine.value) ? newLine.value[0] : newLine.value
  at?.focus()
}
async function leave() {
  const at = lines.value.findIndex((l) => l.name === behind.value?.name)
  behind.value = undefined
  if (at >= 0) await list.value?.focusHead(at)
}

const marked = computed(() => (selected.value === undefined ? undefined : lines.value[selected.value]?.name))

function pick(name: string) {
  const i = lines.value.findIndex((l) => l.name === name)
  if (i >= 0 && selected.value !== i) selected.value = i
}
function fromRoute() {
  if (typeof route.query.line === 'string') pick(route.query.line)
}
onMounted(fromRoute)
watch(() => route.query.line, fromRoute)

/** Brings the selected field's place in the proof into sight; controls that are fetched come a little later. */
watch(marked, async (name) => {
  const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
  for (let tries = 0; name && tries < 10; tries++) {
    await nextTick()
    const place = document.querySelector(`[data-proof] [data-field="${name}"]`)
    if (place) {
      place.scrollIntoView({ block: 'nearest', behavior: still ? 'auto' : 'smooth' })
      return
    }
    await new Promise((done) => setTimeout(done, 60))
  }
})

async function add() {
  if (!typed.value.trim()) return
  try {
    const made = await settle()
    if (!made.length || !design.value) return
    mark()
    const after = behind.value
    insert(after, made)
    if (after)
      behind.value = lines.value.find((l) => l.field.key === made.at(-1)!.key && l.field.label === made.at(-1)!.label)
    problem.value = ''
    gone.value = undefined
    await focusNew()
  } catch (e) {
    problem.value = words(e)
  }
}
async function addAfter(i: number) {
  behind.value = lines.value[i]
  selected.value = undefined
  await focusNew()
}
async function move(from: number, to: number) {
  const line = lines.value[from]!
  mark()
  if (!moveLine(line, to - from)) return
  await nextTick()
  if (selected.value !== undefined) pick(line.name)
}

/** A key that was refused, told at its place. */
const clash = ref<{ name: string; words: string }>()
/** Keys and moves into rows are rewritten wherever the field is used; the server does it. */
async function rename(line: FormLine, to: string) {
  const wanted = to.trim()
  clash.value = undefined
  if (!wanted || wanted === line.name) return
  try {
    replace(
      await data(api.POST('/api/designs/rename', { body: { design: design.value!, from: line.name, to: wanted } })),
    )
    problem.value = ''
    await nextTick()
    pick(wanted)
  } catch (e) {
    clash.value = { name: line.name, words: words(e) }
  }
}
async function indent(i: number, by: 1 | -1) {
  const line = lines.value[i]!
  if (by === 1) {
    const rows = rowsAbove(line)
    if (rows && line.field.kind !== 'rows') await rename(line, `${rows.key}.${line.field.key}`)
  } else if (line.rows) {
    await rename(line, line.field.key)
  }
}

const removing = ref<{ name: string; label: string; places: Place[]; at: number }>()
/** What was taken out just now, until something else is done. */
const gone = ref<Gone>()
watch(
  () => future.value.length,
  (n) => n && (gone.value = undefined),
)
const list = useTemplateRef<{ focusHead: (i: number) => Promise<void> }>('list')
useFocusAfterUndo(
  () => lines.value.map((l) => l.name),
  async (i) => list.value?.focusHead(i),
)
async function remove(i: number) {
  const line = lines.value[i]!
  try {
    const places = await data(api.POST('/api/designs/uses', { body: { design: design.value!, name: line.name } }))
    if (places.length) {
      removing.value = { name: line.name, label: line.field.label || line.name, places, at: i }
      return
    }
    replace(
      await data(api.POST('/api/designs/remove', { body: { design: design.value!, name: line.name, mends: [] } })),
    )
    selected.value = undefined
    gone.value = { words: t('form.removed', { name: line.field.label || line.name }), back: undo }
    await list.value?.focusHead(Math.min(i, lines.value.length - 1))
  } catch (e) {
    problem.value = words(e)
  }
}
async function removed(done: boolean) {
  const at = removing.value?.at ?? 0
  if (done) {
    gone.value = { words: t('form.removed2', { label: removing.value?.label ?? '' }), back: undo }
    selected.value = undefined
  }
  removing.value = undefined
  await nextTick()
  await new Promise(requestAnimationFrame) // the dialog gives the keyboard back first
  await list.value?.focusHead(Math.min(at, lines.value.length - 1))
}
function paste(text: string) {
  typed.value = text
  void add()
}
const kind = (l: FormLine) =>
  fieldKinds[l.field.kind] +
  (l.field.formula !== undefined
    ? t('form.calculated2')
    : l.field.required
      ? t('form.required3')
      : l.field.requiredWhen
        ? t('form.sometimesRequired')
        : '') +
  (l.field.when ? t('form.sometimesShown') : '')
const currency = ref('')
onMounted(async () => {
  currency.value = (await data(api.GET('/api/house'))).currency
})
</script>

<template>
  <SplitDesk>
    <template #script>
      <p class="grid grid-cols-[58px_1fr] border-b border-rule">
        <span class="ledger"></span>
        <label class="flex items-center gap-2 px-3.5 py-2">
          <span class="sr-only">{{ $t('form.wordsAboveFirstQuestion') }}</span>
          <input
            v-model="design!.form.intro"
            class="word w-full"
            :disabled="locked"
            :placeholder="$t('form.wordsAboveFirstQuestion')"
          />
        </label>
      </p>
      <TakeBack v-model="gone" />
      <ScriptList
        ref="list"
        v-model:selected="selected"
        :lines="lines"
        :kind="kind"
        :id-of="(l: FormLine) => l.name"
        :depth="(l: FormLine) => l.depth"
        :noun="$t('form.field2')"
        @add="addAfter"
        @move="move"
        @remove="remove"
        @indent="indent"
      >
        <template #sentence="{ line }">
          <span
            :class="{
              'font-title text-[15px] font-semibold': line.field.kind === 'section',
              'font-title text-[16px] font-semibold': line.field.kind === 'page',
            }"
            >{{ line.field.label || (line.field.kind === 'page' ? $t('form.newPage') : $t('form.withoutLabel')) }}</span
          >
        </template>
        <template #settings="{ line, index }">
          <FieldSettings
            :model-value="line.field"
            :rows="line.rows"
            :clash="clash && clash.name === line.name ? clash.words : ''"
            @enter="addAfter(index)"
            @rename="rename(line, line.rows ? `${line.rows}.${$event}` : $event)"
          />
        </template>
        <template #actions="{ line, index }">
          <button v-if="line.rows" type="button" class="link" @click="indent(index, -1)">
            {{ $t('form.outRows') }}
          </button>
          <button
            v-else-if="line.field.kind !== 'rows' && rowsAbove(line)"
            type="button"
            class="link"
            @click="indent(index, 1)"
          >
            {{ $t('form.into', { label: rowsAbove(line)!.label }) }}
          </button>
          <button type="button" class="link" @click="addAfter(index)">{{ $t('form.addBelow') }}</button>
        </template>
        <template #below="{ line, index }">
          <NewQuestion
            v-if="behind && behind.name === line.name"
            ref="newLine"
            v-model="typed"
            :number="index + 2"
            :kind="guess ? fieldKinds[guess.kind] : ''"
            between
            @add="add"
            @paste-lines="paste"
            @leave="leave"
          />
        </template>
      </ScriptList>
      <NewQuestion
        v-if="!behind && !locked"
        ref="newLine"
        v-model="typed"
        :number="lines.length + 1"
        :kind="guess ? fieldKinds[guess.kind] : ''"
        @add="add"
        @paste-lines="paste"
      />
      <p v-if="problem" role="alert" class="px-[76px] py-2 font-semibold text-madder">✕ {{ problem }}</p>
      <fieldset class="min-w-0" :disabled="locked"><ConstantsList /></fieldset>
    </template>
    <template #proof>
      <div class="flex flex-wrap items-center gap-4 px-5 pt-3">
        <strong>{{ side === 'whereabouts' || side === 'languages' ? $t('form.form') : $t('form.proof') }}</strong>
        <button
          v-for="s in sides"
          :key="s.value"
          :class="side === s.value ? 'font-semibold underline' : 'text-soft'"
          :aria-pressed="side === s.value"
          @click="side = s.value"
        >
          {{ s.words }}
        </button>
      </div>
      <WhereaboutsTable v-if="side === 'whereabouts'" @go="emit('go', $event)" />
      <fieldset v-else-if="side === 'languages'" class="min-w-0" :disabled="locked"><TranslationsTable /></fieldset>
      <FormProof v-else :width="side" :marked="marked" :currency="currency" @pick="pick" />
    </template>
  </SplitDesk>
  <RemoveField
    v-if="removing"
    :name="removing.name"
    :label="removing.label"
    :places="removing.places"
    @done="removed"
  />
</template>
