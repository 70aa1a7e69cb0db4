<script setup lang="ts">
import { computed, ref } from 'vue'
import { plainNumber } from '../shared/numbers'
import { partsOf } from '../shared/parts'
import { shapes } from '../shared/kinds.gen'
import { fieldSettings } from '../shared/settings'
import { useSheet } from '../shared/sheet/sheet'
import type { Field, FileAnswer, Mark, PublicForm, Row, Typed } from '../shared/types'

const props = defineProps<{
  form: PublicForm
  answers: Record<string, Typed>
  problem: string
  sending: boolean
  preview: () => Promise<Blob>
}>()
defineEmits<{ back: []; send: [] }>()
const sheet = useSheet()

interface Line {
  path: string
  label: string
  words: string
}

/** The answers under the headings of their sections and pages. */
const parts = computed(() => {
  const out: { title: string; lines: Line[] }[] = [{ title: '', lines: [] }]
  for (const f of props.form.form.fields) {
    if (!sheet.shows(f.key) || ['text', 'picture', 'hidden'].includes(f.kind)) continue
    if (f.kind === 'section' || f.kind === 'page') out.push({ title: f.label, lines: [] })
    else out.at(-1)!.lines.push(...lines(f, f.key, props.answers[f.key]))
  }
  return out.filter((p) => p.lines.length)
})

function lines(f: Field, path: string, v: Typed | undefined): Line[] {
  if (f.kind !== 'rows') return [{ path, label: f.label, words: words(f, path, v) }]
  return ((v ?? []) as Row[]).flatMap((row, i) =>
    (fieldSettings(f).fields ?? [])
      .filter((c) => sheet.shows(`${path}/${i}/${c.key}`))
      .map((c) => ({
        path: `${path}/${i}/${c.key}`,
        label: `${f.label} ${i + 1}, ${c.label}`,
        words: words(c, `${path}/${i}/${c.key}`, row[c.key]),
      })),
  )
}

function words(f: Field, path: string, v: Typed | undefined): string {
  const none = '–'
  if (f.formula) return sheet.calculated(path) || none
  if (v === undefined || v === null || v === '') return none
  const own = fieldSettings(f)
  switch (shapes[f.kind]) {
    case 'truth':
      return v ? sheet.texts.yes : sheet.texts.no
    case 'day':
      return when(v as string, { dateStyle: 'long' })
    case 'moment':
      return when(`${v as string}:00`, { dateStyle: 'long', timeStyle: 'short' })
    case 'several':
      return (v as string[]).map((x) => labelOf(f, x)).join(', ') || none
    case 'one':
      return labelOf(f, v as string)
    case 'parts':
      return (
        partsOf(f)
          .map((p) => (v as Record<string, string>)[p])
          .filter(Boolean)
          .join(f.kind === 'address' ? '\n' : ' ') || none
      )
    case 'files':
      return (v as FileAnswer[]).map((x) => x.name).join(', ') || none
    case 'drawn': {
      const m = v as Mark
      return m.typed || m.file?.name || (m.strokes?.length ? sheet.texts.signed : none)
    }
  }
  if (f.kind === 'rating') return `${v as string} ${sheet.texts.of} ${own.scale || 5}`
  const text = number(f, v as string)
  return [own.prefix, text, own.suffix].filter(Boolean).join(' ')
}

/** A number as people of the language write it, so that everybody sees how theirs was understood. */
function number(f: Field, typed: string): string {
  if (shapes[f.kind] !== 'figure') return typed
  const plain = plainNumber(typed, props.form.language)
  if (!/^-?\d+(\.\d+)?$/.test(plain)) return typed
  const own = fieldSettings(f)
  const currency = own.currency || props.form.currency
  const how: Intl.NumberFormatOptions =
    f.kind === 'money' && currency && !own.suffix ? { style: 'currency', currency } : { maximumFractionDigits: 20 }
  // As words, so that no digit is lost in a binary number.
  return new Intl.NumberFormat(props.form.language, how).format(plain as Intl.StringNumericLiteral)
}
const labelOf = (f: Field, value: string) => fieldSettings(f).choices?.find((c) => c.value === value)?.label ?? value
function when(iso: string, how: Intl.DateTimeFormatOptions): string {
  const day = new Date(iso.includes('T') ? `${iso}Z` : iso)
  return Number.isNaN(day.getTime())
    ? iso
    : new Intl.DateTimeFormat(props.form.language, { ...how, timeZone: 'UTC' }).format(day)
}

const making = ref(false)
const trouble = ref('')
async function look() {
  making.value = true
  trouble.value = ''
  try {
    const address = URL.createObjectURL(await props.preview())
    window.open(address, '_blank', 'noopener')
  } catch (e) {
    trouble.value = e instanceof Error ? e.message : String(e)
  } finally {
    making.value = false
  }
}
</script>

<template>
  <template v-for="(part, n) in parts" :key="n">
    <h2 v-if="part.title" class="mt-6 mb-1 text-[17px]">{{ part.title }}</h2>
    <dl>
      <div v-for="l in part.lines" :key="l.path" class="border-b border-faint py-2 sm:flex sm:gap-4">
        <dt class="text-soft sm:w-2/5" :lang="form.translated ? undefined : form.words">{{ l.label }}</dt>
        <dd class="whitespace-pre-line [overflow-wrap:anywhere] sm:w-3/5" dir="auto">{{ l.words }}</dd>
      </div>
    </dl>
  </template>
  <p v-if="form.shown" class="mt-5">
    <button type="button" class="link" :disabled="making" @click="look">{{ sheet.texts.document }}</button>
    <span v-if="trouble" role="alert" class="ms-3 font-semibold text-madder">✕ {{ trouble }}</span>
  </p>
  <p v-if="problem" role="alert" class="mt-6 border-2 border-madder px-4 py-3 font-semibold">✕ {{ problem }}</p>
  <div class="mt-6 flex flex-wrap gap-3">
    <button class="button button-main min-h-[44px] px-6" :disabled="sending" @click="$emit('send')">
      {{ sending ? sheet.texts.sending : sheet.texts.send }}
    </button>
    <button class="button min-h-[44px] px-6" :disabled="sending" @click="$emit('back')">
      {{ sheet.texts.change }}
    </button>
  </div>
</template>
