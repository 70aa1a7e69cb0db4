<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { filled } from '../../shared/texts'
import { pathPart } from '../address'
import { useCheck } from './check'
import { wordsFor } from './words'

/** Tells anybody who holds a document whether it is genuine. */
const words = wordsFor(navigator.language)
const { found, busy, byCode, byFile } = useCheck()
const code = ref(pathPart(2))

onMounted(() => {
  document.documentElement.lang = navigator.language
  document.title = words.title
  if (code.value) void byCode(code.value)
})

function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = '' // the same file can be chosen again
  if (file) void byFile(file)
}

const say = computed(() => {
  const f = found.value
  switch (f.as) {
    case 'code':
      return { mark: '●', tone: 'text-pine border-pine', words: words.genuine }
    case 'file':
      return { mark: '●', tone: 'text-pine border-pine', words: words.same }
    case 'another':
      return { mark: '◐', tone: 'text-ochre border-ochre', words: words.another }
    case 'trial':
      return { mark: '‖', tone: 'text-slate border-slate', words: words.trial }
    case 'unknown':
    case 'changed':
    case 'failed':
      return { mark: '✕', tone: 'text-madder border-madder', words: words[f.as] }
  }
  return undefined
})

const lines = computed(() => {
  if (!('document' in found.value)) return []
  const d = found.value.document
  const made = new Intl.DateTimeFormat(navigator.language, {
    dateStyle: 'long',
    timeStyle: 'short',
    timeZone: d.zone,
  }).format(new Date(d.made))
  return [
    { name: words.house, value: d.house },
    { name: words.document, value: `${d.name} · ${d.intake}` },
    { name: words.number, value: d.number },
    { name: words.made, value: made },
    { name: words.pages, value: String(d.pages) },
    ...(d.latest > 1 ? [{ name: words.revision, value: String(d.revision) }] : []),
    ...(d.code ? [{ name: words.code, value: d.code }] : []),
  ]
})
const replaced = computed(
  () =>
    'document' in found.value && found.value.document.latest > found.value.document.revision && found.value.document,
)
</script>

<template>
  <main class="mx-auto max-w-[680px] px-3 py-6 sm:py-10">
    <div class="border-t-4 border-ink bg-sheet px-5 py-7 sm:px-10 sm:py-9">
      <h1 class="mb-4 text-[28px] leading-tight">{{ words.title }}</h1>
      <p class="mb-6">{{ words.about }}</p>
      <form class="mb-6 flex flex-wrap items-end gap-3" @submit.prevent="byCode(code)">
        <label class="grid grow gap-1">
          <span class="font-semibold">{{ words.code }}</span>
          <input
            v-model="code"
            name="code"
            class="entry tabular-nums"
            autocomplete="off"
            autocapitalize="characters"
            spellcheck="false"
            placeholder="7K3M-9QXD-2HVF-8TWN"
          />
        </label>
        <button class="button button-main min-h-[44px] px-6" :disabled="busy || !code.trim()">{{ words.look }}</button>
      </form>
      <div aria-live="polite">
        <p v-if="busy" class="text-soft">{{ words.busy }}</p>
        <template v-else-if="say">
          <p class="mb-4 border-2 px-4 py-3 font-semibold" :class="say.tone" :data-found="found.as">
            <span aria-hidden="true">{{ say.mark }}</span> {{ say.words }}
          </p>
          <p v-if="replaced" class="mb-4 border-2 border-ochre px-4 py-3 font-semibold text-ochre" data-replaced>
            <span aria-hidden="true">◐</span> {{ filled(words.replaced, { n: replaced.latest }) }}
          </p>
          <dl v-if="lines.length" class="mb-6 grid grid-cols-[auto_1fr] gap-x-6 border-t border-rule">
            <template v-for="l in lines" :key="l.name">
              <dt class="border-b border-faint py-1.5 text-soft">{{ l.name }}</dt>
              <dd class="border-b border-faint py-1.5 font-semibold">{{ l.value }}</dd>
            </template>
          </dl>
        </template>
      </div>
      <div class="border-t border-rule pt-5">
        <p class="mb-3">{{ words.hold }}</p>
        <label class="button min-h-[44px] cursor-pointer px-6 focus-within:outline-2 focus-within:outline-offset-2">
          {{ words.choose }}
          <input class="sr-only" type="file" accept="application/pdf,.pdf" @change="choose" />
        </label>
      </div>
    </div>
  </main>
</template>
