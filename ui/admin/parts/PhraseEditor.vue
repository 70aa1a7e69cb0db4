<script setup lang="ts">
import Bold from '@tiptap/extension-bold'
import Document from '@tiptap/extension-document'
import HardBreak from '@tiptap/extension-hard-break'
import Italic from '@tiptap/extension-italic'
import Link from '@tiptap/extension-link'
import { BulletList, ListItem, OrderedList } from '@tiptap/extension-list'
import ParagraphNode from '@tiptap/extension-paragraph'
import Text from '@tiptap/extension-text'
import Underline from '@tiptap/extension-underline'
import { UndoRedo } from '@tiptap/extensions'
import { EditorContent, useEditor } from '@tiptap/vue-3'
import { computed, nextTick, ref, useId, watch } from 'vue'
import type { Paragraph, Span } from '../../shared/types'
import { usePlaceholders } from '../workspace/placeholders'
import PhraseLooks from './PhraseLooks.vue'
import { Aligned, Colour, fromEditor, Keys, Placeholder, Size, SmallCaps, Strike, toEditor, When } from './phraseSchema'
import ListChoice from './ListChoice.vue'
import { useLocked } from './locked'
import { t } from '../words'

/** Words with placeholders: one line of them, or with `rich` paragraphs, looks and lists. */
const props = defineProps<{ label: string; rich?: boolean; paged?: boolean; titled?: boolean }>()
const line = defineModel<Span[]>('line')
const body = defineModel<Paragraph[]>('body')
const emit = defineEmits<{ enter: [] }>()

const locked = useLocked()
const yesNo = { yes: t('parts.yes'), no: t('parts.no') }
const { stands } = usePlaceholders(props.paged)
const value = () => (props.rich ? (body.value ?? []) : [{ spans: line.value ?? [] }])
let told = JSON.stringify(value())

function describe(attrs: Record<string, unknown>) {
  const stand = stands.value.find((s) => s.key === attrs.field)
  if (!stand) return { text: t('parts.noSuchField', { field: String(attrs.field) }), fault: true }
  const format = attrs.format ? stand.formats.find((f) => f.value === attrs.format) : undefined
  const counted = String(attrs.format ?? '')
  if (stand.counts && counted.includes('/')) return { text: `${stand.label} · ${counted}`, fault: false }
  if (attrs.format && !format) return { text: t('parts.noSuchFormat', { field: stand.label }), fault: true }
  return { text: format ? `${stand.label} · ${format.name}` : stand.label, fault: false }
}

const listing = ref(false)
const wanted = ref('')
const current = ref(0)
const search = ref<HTMLInputElement>()
const panel = ref<HTMLElement>()
const id = useId()
const chip = ref<{ field: string; format: string; empty: string; yes: string; no: string }>()

async function list() {
  listing.value = true
  wanted.value = ''
  current.value = 0
  await nextTick()
  search.value?.focus()
  panel.value?.scrollIntoView({ block: 'nearest' })
}

const editor = useEditor({
  injectCSS: false,
  editable: !locked.value,
  content: toEditor(value()),
  extensions: [
    Document.extend({ content: props.rich ? 'block+' : 'paragraph' }),
    ParagraphNode,
    Text,
    UndoRedo,
    Placeholder.configure({ describe }),
    Keys.configure({
      brace: () => {
        void list()
        return true
      },
      enter: () => {
        if (!props.rich) emit('enter')
        return !props.rich
      },
      oneLine: !props.rich,
    }),
    ...(props.rich
      ? [
          Bold,
          Italic,
          Underline,
          Strike,
          SmallCaps,
          Colour,
          Size,
          When,
          Aligned,
          Link.configure({ openOnClick: false, autolink: false }),
          BulletList,
          OrderedList,
          // Tab goes on to the next control; lists have keys of their own.
          ListItem.extend({
            addKeyboardShortcuts() {
              return {
                Enter: () => this.editor.commands.splitListItem(this.name),
                'Mod-]': () => this.editor.commands.sinkListItem(this.name),
                'Mod-[': () => this.editor.commands.liftListItem(this.name),
              }
            },
          }),
          HardBreak,
        ]
      : []),
  ],
  editorProps: {
    attributes: {
      role: 'textbox',
      'aria-label': props.label,
      'aria-multiline': props.rich ? 'true' : 'false',
      class: 'min-h-[24px]',
    },
  },
  onUpdate: ({ editor }) => tell(editor.getJSON()),
  onSelectionUpdate: ({ editor }) => {
    const { selection } = editor.state
    const node =
      'node' in selection ? (selection.node as { type: { name: string }; attrs: Record<string, string> }) : undefined
    chip.value =
      node?.type.name === 'placeholder'
        ? { field: '', format: '', empty: '', yes: '', no: '', ...node.attrs }
        : undefined
  },
})

