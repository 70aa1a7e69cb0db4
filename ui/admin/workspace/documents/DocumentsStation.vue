<script setup lang="ts">
import NextLine from '../../parts/NextLine.vue'
import { useLocked } from '../../parts/locked'
import { computed, nextTick, onMounted, provide, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { blockKindOrder } from '../../../shared/kinds.gen'
import type { BlockKind, PaperDocument, ProofSource } from '../../../shared/types'
import PhraseLine from '../../parts/PhraseLine.vue'
import ScriptList from '../../parts/ScriptList.vue'
import { useIntake } from '../intake'
import AddLine from '../../parts/AddLine.vue'
import { blockKinds, blockNotes, lookName, usualLook } from '../kinds'
import SplitDesk from '../SplitDesk.vue'
import { rowsHere } from '../rows'
import { blockOf, documentOf, freshId } from './blocks/blocks'
import BlockSettings from './blocks/BlockSettings.vue'
import BlockSentence from './BlockSentence.vue'
import PageSettings from './page/PageSettings.vue'
import DocumentProofs from './DocumentProofs.vue'
import { useFocusAfterUndo } from '../undone'
import BroughtScript from './brought/BroughtScript.vue'
import { bring, broughtDocument, calledBy, held, inspect } from './brought/brought'
import FileEntry from '../../parts/FileEntry.vue'
import { useDeed } from '../../load'
import { allBlocks, listsIn, useScript, type BlockLine } from './script'
import TakeBack, { type Gone } from '../../parts/TakeBack.vue'
import RemoveDocument from './RemoveDocument.vue'
import { takeOut, usesOf, type Use } from './removal'
import { t } from '../../words'

const { design, mark, undo, future } = useIntake()
const locked = useLocked()
const route = useRoute()
const router = useRouter()
const documents = computed(() => design.value?.documents ?? [])
const at = computed(() =>
  Math.max(
    0,
    documents.value.findIndex((d) => d.key === route.query.of),
  ),
)
const doc = computed(() => documents.value[at.value])
const selected = ref<number>()
const list = useTemplateRef<{ enter: (i: number) => Promise<void>; focusHead: (i: number) => Promise<void> }>('list')
const page = ref(false)

const { lines, move: moveLine, indent: indentLine, canIndent, rowsOf } = useScript(doc)
const line = computed(() => (selected.value === undefined ? undefined : lines.value[selected.value]))
provide(
  rowsHere,
  computed(() => rowsOf(line.value)),
)

/** Where in a file that was brought the eye is. */
const place = ref<string>()
const brought = useTemplateRef<{
  put: (page: number, x: number, y: number) => void
  nudge: (dx: number, dy: number) => void
}>('brought')
/** Whose answers the proof shows. */
const source = ref<ProofSource>({ answers: 'made-up' })
const marked = computed(() => (doc.value?.file ? place.value : page.value ? 'footer' : line.value?.block.id))
function pick(block: string) {
  if (doc.value?.file) {
    place.value = block
    return
  }
  if (block === 'footer' || block === 'header') {
    page.value = true
    selected.value = undefined
    return
  }
  const i = lines.value.findIndex((l) => l.block.id === block)
  if (i >= 0) {
    selected.value = i
    page.value = false
  }
}
function fromRoute() {
  if (typeof route.query.line === 'string') pick(route.query.line)
}
onMounted(fromRoute)
watch(() => route.query.line, fromRoute)
watch(selected, (v) => v !== undefined && (page.value = false))

function show(key: string) {
  selected.value = undefined
  place.value = undefined
  page.value = false
  void router.replace({ query: { of: key } })
}
/** A key that no document has. */
function freshKey() {
  const taken = documents.value.map((d) => d.key)
  let n = documents.value.length + 1
  while (taken.includes(`document-${n}`)) n++
  return n
}
function addDocument() {
  mark()
  const n = freshKey()
  design.value!.documents.push(documentOf(`document-${n}`, `Document ${n}`))
  show(`document-${n}`)
}
const { problem: notBrought, busy: bringing, run } = useDeed()
const bringDocument = (file: File) =>
  run(async () => {
    const name = await bring(file)
    const key = `document-${freshKey()}`
    const called = calledBy(file.name)
    const taken = documents.value.some((d) => d.name === called)
    const made = broughtDocument(key, name, taken ? `${called} ${documents.value.length + 1}` : called)
    const found = await inspect({ ...design.value!, documents: [...documents.value, made] }, key)
    mark()
    made.matches = held({}, found.placeholders)
    design.value!.documents.push(made)
    show(key)
  })
/** What blocks could not hold of a file that was turned into a designed document just now, and which document that is. */
const turned = ref<{ key: string; left: string[] }>()
function addTurned(made: PaperDocument, left: string[]) {
  mark()
  const key = `document-${freshKey()}`
  const name = t('brought.designed', { name: made.name })
  design.value!.documents.push({ ...made, key, name })
  show(key)
  turned.value = { key, left }
}
/** What names the document that is about to go. */
const leaving = ref<Use[]>()
function askToRemove() {
  const uses = usesOf(design.value!, doc.value!.key)
  if (uses.length) leaving.value = uses
  else removeDocument(true)
}
function removeDocument(sure: boolean) {
  leaving.value = undefined
  if (!sure) return
  mark()
  const { key, name } = doc.value!
  takeOut(design.value!, key)
  mark()
  page.value = false
  void router.replace({ query: {} })
  gone.value = { words: t('documents.documentRemoved', { name: name || key }), back: undo }
}
/** Adds a block behind a line, or inside it when it is a group or columns without any, or at the end. */
async function add(kind: BlockKind, after?: BlockLine) {
  mark()
  const id = freshId(allBlocks(doc.value!), kind)
  const made = blockOf(kind, id, design.value!.form.fields)
  const empty = after && listsIn(after.block).find((list) => !list.length)
  if (empty) empty.push(made)
  else if (after) after.list.splice(after.at + 1, 0, made)
  else doc.value!.blocks.push(made)
  await follow(id)
  if (selected.value !== undefined) await list.value?.enter(selected.value)
}
/** Keeps a block chosen wherever it stands now. */
async function follow(id: string) {
  await nextTick()
  pick(id)
}
function change(do_: (l: BlockLine) => boolean, i: number) {
  const l = lines.value[i]!
  mark()
  if (do_(l)) void follow(l.block.id)
}
function remove(i: number) {
  const l = lines.value[i]!
  mark()
  l.list.splice(l.at, 1)
  mark()
  selected.value = undefined
  gone.value = { words: t('documents.removed', { kind: blockKinds[l.block.kind] }), back: undo }
  void list.value?.focusHead(Math.max(0, Math.min(i, lines.value.length - 1)))
}
/** What was taken out just now, until something else is done. */
const gone = ref<Gone>()
watch(
  () => future.value.length,
  (n) => n && (gone.value = undefined),
)
useFocusAfterUndo(
  () => lines.value.map((l) => l.block.id),
  async (i) => list.value?.focusHead(i),
)
const setBlock = (l: BlockLine, to: BlockLine['block']) => l.list.splice(l.at, 1, to)
const kind = (l: BlockLine) =>
  (l.side === undefined ? '' : t('documents.column', { side: l.side + 1 })) + blockKinds[l.block.kind]
const addable = blockKindOrder.map((value) => ({ value, words: blockKinds[value], ...blockNotes[value] }))
/** What is often added next: what the document has not yet, and sentences. */
const likely = computed(() => {
  const has = new Set(lines.value.map((l) => l.block.kind))
  const asks = new Set((design.value?.form.fields ?? []).map((f) => f.kind))
  const wanted: [BlockKind, boolean][] = [
    ['letterhead', !has.has('letterhead')],
    ['lines', asks.has('rows') && !has.has('lines')],
    ['signature', asks.has('signature') && !has.has('signature')],
    ['text', true],
    ['answers', !has.has('answers')],
    ['picture', asks.has('photo')],
    ['code', true],
    ['heading', true],
  ]
  return wanted
    .filter(([, is]) => is)
    .slice(0, 3)
    .map(([kind]) => kind as string)
})
</script>

<template>
  <SplitDesk>
    <template #script>
      <RemoveDocument v-if="leaving && doc" :name="doc.name || doc.key" :uses="leaving" @done="removeDocument" />
      <TakeBack v-model="gone" />
      <div class="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-4 py-2.5 sm:pl-[76px]">
        <button
          v-for="(d, i) in documents"
          :key="d.key"
          :class="i === at ? 'border-b-2 border-ink font-semibold' : 'text-soft hover:text-ink'"
          :aria-pressed="i === at"
          @click="show(d.key)"
        >
          {{ d.name || d.key }}
        </button>
        <template v-if="!locked">
          <button class="ml-auto font-semibold text-carbon" @click="addDocument">
            {{ $t('documents.addDocument') }}
          </button>
          <FileEntry
            plain
            :label="bringing ? $t('brought.reading') : $t('brought.bringDocument')"
            accept=".docx,.pdf"
            :busy="bringing"
            @file="bringDocument"
          />
        </template>
        <p v-if="notBrought" role="alert" class="w-full font-semibold text-madder">✕ {{ notBrought }}</p>
      </div>
      <template v-if="doc">
        <div class="grid grid-cols-[58px_1fr] border-b border-faint" :class="{ 'bg-amber-wash': page }">
          <span class="ledger"></span>
          <div class="min-w-0 px-3.5 pr-4">
            <button
              class="flex min-h-[34px] w-full items-center gap-3 text-left"
              :aria-expanded="page"
              @click="((page = !page), (selected = undefined))"
            >
              <span class="min-w-0 grow truncate"
                ><template v-if="doc.file">{{ doc.name }}</template
                ><template v-else
                  >{{
                    $t('documents.footer2', {
                      lookName: lookName(doc.look ?? usualLook),
                      paper:
                        doc.page.paper ??
                        (doc.page.width
                          ? $t('documents.mm', { width: doc.page.width, height: doc.page.height })
                          : $t('documents.housesPaper')),
                      landscape: doc.page.landscape ? $t('documents.landscape') : '',
                    })
                  }}
                  <PhraseLine :spans="doc.footer" /></template
              ></span>
              <span class="text-[13px] text-soft">{{ $t('documents.pageWord') }}</span>
            </button>
            <fieldset v-if="page" class="min-w-0" :disabled="locked">
              <PageSettings v-model="documents[at]!" @remove="askToRemove" />
            </fieldset>
          </div>
        </div>
        <p v-if="turned?.key === doc.key" role="status" class="border-b border-faint px-4 py-2.5 sm:pl-[76px]">
          {{ turned.left.length ? $t('brought.left', { what: turned.left.join(', ') }) : $t('brought.nothingLeft') }}
          <button type="button" class="link ml-2" @click="turned = undefined">{{ $t('workspace.good') }}</button>
        </p>
        <BroughtScript
          v-if="doc.file"
          ref="brought"
          v-model="documents[at]!"
          v-model:marked="place"
          :source="source"
          @turned="addTurned"
        />
        <ScriptList
          v-else
          ref="list"
          v-model:selected="selected"
          :lines="lines"
          :kind="kind"
          :id-of="(l: BlockLine) => doc!.key + l.block.id"
          :depth="(l: BlockLine) => l.depth"
          :noun="$t('documents.block')"
          @add="(i) => add('text', lines[i])"
          @move="(from, to) => change((l) => moveLine(l, to > from ? 1 : -1), from)"
          @indent="(i, by) => change((l) => indentLine(l, by), i)"
          @remove="remove"
        >
          <template #sentence="{ line: l }"><BlockSentence :block="l.block" /></template>
          <template #settings="{ line: l }"
            ><BlockSettings :model-value="l.block" @update:model-value="setBlock(l, $event)" @enter="add('text', l)"
          /></template>
          <template #actions="{ line: l, index }">
            <button v-if="canIndent(l)" type="button" class="link" @click="change((x) => indentLine(x, 1), index)">
              {{ $t('documents.intoAbove', { kind: blockKinds[l.list[l.at - 1]!.kind] }) }}
            </button>
            <button v-if="l.owner" type="button" class="link" @click="change((x) => indentLine(x, -1), index)">
              {{ $t('documents.out', { kind: blockKinds[l.owner.block.kind] }) }}
            </button>
          </template>
        </ScriptList>
        <NextLine v-if="!locked && !doc.file" :number="lines.length + 1">
          <AddLine
            class="px-3.5 py-1.5"
            :label="$t('documents.addBlock')"
            :options="addable"
            :likely="likely"
            @add="add($event as BlockKind, line)"
          />
        </NextLine>
      </template>
      <p v-else class="px-6 py-8">
        {{ $t('documents.documentsEachSubmissionBecomesWill') }}
        <button v-if="!locked" class="link" @click="addDocument">{{ $t('documents.addDocument') }}</button>
      </p>
    </template>
    <template #proof>
      <DocumentProofs
        v-if="doc"
        v-model:source="source"
        :of="doc.key"
        :marked="marked"
        :placing="!locked && place?.startsWith('mark ')"
        @pick="pick"
        @put="(page, x, y) => brought?.put(page, x, y)"
        @nudge="(dx, dy) => brought?.nudge(dx, dy)"
      />
    </template>
  </SplitDesk>
</template>
