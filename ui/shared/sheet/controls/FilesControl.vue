<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { fieldSettings } from '../../settings'
import { filled } from '../../texts'
import type { FileAnswer } from '../../types'
import { useSheet, type ControlProps } from '../sheet'

/** Files added to an answer; each is sent at once and named by the answer. */
const props = defineProps<ControlProps>()
const model = defineModel<FileAnswer[]>({ required: true })
const sheet = useSheet()

interface Underway {
  name: string
  /** 0 to 1; it waits for its turn while undefined. */
  share: number | undefined
  problem: string
  /** None where it is not taken at all. */
  file: File | undefined
}
const underway = ref<Underway[]>([])
const photo = computed(() => props.field.kind === 'photo')
const own = computed(() => fieldSettings(props.field))
const most = computed(() => Math.max(own.value.most ?? 1, 1))
const accept = computed(() =>
  photo.value ? 'image/jpeg,image/png' : own.value.accept?.map((e) => `.${e}`).join(',') || undefined,
)
const coming = computed(() => underway.value.filter((u) => u.file).length)
const full = computed(() => model.value.length + coming.value >= most.value)

// Each is sent in its turn: a slow line has one to finish, and they stay in the order in which they were chosen.
let turn = Promise.resolve()
function add(e: Event) {
  const input = e.target as HTMLInputElement
  const chosen = [...(input.files ?? [])]
  input.value = ''
  underway.value = underway.value.filter((u) => u.file)
  const room = most.value - model.value.length - coming.value
  chosen.forEach((file, i) => {
    if (i < room) queue({ name: file.name, share: undefined, problem: '', file })
    else
      underway.value.push({
        name: file.name,
        share: undefined,
        problem: filled(sheet.texts.tooMany, { n: most.value }),
        file: undefined,
      })
  })
}
function queue(fresh: Underway) {
  underway.value.push(fresh)
  again(underway.value.at(-1)!)
}
function again(u: Underway) {
  u.problem = ''
  u.share = undefined
  turn = turn.then(() => attempt(u))
  sheet.wait(turn)
}

async function attempt(u: Underway) {
  if (!u.file || !underway.value.includes(u)) return
  u.share = 0
  try {
    const kept = await sheet.upload(props.path.replace(/\/\d+\//, '.'), u.file, (share) => (u.share = share))
    if (!underway.value.includes(u)) return
    model.value = [...model.value, kept]
    await nextTick() // the next one is added to what the form has by then
    drop(u)
  } catch (e) {
    u.problem = e instanceof Error ? e.message : String(e)
  }
}
function drop(u: Underway) {
  underway.value = underway.value.filter((x) => x !== u)
}
const input = useTemplateRef<HTMLInputElement>('input')
async function remove(do_: () => void) {
  do_()
  await nextTick()
  input.value?.focus()
}
// The page is not left while one could not be sent: it would be lost without a word.
const me = {}
watch(
  () => underway.value.find((u) => u.file && u.problem)?.name,
  (name) => sheet.hold(me, props.path, name === undefined ? '' : filled(sheet.texts.notSent, { name })),
)
onBeforeUnmount(() => sheet.hold(me, props.path, ''))
const size = (n: number) => (n > 1e6 ? `${(n / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(n / 1000))} kB`)
</script>

<template>
  <ul v-if="model.length || underway.length" class="mb-2 grid gap-1">
    <li v-for="(f, i) in model" :key="f.id" class="flex items-center gap-3 border-b border-faint py-1">
      <span class="min-w-0 truncate">{{ f.name }}</span>
      <span class="shrink-0 text-soft">{{ size(f.size) }}</span>
      <button
        type="button"
        class="link ms-auto shrink-0"
        :lang="sheet.ours || undefined"
        @click="remove(() => (model = model.filter((_, k) => k !== i)))"
      >
        {{ sheet.texts.remove }}<span class="sr-only"> {{ f.name }}</span>
      </button>
    </li>
    <li v-for="(u, i) in underway" :key="`u${i}`" class="flex flex-wrap items-center gap-x-3 py-1">
      <span class="max-w-full truncate">{{ u.name }}</span>
      <span role="status" class="contents">
        <span v-if="u.problem" class="font-semibold text-madder" :lang="sheet.ours || undefined"
          >✕ {{ u.problem }}</span
        >
        <span v-else-if="u.share === undefined" class="text-soft" :lang="sheet.ours || undefined">{{
          sheet.texts.waits
        }}</span>
      </span>
      <progress
        v-if="!u.problem && u.share !== undefined"
        class="house-progress max-w-40 min-w-16 flex-1"
        :value="u.share"
        max="1"
        :aria-label="`${sheet.texts.sending} ${u.name}`"
      ></progress>
      <span class="ms-auto flex shrink-0 gap-4" :lang="sheet.ours || undefined">
        <button v-if="u.problem && u.file" type="button" class="link" @click="again(u)">
          {{ sheet.texts.again }}<span class="sr-only"> {{ u.name }}</span>
        </button>
        <button type="button" class="link" @click="remove(() => drop(u))">
          {{ sheet.texts.remove }}<span class="sr-only"> {{ u.name }}</span>
        </button>
      </span>
    </li>
  </ul>
  <input
    v-show="!full"
    :id="id"
    ref="input"
    type="file"
    class="block w-full max-w-full"
    :accept="accept"
    :multiple="most > 1"
    :aria-describedby="described"
    :aria-invalid="invalid ? 'true' : undefined"
    :aria-required="required || undefined"
    @change="add"
  />
</template>
