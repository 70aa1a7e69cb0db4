<script setup lang="ts">
import { computed, ref } from 'vue'
import { lookOrder } from '../../../../shared/kinds.gen'
import type { PaperDocument, Span } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { lookName, usualLook } from '../../kinds'
import ConditionWords from '../../formula/ConditionWords.vue'
import BackingSettings from './BackingSettings.vue'
import MarginSettings from './MarginSettings.vue'
import OutputSettings from './OutputSettings.vue'
import PrintedSettings from './PrintedSettings.vue'
import RunningSettings from './RunningSettings.vue'
import TypeSettings from './TypeSettings.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import { t } from '../../../words'
import FoldAway from '../../../parts/FoldAway.vue'

/** A document's name, look, paper, title, file name and footer. */
const doc = defineModel<PaperDocument>({ required: true })
defineEmits<{ remove: [] }>()
const papers = [
  ...['A4', 'Letter', 'A3', 'A5', 'A6', 'A7', 'A8', 'B4', 'B5', 'B6', 'B7', 'Legal', 'Tabloid'],
  ...['C5', 'C6', 'DL'],
  ...['Label 100 × 62', 'Label 99 × 67', 'Label 89 × 41'],
]
/** Labels are named by what they are; ISO 216 and the North American sizes have their names in every language. */
function paperName(p: string) {
  const size = /^Label (.*)$/.exec(p)?.[1]
  return size ? t('page.label', { size }) : p
}
const looks = lookOrder.map((value) => ({ value, words: lookName(value) }))
/** The title, the heading and the file's name say the document's name until somebody writes other words there. */
function rename(to: string) {
  const from = doc.value.name
  doc.value.name = to
  doc.value.title = renamed(doc.value.title, from, to)
  doc.value.fileName = renamed(doc.value.fileName, from, to)
  for (const b of doc.value.blocks) if (b.heading?.text) b.heading.text = renamed(b.heading.text, from, to)
}
/** Words that begin with a name, with another one in its place. */
function renamed(words: Span[], from: string, to: string): Span[] {
  const first = words[0]?.text
  const now = first === from ? to : first === `${from} ` ? `${to} ` : undefined
  return now === undefined ? words : [{ ...words[0], text: now }, ...words.slice(1)]
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
const sidesTyped = ref(0)
/** A side of a page of its own; what is no length changes nothing. */
function setSide(side: 'width' | 'height', text: string) {
  const n = Number(text.replace(',', '.'))
  if (n > 0) doc.value.page[side] = n
  else sidesTyped.value++ // the entry shows the length again
}
function set(key: 'watermark' | 'ground', text: string) {
  if (text) doc.value.page[key] = text
  else Reflect.deleteProperty(doc.value.page, key)
}
</script>

<template>
  <div class="grid gap-3 pb-3">
    <SettingsGrid>
      <EntryCell :label="$t('page.name')" live :model-value="doc.name" @update:model-value="rename" />
      <template v-if="!doc.file">
        <ChoiceCell
          :label="$t('page.look')"
          :model-value="doc.look ?? usualLook"
          @update:model-value="doc.look = $event as NonNullable<PaperDocument['look']>"
          :options="looks"
        />
        <ChoiceCell
          :label="$t('page.paper')"
          :model-value="own"
          @update:model-value="setPaper($event)"
          :options="[
            { value: '', words: $t('page.houses') },
            ...papers.map((p) => ({ value: p, words: paperName(p) })),
            { value: 'own', words: $t('page.sizeOwn') },
          ]"
        />
        <template v-if="own === 'own'">
          <EntryCell
            v-for="side in ['width', 'height'] as const"
            :key="`${side}${sidesTyped}`"
            :label="$t('page.pageMm', { side })"
            mode="decimal"
            :model-value="String(doc.page[side] ?? '')"
            @update:model-value="setSide(side, $event)"
          />
        </template>
        <ChoiceCell
          :label="$t('page.stands')"
          :model-value="doc.page.landscape ? 'landscape' : 'portrait'"
          @update:model-value="doc.page.landscape = $event === 'landscape'"
          :options="[
            { value: 'portrait', words: $t('page.portrait') },
            { value: 'landscape', words: $t('page.landscape') },
          ]"
        />
        <EntryCell
          :label="$t('page.acrossPage')"
          :placeholder="$t('page.nothing')"
          :model-value="doc.page.watermark ?? ''"
          @update:model-value="set('watermark', $event)"
        />
        <EntryCell
          :label="$t('page.ground')"
          :placeholder="$t('page.white')"
          :model-value="doc.page.ground ?? ''"
          @update:model-value="set('ground', $event)"
        />
      </template>
      <ChoiceCell
        :label="$t('page.whoMayHave')"
        :model-value="audience"
        @update:model-value="setAudience($event)"
        :options="[
          { value: '', words: $t('page.whoeverNoticesSend') },
          { value: 'respondent', words: $t('page.respondentStaff') },
          { value: 'staff', words: $t('page.staffAlone') },
        ]"
      />
    </SettingsGrid>
    <ConditionWords v-model="doc.when" :verb="$t('page.made')" />
    <div>
      <span class="text-[13px] text-soft">{{ $t('page.title') }}</span><PhraseEditor
        v-model:line="doc.title"
        :label="$t('page.title')"
      />
    </div>
    <div>
      <span class="text-[13px] text-soft">{{ $t('page.fileName') }}</span><PhraseEditor
        v-model:line="doc.fileName"
        :label="$t('page.fileName')"
      />
    </div>
    <FoldAway :label="$t('page.more')" :inside="$t('page.headerFooterHowTextSet')">
      <div class="grid gap-4">
        <template v-if="!doc.file">
          <RunningSettings v-model="doc" />
          <MarginSettings v-model="doc.page" />
          <TypeSettings v-model="doc.page" />
          <PrintedSettings v-model="doc.page" />
          <BackingSettings v-model="doc.page" of="backdrop" :label="$t('page.pictureBehindText')" />
          <BackingSettings v-model="doc.page" of="mark" :label="$t('page.pictureAsWatermark')" />
        </template>
        <OutputSettings v-model="doc" />
      </div>
    </FoldAway>
    <p>
      <button class="link text-[13px]" @click="$emit('remove')">{{ $t('page.removeDocument') }}</button>
    </p>
  </div>
</template>
