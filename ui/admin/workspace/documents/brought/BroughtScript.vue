<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Design, Inspection, Match, PaperDocument, ProofSource } from '../../../../shared/types'
import FileEntry from '../../../parts/FileEntry.vue'
import { useDeed } from '../../../load'
import { useLocked } from '../../../parts/locked'
import { t } from '../../../words'
import { useIntake } from '../../intake'
import { usePlaceholders } from '../../placeholders'
import { useProof } from '../../proof'
import MarksScript from '../marks/MarksScript.vue'
import { nudge, putAt } from '../marks/marks'
import {
  bring,
  byName,
  downloadBeginning,
  downloadNotes,
  fieldOf,
  isLeft,
  held,
  inspect,
  knownAs,
  onPages,
  turn,
  type Found,
} from './brought'
import MatchSettings from './MatchSettings.vue'

/** What is to be filled in a file that was brought, each with what it got and why; those without a match come first. */
const doc = defineModel<PaperDocument>({ required: true })
const marked = defineModel<string | undefined>('marked')
const props = defineProps<{ source: ProofSource }>()
const emit = defineEmits<{ turned: [document: PaperDocument, left: string[]] }>()
const { design, mark } = useIntake()
const locked = useLocked()
const { stands } = usePlaceholders(true)
const { problem, busy, run } = useDeed()

const { proof: inspection, problem: unread } = useProof<
  Inspection,
  { design: Design; key: string; source: ProofSource }
>(
  () => (design.value ? { design: design.value, key: doc.value.key, source: props.source } : undefined),
  (q) => inspect(q.design, q.key, q.source),
)
const pages = computed(() => onPages(doc.value.file))
/** Those without a match come first when a file is opened; then each line stays where it is, whatever it gets. */
const order = ref<{ file: string; ids: string[] }>({ file: '', ids: [] })
const idOf = (f: Found) => f.kind + f.name
const found = computed(() => {
  const all = byName(inspection.value?.placeholders ?? [])
  const at = (f: Found) => (order.value.ids.indexOf(idOf(f)) + 1 || all.length + 1) - 1
  return order.value.file === doc.value.file ? all.sort((a, b) => at(a) - at(b)) : all
})
watch(inspection, () => {
  const file = doc.value.file ?? ''
  if (order.value.file !== file && inspection.value) order.value = { file, ids: found.value.map(idOf) }
})
const asksYet = (f: Found) => f.asks && (f.how === '' || f.how === 'nearly the same label')
const missing = computed(() => found.value.filter(asksYet).length)
const unprinted = computed(() => (inspection.value?.unprinted ?? []).map(labelOf))
const labelOf = (key: string) => stands.value.find((s) => s.key === key)?.label ?? key

const open = ref<string>()
watch(
  () => doc.value.key,
  () => (open.value = undefined),
)
function choose(f: Found) {
  open.value = open.value === f.name ? undefined : f.name
  marked.value = f.places[0]
}
/** What was chosen by hand, or nothing again. */
function match(f: Found, to: Match | undefined) {
  mark()
  const matches = { ...doc.value.matches }
  if (to) matches[f.name] = to
  else Reflect.deleteProperty(matches, f.name)
  if (Object.keys(matches).length) doc.value.matches = matches
  else Reflect.deleteProperty(doc.value, 'matches')
}
/** The mark that is chosen goes where the page was clicked, or by millimetres. */
const chosenMark = () => doc.value.marks?.find((m) => `mark ${m.id}` === marked.value)
function put(page: number, x: number, y: number) {
  const m = chosenMark()
  if (!m || locked.value) return
  mark()
  putAt(m, page, x, y, inspection.value?.rules?.[page - 1] ?? [])
}
function nudgeMark(dx: number, dy: number) {
  const m = chosenMark()
  if (!m || locked.value) return
  mark()
  nudge(m, dx, dy)
}
defineExpose({ put, nudge: nudgeMark })
function setFillable(on: boolean) {
  mark()
  if (on) doc.value.fillable = true
  else delete doc.value.fillable
}
/** Another program is offered where it is installed, and can be left where it no longer is. */
const byOther = computed(() => !pages.value && (inspection.value?.setters?.length || doc.value.setter))
function setByOther(on: boolean) {
  mark()
  if (on) doc.value.setter = 'libreoffice'
  else delete doc.value.setter
}
async function turnIt() {
  const { document, left } = await turn(design.value!, doc.value.key)
  emit('turned', document, left)
}
const again = (file: File) =>
  run(async () => {
    const name = await bring(file)
    const { placeholders } = await inspect(withFile(name), doc.value.key)
    mark()
    doc.value.file = name
    doc.value.matches = held(doc.value.matches ?? {}, placeholders)
  })
