<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../shared/types'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import ConditionWords from '../formula/ConditionWords.vue'

/** A document's name, look, paper, title, file name and footer. */
const doc = defineModel<PaperDocument>({ required: true })
defineEmits<{ remove: [] }>()
const papers = ['A4', 'Letter', 'A3', 'A5', 'A6', 'B4', 'B5', 'B6', 'Legal', 'Tabloid', 'C5', 'C6', 'DL']
const looks = [
  { value: 'ledger', words: 'Ledger' },
  { value: 'letter', words: 'Letter' },
  { value: 'ticket', words: 'Ticket' },
]
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
const own = computed(() => (doc.value.page.width !== undefined ? 'own' : (doc.value.page.paper ?? '')))

function setPaper(paper: string) {
  const page = doc.value.page
  delete page.paper
  delete page.width
  delete page.height
  if (paper === 'own') Object.assign(page, { width: 148, height: 105 })
  else if (paper) page.paper = paper
}
const forbidden = { noPrint: 'no printing', noCopy: 'no copying', noChange: 'no changing' }
/** An archival file is never protected, so that one choice holds both. */
const kinds = [
  { value: 'a-2b', words: 'is archival (PDF/A-2b)' },
  { value: 'a-1b', words: 'is archival (PDF/A-1b)' },
  { value: 'none', words: 'is ordinary' },
  { value: 'protected', words: 'is protected' },
] as const
const kind = computed(() => (doc.value.protect ? 'protected' : (doc.value.archival ?? 'a-2b')))
function setKind(how: (typeof kinds)[number]['value']) {
  delete doc.value.protect
  delete doc.value.archival
  if (how === 'protected') doc.value.protect = { password: [], noChange: true }
  else if (how !== 'a-2b') doc.value.archival = how
}
function forbid(key: keyof typeof forbidden) {
  const p = doc.value.protect
  if (p?.[key]) Reflect.deleteProperty(p, key)
  else if (p) p[key] = true
}
function set(key: 'watermark' | 'ground', text: string) {
  if (text) doc.value.page[key] = text
  else Reflect.deleteProperty(doc.value.page, key)
}
</script>

<template>
  <div class="grid gap-3 pb-3">
    <label class="text-soft">name <input v-model="doc.name" class="word w-full text-ink" /></label>
    <div class="words">
      <label>
        look
        <select
          class="word"
          :value="doc.look ?? 'ledger'"
          @change="doc.look = val($event) as NonNullable<PaperDocument['look']>"
        >
          <option v-for="l in looks" :key="l.value" :value="l.value">{{ l.words }}</option>
        </select>
      </label>
      <label>
        paper
        <select class="word" :value="own" @change="setPaper(val($event))">
          <option value="">the house’s</option>
          <option v-for="p in papers" :key="p">{{ p }}</option>
          <option value="own">a size of its own</option>
        </select>
      </label>
      <span v-if="own === 'own'">
        <input
          class="word w-[48px]"
          inputmode="decimal"
          aria-label="Page width in millimetres"
          :value="doc.page.width"
          @change="doc.page.width = Number(val($event)) || 148"
        />
        ×
        <input
          class="word w-[48px]"
          inputmode="decimal"
          aria-label="Page height in millimetres"
          :value="doc.page.height"
          @change="doc.page.height = Number(val($event)) || 105"
        />
        mm
      </span>
      <label>
        set
        <select
          class="word"
          :value="doc.page.landscape ? 'landscape' : 'portrait'"
          @change="doc.page.landscape = val($event) === 'landscape'"
        >
          <option>portrait</option>
          <option>landscape</option>
        </select>
      </label>
      <label>
        across the page
        <input
          class="word w-[110px]"
          placeholder="nothing"
          :value="doc.page.watermark ?? ''"
          @change="set('watermark', val($event))"
        />
      </label>
      <label>
        ground
        <input
          class="word w-[84px]"
          placeholder="white"
          :value="doc.page.ground ?? ''"
          @change="set('ground', val($event))"
        />
      </label>
      <ConditionWords v-model="doc.when" verb="made" />
    </div>
    <div><span class="text-soft">title</span><PhraseEditor v-model:line="doc.title" label="Title" /></div>
    <div><span class="text-soft">file name</span><PhraseEditor v-model:line="doc.fileName" label="File name" /></div>
    <div><span class="text-soft">footer</span><PhraseEditor v-model:line="doc.footer" label="Footer" paged /></div>
    <div class="words">
      <label>
        the PDF
        <select
          class="word"
          :value="kind"
          aria-label="the PDF is archival, ordinary or protected"
          @change="setKind(val($event) as typeof kind)"
        >
          <option v-for="k in kinds" :key="k.value" :value="k.value">{{ k.words }}</option>
        </select>
      </label>
      <template v-if="doc.protect">
        <label v-for="(words, key) in forbidden" :key="key" class="flex items-center gap-1">
          <input type="checkbox" :checked="doc.protect[key] ?? false" @change="forbid(key)" /> {{ words }}
        </label>
      </template>
    </div>
    <div v-if="doc.protect">
      <span class="text-soft">password that opens it, or nothing</span>
      <PhraseEditor v-model:line="doc.protect.password" label="Password" />
    </div>
    <p><button class="link text-[13px]" @click="$emit('remove')">Remove this document</button></p>
  </div>
</template>
