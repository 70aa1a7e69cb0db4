<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { useIntake } from '../../intake'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import { t } from '../../../words'

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
const forbidden = { noPrint: t('page.noPrinting'), noCopy: t('page.noCopying'), noChange: t('page.noChanging') }
/** An archival file is never protected, so that one choice holds both. */
const kinds = [
  { value: '', words: t('page.archivalPdf2b3bWhere') },
  { value: 'a-2b', words: t('page.archivalPdf2b') },
  { value: 'a-3b', words: t('page.archivalPdf3b') },
  { value: 'a-1b', words: t('page.archivalPdf1b') },
  { value: 'none', words: t('page.ordinary') },
  { value: 'protected', words: t('page.protected') },
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
      :label="$t('page.pdf')"
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
    <span class="text-soft">{{ $t('page.passwordOpensNothing') }}</span>
    <PhraseEditor v-model:line="doc.protect.password" :label="$t('page.password')" />
  </div>
  <div>
    <span class="text-soft">{{ $t('page.authorHouseWhenEmpty') }}</span><PhraseEditor
      v-model:line="doc.author"
      :label="$t('page.authorPdf')"
    />
  </div>
  <div>
    <span class="text-soft">{{ $t('page.subject') }}</span><PhraseEditor
      v-model:line="doc.subject"
      :label="$t('page.subjectPdf')"
    />
  </div>
  <div>
    <span class="text-soft">{{ $t('page.keywordsPartedCommas') }}</span><PhraseEditor
      v-model:line="doc.keywords"
      :label="$t('page.keywordsPdf')"
    />
  </div>
  <div class="words">
    <label class="flex items-center gap-2">
      <input
        type="checkbox"
        :checked="doc.data ?? false"
        @change="setData(($event.target as HTMLInputElement).checked)"
      />
      {{ $t('page.carriesAnswersAsDataJson') }}</label
    >
  </div>
  <fieldset v-if="filed.length" class="grid gap-1">
    <legend class="text-soft">{{ $t('page.filesWereSent') }}</legend>
    <p v-for="f in filed" :key="f.key" class="words">
      <span>{{ f.label }}</span>
      <label class="flex items-center gap-1">
        <input
          type="checkbox"
          :checked="doc.append?.includes(f.key) ?? false"
          @change="take('append', f.key, ($event.target as HTMLInputElement).checked)"
        />
        {{ $t('page.asPagesEnd') }}</label
      >
      <label class="flex items-center gap-1">
        <input
          type="checkbox"
          :checked="doc.attach?.includes(f.key) ?? false"
          @change="take('attach', f.key, ($event.target as HTMLInputElement).checked)"
        />
        {{ $t('page.attached') }}</label
      >
    </p>
  </fieldset>
  <p v-if="carries && doc.protect === undefined && !doc.archival" class="text-soft">
    {{ $t('page.fileCarriesOthersPdf3b') }}
  </p>
</template>