/** The draft as it will be with another file. */
function withFile(file: string): Design {
  const documents = design.value!.documents.map((d) => (d.key === doc.value.key ? { ...d, file } : d))
  return { ...design.value!, documents }
}
function says(f: Found): string {
  if (f.kind === 'condition') return t('brought.condition')
  if (f.kind === 'answers') return t('brought.everyAnswer')
  return {
    chosen: isLeft(f.match) ? t('brought.stays') : t('brought.chosen'),
    given: t('brought.given'),
    'same key': t('brought.sameName'),
    'same label': t('brought.sameLabel'),
    'nearly the same label': t('brought.nearly'),
    '': t('brought.choose'),
  }[f.how]
}
/** What a match is in words: a field’s label, or what was written. */
function stand(f: Found): string {
  const key = fieldOf(f.match)
  if (key) return labelOf(key)
  if (f.match.formula) return f.kind === 'condition' ? '' : `= ${f.match.formula}`
  return (f.match.words ?? []).map((w) => (w.field ? labelOf(w.field) : (w.text ?? ''))).join('')
}
const sign = (f: Found) => (asksYet(f) ? '◐' : '')
</script>

<template>
  <div class="grid grid-cols-[58px_1fr] border-b border-faint">
    <span class="ledger"></span>
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1 px-3.5 py-2">
      <div class="min-w-0 grow">
        <p class="truncate font-semibold">{{ knownAs(doc.file ?? '') }}</p>
        <p class="text-[13px] text-soft">
          {{ pages ? $t('brought.fieldCount', found.length) : $t('brought.placeholders', found.length)
          }}<template v-if="missing">, {{ $t('brought.toMatch', missing) }}</template>
        </p>
      </div>
      <FileEntry
        v-if="!locked"
        :label="busy ? $t('brought.reading') : $t('brought.bringNewer')"
        accept=".docx,.pdf"
        :busy="busy"
        @file="again"
      />
      <label v-if="pages && found.length" class="flex w-full items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          :checked="doc.fillable ?? false"
          :disabled="locked"
          @change="setFillable(($event.target as HTMLInputElement).checked)"
        />
        {{ $t('brought.fillable') }}
      </label>
      <label v-if="byOther" class="flex w-full items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          :checked="doc.setter === 'libreoffice'"
          :disabled="locked"
          @change="setByOther(($event.target as HTMLInputElement).checked)"
        />
        {{ $t('brought.byLibreOffice') }}
      </label>
      <p v-if="problem || unread" role="alert" class="w-full font-semibold text-madder">✕ {{ problem || unread }}</p>
    </div>
  </div>
  <ol :aria-label="$t('brought.list')">
    <li
      v-for="(f, i) in found"
      :key="idOf(f)"
      class="grid grid-cols-[58px_1fr] border-b border-faint"
      :class="{ 'bg-amber-wash': open === f.name }"
    >
      <span class="ledger pt-1.5 pr-3 text-right" :class="open === f.name ? 'font-semibold' : 'text-soft'">{{
        i + 1
      }}</span>
      <div class="min-w-0 px-3.5">
        <button
          class="flex min-h-[34px] w-full flex-wrap items-center gap-x-3 text-left"
          :aria-expanded="open === f.name"
          @click="choose(f)"
        >
          <code class="min-w-0 truncate">{{ f.name }}</code>
          <span class="text-[13px] text-soft">{{ f.places.join('; ') }}</span>
          <span class="ml-auto flex items-center gap-2">
            <span v-if="stand(f)" class="chip max-w-[280px] truncate">{{ stand(f) }}</span>
            <span class="text-[13px]" :class="asksYet(f) ? 'text-ochre' : 'text-soft'">
              <span aria-hidden="true">{{ sign(f) }}</span> {{ says(f) }}
            </span>
          </span>
        </button>
        <fieldset v-if="open === f.name && f.asks" class="min-w-0 pb-2.5" :disabled="locked">
          <MatchSettings
            :found="f"
            :present="doc.matches?.[f.name] ?? (f.how === 'nearly the same label' ? {} : f.match)"
            @match="match(f, $event)"
          />
        </fieldset>
      </div>
    </li>
  </ol>
  <p v-if="inspection && !found.length" class="px-6 py-6 sm:pl-[76px]">
    {{ pages ? $t('brought.noFields') : $t('brought.nothing') }}
  </p>
  <MarksScript v-if="pages" v-model="doc" v-model:marked="marked" />
  <p v-if="inspection && !pages" class="flex flex-wrap gap-x-5 px-4 py-3 sm:pl-[76px]">
    <button type="button" class="link" @click="run(() => downloadNotes(design!, doc.key, knownAs(doc.file!)))">
      {{ $t('brought.notes') }}
    </button>
    <button v-if="!locked" type="button" class="link" :disabled="busy" @click="run(turnIt)">
      {{ $t('brought.turn') }}
    </button>
    <button type="button" class="link" @click="run(() => downloadBeginning(design!))">
      {{ $t('brought.beginning') }}
    </button>
  </p>
  <p v-if="unprinted.length" class="px-4 py-3 text-[13px] text-soft sm:pl-[76px]">
    {{ $t('brought.unprinted', { names: unprinted.join(', ') }) }}
  </p>
</template>
