<script setup lang="ts">
import { computed } from 'vue'
import type { Notice, Paragraph, Span } from '../../../shared/types'
import ListChoice from '../../parts/ListChoice.vue'
import { useLocked } from '../../parts/locked'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import { t } from '../../words'
import { useIntake } from '../intake'
import { languageName, languages } from '../../languages'

/** What a notice says: its subject and message, in the form's own language or in that of who answered. */
const notice = defineModel<Notice>({ required: true })
const language = defineModel<string>('language', { required: true })
const emit = defineEmits<{ removed: [words: string] }>()
const { mark } = useIntake()
const locked = useLocked()

const name = computed(() => languageName(language.value))
const choices = computed(() => [
  { value: '', words: t('notices.asItStands') },
  ...Object.entries(languages()).map(([value, words]) => ({
    value,
    words,
    note: notice.value.translations?.[value] ? t('notices.written') : t('notices.notWrittenYet'),
  })),
])
const wording = computed(() =>
  language.value
    ? notice.value.translations?.[language.value]
    : { subject: notice.value.subject, message: notice.value.message },
)
const subject = computed<Span[]>({
  get: () => wording.value?.subject ?? [],
  set: (v) => put({ subject: v }),
})
const message = computed<Paragraph[]>({
  get: () => wording.value?.message ?? [],
  set: (v) => put({ message: v }),
})

function put(part: { subject?: Span[]; message?: Paragraph[] }) {
  const mine = language.value ? notice.value.translations?.[language.value] : notice.value
  if (mine) Object.assign(mine, part)
}
/** Begins a translation with the words as they stand, so that no placeholder is lost. */
function write() {
  mark()
  const { subject, message } = notice.value
  const copy = JSON.parse(JSON.stringify({ subject, message })) as { subject: Span[]; message: Paragraph[] }
  notice.value.translations = { ...notice.value.translations, [language.value]: copy }
}
function takeOut() {
  mark()
  const { [language.value]: gone, ...rest } = notice.value.translations ?? {}
  if (gone) emit('removed', t('notices.takenOut', { name: notice.value.name, language: name.value }))
  if (Object.keys(rest).length) notice.value.translations = rest
  else delete notice.value.translations
}
</script>

<template>
  <p class="flex flex-wrap items-baseline gap-x-3 text-[13px] text-soft">
    <span>{{ $t('notices.wordsIn') }}</span>
    <ListChoice v-model="language" inline :label="$t('notices.languageOfWords')" :options="choices" />
    <button v-if="language && wording && !locked" type="button" class="link" @click="takeOut">
      {{ $t('notices.takeOut', { language: name }) }}
    </button>
  </p>
  <p v-if="!wording" class="text-soft">
    {{ $t('notices.nobodyReads', { language: name }) }}
    <button v-if="!locked" type="button" class="link ml-2" @click="write">
      {{ $t('notices.writeIn', { language: name }) }}
    </button>
  </p>
  <div v-else :key="language" class="grid gap-3">
    <div>
      <span class="text-[13px] text-soft">{{ $t('notices.subject') }}</span><PhraseEditor
        v-model:line="subject"
        :label="$t('notices.subject')"
      />
    </div>
    <div>
      <span class="text-[13px] text-soft">{{ $t('notices.message') }}</span><PhraseEditor
        v-model:body="message"
        :label="$t('notices.message')"
        rich
      />
    </div>
  </div>
</template>
