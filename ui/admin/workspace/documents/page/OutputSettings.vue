<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { useIntake } from '../../intake'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** What kind of PDF comes out, what it says about itself, and what it carries. */
const doc = defineModel<PaperDocument>({ required: true })
const { design } = useIntake()
const filed = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'upload' || f.kind === 'photo'))
const carries = computed(() => Boolean(doc.value.data ?? doc.value.attach?.length))
function take(how: 'append' | 'attach', key: string, on: boolean) {
  const keys = filed.value.map((f) => f.key).filter((k) => (k === key ? on : doc.value[how]?.includes(k)))
  if (keys.length) doc.value[how] = keys
  else Reflect.deleteProperty(doc.value, how)
}
function setData(on: boolean) {
  if (on) doc.value.data = true
  else delete doc.value.data
}
const forbidden = { noPrint: 'no printing', noCopy: 'no copying', noChange: 'no changing' }
/** An archival file is never protected, so that one choice holds both. */
const kinds = [
  { value: '', words: 'archival (PDF/A-2b; 3b where it carries files)' },
  { value: 'a-2b', words: 'archival (PDF/A-2b)' },
  { value: 'a-3b', words: 'archival (PDF/A-3b)' },
  { value: 'a-1b', words: 'archival (PDF/A-1b)' },
  { value: 'none', words: 'ordinary' },
  { value: 'protected', words: 'protected' },
] as const
const kind = computed(() => (doc.value.protect ? 'protected' : (doc.value.archival ?? '')))
function setKind(how: (typeof kinds)[number]['value']) {
  delete doc.value.protect
  delete doc.value.archival
  if (how === 'protected') doc.value.protect = { password: [], noChange: true }
  else if (how) doc.value.archival = how
}
function forbid(key: keyof typeof forbidden) {
  const p = doc.value.protect
  if (p?.[key]) Reflect.deleteProperty(p, key)
  else if (p) p[key] = true
}
</script>

<template>
  <SettingsGrid>
    <ChoiceCell
      label="the PDF"
      :model-value="kind"
      @update:model-value="setKind($event as typeof kind)"
      :options="[...kinds]"
    />
    <template v-if="doc.protect">
      <label v-for="(words, key) in forbidden" :key="key" class="flex items-center gap-1">
        <input type="checkbox" :checked="doc.protect[key] ?? false" @change="forbid(key)" /> {{ words }}
      </label>
    </template>
  </SettingsGrid>
  <div v-if="doc.protect">
    <span class="text-soft">password that opens it, or nothing</span>
    <PhraseEditor v-model:line="doc.protect.password" label="Password" />
  </div>
  <div>
    <span class="text-soft">author, the house when it is empty</span
    ><PhraseEditor v-model:line="doc.author" label="Author of the PDF" />
  </div>
  <div>
    <span class="text-soft">subject</span><PhraseEditor v-model:line="doc.subject" label="Subject of the PDF" />
  </div>
  <div>
    <span class="text-soft">keywords, parted by commas</span
    ><PhraseEditor v-model:line="doc.keywords" label="Keywords of the PDF" />
  </div>
  <div class="words">
    <label class="flex items-center gap-2">
      <input
        type="checkbox"
        :checked="doc.data ?? false"
        @change="setData(($event.target as HTMLInputElement).checked)"
      />
      It carries the answers as data (JSON with its schema)
    </label>
  </div>
  <fieldset v-if="filed.length" class="grid gap-1">
    <legend class="text-soft">files that were sent</legend>
    <p v-for="f in filed" :key="f.key" class="words">
      <span>{{ f.label }}</span>
      <label class="flex items-center gap-1">
        <input
          type="checkbox"
          :checked="doc.append?.includes(f.key) ?? false"
          @change="take('append', f.key, ($event.target as HTMLInputElement).checked)"
        />
        as pages at the end
      </label>
      <label class="flex items-center gap-1">
        <input
          type="checkbox"
          :checked="doc.attach?.includes(f.key) ?? false"
          @change="take('attach', f.key, ($event.target as HTMLInputElement).checked)"
        />
        attached
      </label>
    </p>
  </fieldset>
  <p v-if="carries && doc.protect === undefined && !doc.archival" class="text-soft">
    A file that carries others is PDF/A-3b.
  </p>
</template>