function tell(json: ReturnType<NonNullable<typeof editor.value>['getJSON']>) {
  const paragraphs = fromEditor(json)
  const next = props.rich ? paragraphs : [{ spans: paragraphs[0]?.spans ?? [] }]
  told = JSON.stringify(next)
  if (props.rich) body.value = next
  else line.value = next[0]!.spans
}

// A change from outside (undo, another line) replaces the content; labels that changed redraw the chips.
watch(
  [line, body],
  () => {
    const now = JSON.stringify(value())
    if (now === told) return
    told = now
    editor.value?.commands.setContent(toEditor(value()), { emitUpdate: false })
  },
  { deep: true }, // spans that are changed where they stand are changed from outside too
)
watch(
  () => stands.value.map((s) => s.key + s.label).join('\n'),
  () => editor.value?.commands.setContent(toEditor(value()), { emitUpdate: false }),
)

/** The fields that fit what is typed: first the one that is called just so, then those that begin so. */
const offered = computed(() => {
  const w = wanted.value.replace(/[{}]/g, '').trim().toLowerCase()
  const rank = (s: { label: string; key: string }) => {
    const label = s.label.toLowerCase()
    const key = s.key.replace('@', '')
    if (label === w || key === w || s.key === w) return 0
    if (label.startsWith(w) || key.startsWith(w)) return 1
    if (label.includes(` ${w}`)) return 2
    return label.includes(w) || key.includes(w) ? 3 : 4
  }
  return stands.value
    .map((s) => ({ s, rank: w ? rank(s) : 3 }))
    .filter((x) => x.rank < 4)
    .sort((a, b) => a.rank - b.rank)
    .map((x) => x.s)
    .slice(0, 40)
})
function insert(field: string) {
  // The caret is back before the next key: what is typed on goes behind the placeholder.
  listing.value = false
  const e = editor.value
  if (!e) return
  e.view.focus()
  e.commands.insertContent({ type: 'placeholder', attrs: { field } })
  const { to } = e.state.selection
  e.commands.setTextSelection(to)
}
function insertFirst() {
  const typed = wanted.value.replace(/[{}]/g, '').trim()
  const first = offered.value[current.value]
  if (first) insert(first.key)
  else if (/^@?[a-z][a-z0-9_]*(\.[a-z][a-z0-9_]*)?$/.test(typed)) insert(typed)
}
function leaveList() {
  listing.value = false
  editor.value?.view.focus()
}
async function keys(e: KeyboardEvent) {
  const n = offered.value.length
  if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    e.preventDefault()
    if (n) current.value = (current.value + (e.key === 'ArrowDown' ? 1 : n - 1)) % n
    await nextTick()
    document.getElementById(`${id}-${current.value}`)?.scrollIntoView({ block: 'nearest' })
  } else if (e.key === 'Enter') {
    e.preventDefault()
    e.stopPropagation()
    insertFirst()
  } else if (e.key === 'Escape') {
    e.preventDefault()
    e.stopPropagation()
    leaveList()
  }
}
watch(wanted, () => (current.value = 0))
watch(wanted, (w) => {
  if (w.endsWith('}}')) {
    const typed = w.replace(/[{}]/g, '').trim()
    insert(stands.value.find((s) => s.key === typed)?.key ?? typed)
  }
})
function setChip(change: Partial<{ format: string; empty: string; yes: string; no: string }>) {
  if (!chip.value) return
  chip.value = { ...chip.value, ...change }
  editor.value?.commands.updateAttributes('placeholder', change)
}
/** The words that count a number, one for each plural form; without a stroke there is nothing to choose from. */
function count(words: string) {
  const all = words.trim()
  setChip({ format: all === '' || all.includes('/') ? all : `${all}/${all}` })
}
const chipStand = computed(() => stands.value.find((s) => s.key === chip.value?.field))
</script>

