<script setup lang="ts">
import ActionButton from './ActionButton.vue'
import type { Editor } from '@tiptap/vue-3'
import { computed, ref } from 'vue'
import ConditionWords from '../workspace/formula/ConditionWords.vue'
import { usePlaceholders } from '../workspace/placeholders'
import { useRowsHere } from '../workspace/rows'
import ListChoice from './ListChoice.vue'
import { t } from '../words'

/** The looks of chosen words and paragraphs: buttons for what is on or off, words for what has a value. */
const props = defineProps<{ editor: Editor }>()
const rows = useRowsHere()
const { stands } = usePlaceholders()
const chain = () => props.editor.chain().focus()
const on = (name: string, attrs?: Record<string, unknown>) => props.editor.isActive(name, attrs)

const toggles = [
  { name: 'bold', label: t('parts.bold'), sign: t('parts.b'), class: 'font-bold' },
  { name: 'italic', label: t('parts.italic'), sign: t('parts.i'), class: 'italic' },
  { name: 'underline', label: t('parts.underline'), sign: t('parts.u'), class: 'underline' },
  { name: 'strike', label: t('parts.struckOut'), sign: t('parts.s'), class: 'line-through' },
  { name: 'smallCaps', label: t('parts.smallCapitals'), sign: t('parts.smallCapitals'), class: '' },
]
const lists = [
  { name: 'bulletList', sign: t('parts.list'), do: () => chain().toggleBulletList().run() },
  { name: 'orderedList', sign: t('parts.n1List'), do: () => chain().toggleOrderedList().run() },
]
const aligns = { '': t('parts.start'), center: t('parts.middle'), end: t('parts.end'), justify: t('parts.bothEdges') }
const align = () => String(props.editor.getAttributes('paragraph').align ?? '')
const valueOf = (name: string) => String(props.editor.getAttributes(name).value ?? '')

/** A mark with a value; an empty value takes it off. */
function set(name: 'colour' | 'size' | 'when', value: string) {
  const { empty, $from } = props.editor.state.selection
  const change = props.editor.chain() // the words of the value keep the focus
  if (on(name)) change.extendMarkRange(name)
  else if (empty) change.setTextSelection({ from: $from.start(), to: $from.end() }) // the whole paragraph
  if (value) change.setMark(name, { value }).run()
  else change.unsetMark(name).run()
}
function setSize(e: Event) {
  const n = Number((e.target as HTMLInputElement).value.replace(',', '.'))
  set('size', n >= 4 && n <= 144 ? String(n) : '')
}
const inked = (e: Event) => {
  const text = (e.target as HTMLInputElement).value.trim()
  set('colour', /^#[0-9a-f]{6}$/i.test(text) ? text : '')
}
const asking = ref<'link' | 'when'>()
const link = ref('')
function ask(what: 'link' | 'when') {
  asking.value = asking.value === what ? undefined : what
  link.value = String(props.editor.getAttributes('link').href ?? 'https://')
}
/** Where a link may lead besides an address: pages of the submission. */
const leads = computed(() => [
  { value: '', words: t('parts.anAddress') },
  ...stands.value
    .filter((s) => ['@link', '@correct', '@filed', '@check'].includes(s.key))
    .map((s) => ({ value: s.key, words: s.label })),
])
function setLink() {
  const href = link.value.trim()
  if (href) chain().extendMarkRange('link').setLink({ href }).run()
  else chain().extendMarkRange('link').unsetLink().run()
  asking.value = undefined
}
</script>

<template>
  <button
    v-for="look in toggles"
    :key="look.name"
    type="button"
    class="look"
    :class="look.class"
    :aria-label="look.label"
    :aria-pressed="on(look.name)"
    @click="chain().toggleMark(look.name).run()"
  >
    {{ look.sign }}
  </button>
  <label
    >{{ $t('parts.size') }}
    <input
      class="word w-[36px]"
      inputmode="decimal"
      :aria-label="$t('parts.sizeWordsPoints')"
      placeholder="–"
      :value="valueOf('size')"
      @change="setSize"
  /></label>
  <label
    >{{ $t('parts.colour') }}
    <input
      class="word w-[76px]"
      :aria-label="$t('parts.colourWords')"
      placeholder="#8A4B00"
      :value="valueOf('colour')"
      @change="inked"
  /></label>
  <button v-for="l in lists" :key="l.name" type="button" class="look" :aria-pressed="on(l.name)" @click="l.do">
    {{ l.sign }}
  </button>
  <template v-if="on('listItem')">
    <button type="button" class="look" @click="chain().sinkListItem('listItem').run()">{{ $t('parts.deeper') }}</button>
    <button type="button" class="look" @click="chain().liftListItem('listItem').run()">{{ $t('parts.out') }}</button>
  </template>
  <label
    >{{ $t('parts.lines') }}
    <ListChoice
      :model-value="align()"
      @update:model-value="chain().updateAttributes('paragraph', { align: $event }).run()"
      :label="$t('parts.whereLinesStand')"
      inline
      :options="Object.entries(aligns).map(([a, words]) => ({ value: a, words: words }))"
    />
  </label>
  <button type="button" class="look" @click="chain().insertContent('\t').run()">{{ $t('parts.tab') }}</button>
  <button type="button" class="look" @click="ask('link')">{{ $t('parts.link') }}</button>
  <button type="button" class="look" :aria-pressed="on('when')" @click="ask('when')">
    {{ $t('parts.condition') }}
  </button>
  <form v-if="asking === 'link'" class="mt-1 flex basis-full gap-2" @submit.prevent="setLink">
    <ListChoice
      :model-value="link.startsWith('@') ? link : ''"
      :label="$t('parts.leadsTo')"
      :options="leads"
      @update:model-value="link = $event || 'https://'"
    />
    <input v-if="!link.startsWith('@')" v-model="link" class="entry" :aria-label="$t('parts.addressLink')" />
    <ActionButton type="submit">{{ $t('parts.set') }}</ActionButton>
  </form>
  <div v-if="asking === 'when'" class="words mt-1 basis-full">
    <ConditionWords
      :model-value="valueOf('when') || undefined"
      :verb="$t('parts.chosenWordsShown')"
      :rows="rows ?? ''"
      @update:model-value="set('when', $event ?? '')"
    />
  </div>
</template>
