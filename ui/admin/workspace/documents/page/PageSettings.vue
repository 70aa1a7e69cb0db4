<script setup lang="ts">
import { computed } from 'vue'
import { lookOrder } from '../../../../shared/kinds.gen'
import type { PaperDocument } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { lookName, usualLook } from '../../kinds'
import ConditionWords from '../../formula/ConditionWords.vue'
import BackingSettings from './BackingSettings.vue'
import MarginSettings from './MarginSettings.vue'
import OutputSettings from './OutputSettings.vue'
import RunningSettings from './RunningSettings.vue'
import TypeSettings from './TypeSettings.vue'

/** A document's name, look, paper, title, file name and footer. */
const doc = defineModel<PaperDocument>({ required: true })
defineEmits<{ remove: [] }>()
const papers = {
  sheets: ['A4', 'Letter', 'A3', 'A5', 'A6', 'A7', 'A8', 'B4', 'B5', 'B6', 'B7', 'Legal', 'Tabloid'],
  envelopes: ['C5', 'C6', 'DL'],
  labels: ['Label 100 × 62', 'Label 99 × 67', 'Label 89 × 41'],
}
const looks = lookOrder.map((value) => ({ value, words: lookName(value) }))
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
/** The title, the heading and the file's name say the document's name until somebody writes other words there. */
function rename(to: string) {
  const from = doc.value.name
  doc.value.name = to
  const places = [
    doc.value.title,
    doc.value.fileName,
    ...doc.value.blocks.filter((b) => b.kind === 'heading').map((b) => b.heading?.text ?? []),
  ]
  for (const words of places) {
    const first = words[0]
    if (first?.text === from) first.text = to
    else if (first?.text === `${from} `) first.text = `${to} `
  }
}
const audience = computed(() => {
  const a = doc.value.audience
  return !a?.length ? '' : a.includes('respondent') ? 'respondent' : 'staff'
})
function setAudience(who: string) {
  if (!who) delete doc.value.audience
  else doc.value.audience = who === 'respondent' ? ['respondent', 'staff'] : ['staff']
}
const own = computed(() => (doc.value.page.width !== undefined ? 'own' : (doc.value.page.paper ?? '')))

function setPaper(paper: string) {
  const page = doc.value.page
  delete page.paper
  delete page.width
  delete page.height
  if (paper === 'own') Object.assign(page, { width: 148, height: 105 })
  else if (paper) page.paper = paper
}
/** A side of a page of its own; what is no length changes nothing. */
function setSide(side: 'width' | 'height', e: Event) {
  const n = Number(val(e).replace(',', '.'))
  if (n > 0) doc.value.page[side] = n
  else (e.target as HTMLInputElement).value = String(doc.value.page[side])
}
function set(key: 'watermark' | 'ground', text: string) {
  if (text) doc.value.page[key] = text
  else Reflect.deleteProperty(doc.value.page, key)
}
</script>

<template>
  <div class="grid gap-3 pb-3">
    <label class="text-soft"
      >name <input :value="doc.name" class="word w-full text-ink" @input="rename(val($event))"
    /></label>
    <div class="words">
      <label>
        look
        <select
          class="word"
          :value="doc.look ?? usualLook"
          @change="doc.look = val($event) as NonNullable<PaperDocument['look']>"
        >
          <option v-for="l in looks" :key="l.value" :value="l.value">{{ l.words }}</option>
        </select>
      </label>
      <label>
        paper
        <select class="word" :value="own" @change="setPaper(val($event))">
          <option value="">the house’s</option>
          <optgroup v-for="(list, kind) in papers" :key="kind" :label="kind">
            <option v-for="p in list" :key="p">{{ p }}</option>
          </optgroup>
          <option value="own">a size of its own</option>
        </select>
      </label>
      <span v-if="own === 'own'">
        <input
          class="word w-[48px]"
          inputmode="decimal"
          aria-label="Page width in millimetres"
          :value="doc.page.width"
          @change="setSide('width', $event)"
        />
        ×
        <input
          class="word w-[48px]"
          inputmode="decimal"
          aria-label="Page height in millimetres"
          :value="doc.page.height"
          @change="setSide('height', $event)"
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
      <MarginSettings v-model="doc.page" />
      <label>
        for
        <select class="word" aria-label="Whom the document is for" :value="audience" @change="setAudience(val($event))">
          <option value="">whoever the notices send it to</option>
          <option value="respondent">the respondent and staff</option>
          <option value="staff">staff alone</option>
        </select>
      </label>
      <ConditionWords v-model="doc.when" verb="made" />
    </div>
    <div><span class="text-soft">title</span><PhraseEditor v-model:line="doc.title" label="Title" /></div>
    <div><span class="text-soft">file name</span><PhraseEditor v-model:line="doc.fileName" label="File name" /></div>
    <RunningSettings v-model="doc" />
    <TypeSettings v-model="doc.page" />
    <BackingSettings v-model="doc.page" of="backdrop" label="picture behind the text" />
    <BackingSettings v-model="doc.page" of="mark" label="picture as a watermark" />
    <OutputSettings v-model="doc" />
    <p><button class="link text-[13px]" @click="$emit('remove')">Remove this document</button></p>
  </div>
</template>
