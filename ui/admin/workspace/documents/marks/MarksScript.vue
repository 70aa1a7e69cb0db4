<script setup lang="ts">
import NextLine from '../../../parts/NextLine.vue'
import { computed, nextTick, provide, ref, useTemplateRef, watch } from 'vue'
import type { PageMark, PaperDocument } from '../../../../shared/types'
import AddLine from '../../../parts/AddLine.vue'
import PhraseLine from '../../../parts/PhraseLine.vue'
import ScriptList from '../../../parts/ScriptList.vue'
import TakeBack, { type Gone } from '../../../parts/TakeBack.vue'
import { useLocked } from '../../../parts/locked'
import { t } from '../../../words'
import { useIntake } from '../../intake'
import { usePlaceholders } from '../../placeholders'
import { rowsHere } from '../../rows'
import MarkSettings from './MarkSettings.vue'
import { markOf, type MarkKind } from './marks'

/** What is put on the pages of a PDF, line by line. */
const doc = defineModel<PaperDocument>({ required: true })
const marked = defineModel<string | undefined>('marked')
const { design, mark: note, undo, future } = useIntake()
const locked = useLocked()
const { stands } = usePlaceholders(true)
const marks = computed(() => doc.value.marks ?? [])
const list = useTemplateRef<{ enter: (i: number) => Promise<void>; focusHead: (i: number) => Promise<void> }>('list')

const block = (m: PageMark) => `mark ${m.id}`
const selected = computed({
  get: () => {
    const i = marks.value.findIndex((m) => block(m) === marked.value)
    return i < 0 ? undefined : i
  },
  set: (i) => (marked.value = i === undefined ? undefined : block(marks.value[i]!)),
})
provide(
  rowsHere,
  computed(() => (selected.value === undefined ? '' : (marks.value[selected.value]?.each ?? ''))),
)

const drawings: Record<MarkKind, string> = {
  words: 'M4 17h16M6 13V7h4M8 7v6M13 13V9M16 13V9h3',
  tick: 'M5 5h14v14H5zM8 12l3 3 5-7',
  cross: 'M5 5h14v14H5zM8 8l8 8M16 8l-8 8',
  strike: 'M5 8h9M5 12h14M5 16h11',
  picture: 'M4 5h16v14H4zM4 17l5-6 4 4 3-3 4 5',
  signature: 'M4 19h16M5 15c3-9 5-9 5-3s2 4 3 1 2-2 2 0 2 2 4 0',
  code: 'M4 4h6v6H4zM14 4h6v6h-6zM4 14h6v6H4zM14 14h3v3h-3zM19 19h1',
}
const kindWords: Record<MarkKind, string> = {
  words: t('marks.words'),
  tick: t('marks.tick'),
  cross: t('marks.cross'),
  strike: t('marks.strike'),
  picture: t('marks.picture'),
  signature: t('marks.signature'),
  code: t('marks.code'),
}
const notes: Record<MarkKind, string> = {
  words: t('marks.wordsNote'),
  tick: t('marks.tickNote'),
  cross: t('marks.crossNote'),
  strike: t('marks.strikeNote'),
  picture: t('marks.pictureNote'),
  signature: t('marks.signatureNote'),
  code: t('marks.codeNote'),
}
const addable = (Object.keys(kindWords) as MarkKind[]).map((value) => ({
  value,
  words: kindWords[value],
  says: notes[value],
  drawing: drawings[value],
}))

function freshId(kind: MarkKind) {
  for (let n = 1; ; n++) {
    const id = n === 1 ? kind : `${kind}-${n}`
    if (!marks.value.some((m) => m.id === id)) return id
  }
}
/** Adds a mark behind the chosen one, on its page. */
async function add(kind: MarkKind) {
  note()
  const wanted = kind === 'picture' ? ['photo'] : kind === 'signature' ? ['signature'] : []
  const field = design.value?.form.fields.find((f) => wanted.includes(f.kind))?.key
  const after = selected.value
  const made = markOf(kind, freshId(kind), marks.value[after ?? marks.value.length - 1]?.page ?? 1, field)
  doc.value.marks ??= []
  doc.value.marks.splice(after === undefined ? doc.value.marks.length : after + 1, 0, made)
  marked.value = block(made)
  await nextTick()
  if (selected.value !== undefined) await list.value?.enter(selected.value)
}
function move(from: number, to: number) {
  note()
  const [m] = doc.value.marks!.splice(from, 1)
  doc.value.marks!.splice(to, 0, m!)
}
const gone = ref<Gone>()
function remove(i: number) {
  note()
  const [m] = doc.value.marks!.splice(i, 1)
  if (!doc.value.marks!.length) delete doc.value.marks
  note()
  marked.value = undefined
  gone.value = { words: t('documents.removed', { kind: kindWords[m!.kind] }), back: undo }
  void list.value?.focusHead(Math.max(0, Math.min(i, marks.value.length - 1)))
}
watch(
  () => future.value.length,
  (n) => n && (gone.value = undefined),
)
const labelOf = (m: PageMark) => stands.value.find((s) => s.key === m.field)?.label ?? ''
</script>

<template>
  <div>
    <TakeBack v-model="gone" />
    <ScriptList
      ref="list"
      v-model:selected="selected"
      :aria-label="$t('marks.list')"
      :lines="marks"
      :kind="(m: PageMark) => kindWords[m.kind]"
      :id-of="(m: PageMark) => m.id"
      :noun="$t('marks.noun')"
      @add="add('words')"
      @move="move"
      @remove="remove"
    >
      <template #sentence="{ line: m }">
        <PhraseLine v-if="m.text?.length" :spans="m.text" />
        <template v-else>{{ labelOf(m) }}</template>
        <span class="text-soft"> {{ $t('marks.at', { page: m.page, left: m.left, top: m.top }) }}</span>
      </template>
      <template #settings="{ index }"><MarkSettings v-model="doc.marks![index]!" /></template>
    </ScriptList>
    <NextLine v-if="!locked" :number="marks.length + 1">
      <AddLine
        class="px-3.5 py-1.5"
        :label="$t('marks.add')"
        :options="addable"
        :likely="['words', 'tick', 'signature']"
        @add="add($event as MarkKind)"
      />
    </NextLine>
  </div>
</template>