<template>
  <div class="relative">
    <div
      class="flex items-start gap-2 border px-2.5 py-1.5"
      :class="[
        'focus-within:border-carbon focus-within:outline focus-within:outline-1 focus-within:outline-carbon',
        locked ? 'border-rule' : 'border-edge bg-white',
        { 'one-line': !rich, 'font-title text-[15px] leading-relaxed': titled || rich },
      ]"
    >
      <EditorContent :editor="editor" class="min-w-0 grow" />
      <button v-if="!rich && !locked" type="button" class="look font-body text-[13px] text-soft" @click="list">
        {{ $t('parts.placeholder') }} <kbd>{</kbd>
      </button>
    </div>
    <div v-if="(rich || chip) && !locked" class="mt-1 flex flex-wrap items-center gap-x-3 text-soft">
      <template v-if="rich">
        <PhraseLooks v-if="editor" :editor="editor" />
        <button type="button" class="look" @click="list">{{ $t('parts.placeholder') }} <kbd>{</kbd></button>
      </template>
      <template v-if="chip">
        <label v-if="chipStand && chipStand.formats.length > 1 && !chip.format.includes('/')" class="ml-2"
          >{{ $t('parts.format') }}
          <ListChoice
            :model-value="chip.format"
            @update:model-value="setChip({ format: $event })"
            :label="$t('parts.format')"
            inline
            :options="chipStand.formats.map((f) => ({ value: f.value, words: f.name }))"
          />
        </label>
        <label v-if="chipStand?.counts" class="ml-2"
          >{{ $t('parts.counted') }}
          <input
            class="word w-[130px]"
            :value="chip.format.includes('/') ? chip.format : ''"
            :placeholder="$t('parts.countedAs')"
            @change="count(($event.target as HTMLInputElement).value)"
        /></label>
        <label class="ml-2"
          >{{ $t('parts.whenEmpty') }}
          <input
            class="word w-[110px]"
            :value="chip.empty"
            :placeholder="$t('parts.nothing')"
            @change="setChip({ empty: ($event.target as HTMLInputElement).value })"
        /></label>
        <template v-if="chipStand?.yesNo">
          <label v-for="word in ['yes', 'no'] as const" :key="word" class="ml-2"
            >{{ yesNo[word] }}
            <input
              class="word w-[90px]"
              :value="chip[word]"
              :placeholder="yesNo[word]"
              @change="setChip({ [word]: ($event.target as HTMLInputElement).value })"
          /></label>
        </template>
      </template>
    </div>
    <div v-if="listing" ref="panel" class="absolute top-8 left-4 z-20 w-[280px] border border-ink bg-sheet">
      <input
        ref="search"
        v-model="wanted"
        class="w-full border-b border-rule px-3 py-2 -outline-offset-2"
        role="combobox"
        :aria-label="$t('parts.whichPlaceholder')"
        aria-expanded="true"
        aria-autocomplete="list"
        :aria-controls="`${id}-list`"
        :aria-activedescendant="offered.length ? `${id}-${current}` : undefined"
        :placeholder="$t('parts.whichField')"
        @keydown="keys"
        @blur="listing = false"
      />
      <ul
        :id="`${id}-list`"
        class="max-h-[220px] overflow-y-auto"
        role="listbox"
        :aria-label="$t('parts.placeholders')"
      >
        <li
          v-for="(s, i) in offered"
          :id="`${id}-${i}`"
          :key="s.key"
          role="option"
          :aria-selected="i === current"
          class="cursor-pointer px-3 py-1.5 hover:bg-amber-wash"
          :class="{ 'bg-amber-wash': i === current }"
          @mousedown.prevent="insert(s.key)"
        >
          {{ s.label }}
        </li>
      </ul>
      <p v-if="!offered.length" class="px-3 py-2 text-soft" role="status">{{ $t('parts.noFieldCalled') }}</p>
    </div>
  </div>
</template>
