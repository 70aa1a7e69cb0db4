<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import FormSheet from '../../../shared/sheet/FormSheet.vue'
import type { Field, Typed } from '../../../shared/types'
import { api, data, words } from '../../api'
import ScriptList from '../../parts/ScriptList.vue'
import { session } from '../../session'
import { useIntake } from '../intake'
import { fieldKinds } from '../kinds'
import SplitDesk from '../SplitDesk.vue'
import FieldSettings from './FieldSettings.vue'
import { useQuestions } from './questions'

const { design, mark } = useIntake()
const route = useRoute()
const fields = computed(() => design.value?.form.fields ?? [])
const selected = ref<number>()
const width = ref<'phone' | 'desk'>('desk')
const trial = ref<Record<string, Typed>>({})
const problem = ref('')
const { typed, guess, settle } = useQuestions(() => fields.value.map((f) => f.key))
const newLine = ref<HTMLTextAreaElement>()

const marked = computed(() => (selected.value === undefined ? undefined : fields.value[selected.value]?.key))

function pick(key: string) {
  const i = fields.value.findIndex((f) => f.key === key)
  if (i >= 0 && selected.value !== i) selected.value = i
}
function fromRoute() {
  if (typeof route.query.line === 'string') pick(route.query.line)
}
onMounted(fromRoute)
watch(() => route.query.line, fromRoute)

watch(marked, async (key) => {
  await nextTick()
  const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
  if (key)
    document
      .querySelector(`[data-proof] [data-field="${key}"]`)
      ?.scrollIntoView({ block: 'nearest', behavior: still ? 'auto' : 'smooth' })
})

async function add() {
  if (!typed.value.trim()) return
  try {
    const made = await settle()
    if (!made.length || !design.value) return
    mark()
    const at = insertAt.value ?? fields.value.length
    design.value.form.fields.splice(at, 0, ...made)
    insertAt.value = insertAt.value === undefined ? undefined : at + made.length
    problem.value = ''
  } catch (e) {
    problem.value = words(e)
  }
}
const insertAt = ref<number>()
async function addAfter(i: number) {
  insertAt.value = i + 1
  selected.value = undefined
  await nextTick()
  newLine.value?.focus()
}
function move(from: number, to: number) {
  mark()
  const list = design.value!.form.fields
  list.splice(to, 0, ...list.splice(from, 1))
}
function remove(i: number) {
  mark()
  design.value!.form.fields.splice(i, 1)
  selected.value = undefined
}
function paste(e: ClipboardEvent) {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  if (!text.trim().includes('\n')) return
  e.preventDefault()
  typed.value = text
  void add()
}
const kind = (f: Field) => fieldKinds[f.kind] + (f.required ? ', required' : '')
const currency = ref('')
onMounted(async () => {
  currency.value = (await data(api.GET('/api/house'))).currency
})
</script>

<template>
  <SplitDesk>
    <template #script>
      <p class="grid grid-cols-[58px_1fr] border-b border-rule">
        <span class="ledger"></span>
        <label class="flex items-center gap-2 px-3.5 py-2">
          <span class="sr-only">Words above the first question</span>
          <input v-model="design!.form.intro" class="word w-full" placeholder="Words above the first question" />
        </label>
      </p>
      <ScriptList
        v-model:selected="selected"
        :lines="fields"
        :kind="kind"
        noun="field"
        @add="addAfter"
        @move="move"
        @remove="remove"
      >
        <template #sentence="{ line }">
          <span :class="{ 'font-title text-[15px] font-semibold': line.kind === 'section' }">{{
            line.label || 'Without a label'
          }}</span>
        </template>
        <template #settings="{ index }">
          <FieldSettings v-model="design!.form.fields[index]!" @enter="addAfter(index)" />
        </template>
      </ScriptList>
      <form class="grid grid-cols-[58px_1fr] border-b border-faint" @submit.prevent="add">
        <span class="ledger pt-2 pr-3 text-right text-amber-ink">{{ (insertAt ?? fields.length) + 1 }}</span>
        <div class="flex items-start gap-3 px-3.5 py-1.5 pr-4">
          <textarea
            ref="newLine"
            v-model="typed"
            rows="1"
            class="min-h-[24px] grow resize-none bg-transparent py-0.5 outline-offset-4"
            aria-label="New question"
            placeholder="Type a question, or paste a list of them"
            @keydown.enter.exact.prevent="add"
            @keydown.esc="insertAt = undefined"
            @paste="paste"
          ></textarea>
          <span v-if="guess" class="shrink-0 text-[13px] text-soft" role="status">{{ fieldKinds[guess.kind] }}</span>
          <button v-if="typed.trim()" class="link shrink-0">Add</button>
        </div>
      </form>
      <p v-if="insertAt !== undefined" class="px-[76px] py-1 text-soft">
        New questions go to line {{ insertAt + 1 }}.
        <button class="link" @click="insertAt = undefined">Put them at the end</button>
      </p>
      <p v-if="problem" role="alert" class="px-[76px] py-2 font-semibold text-madder">✕ {{ problem }}</p>
    </template>
    <template #proof>
      <div class="flex flex-wrap items-center gap-4 px-5 pt-3">
        <strong>Proof</strong>
        <span class="text-soft">as a respondent sees it, on a</span>
        <button
          v-for="w in ['phone', 'desk'] as const"
          :key="w"
          :class="width === w ? 'font-semibold underline' : 'text-soft'"
          :aria-pressed="width === w"
          @click="width = w"
        >
          {{ w }}
        </button>
      </div>
      <div class="p-5">
        <div
          class="mx-auto border-t-4 border-ink bg-sheet px-7 py-6 text-[15px]"
          :class="width === 'phone' ? 'max-w-[360px]' : 'max-w-[620px]'"
          data-proof
        >
          <p class="text-soft">{{ session?.house }}</p>
          <h2 class="mb-5 text-[24px] leading-tight">{{ design!.name }}</h2>
          <FormSheet
            v-model="trial"
            :form="design!.form"
            :errors="{}"
            :currency="currency"
            prefix="proof-"
            proof
            :marked="marked"
            @pick="pick"
          />
          <p v-if="!fields.length" class="text-soft">The form will stand here. Type its first question on the left.</p>
        </div>
      </div>
    </template>
  </SplitDesk>
</template>
