<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'

/** What kind of PDF comes out. */
const doc = defineModel<PaperDocument>({ required: true })
const val = (e: Event) => (e.target as HTMLSelectElement).value
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
</script>

<template>
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
</template>
