<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { fieldSettings } from '../../settings'
import type { FileAnswer } from '../../types'
import { useSheet, type ControlProps } from '../sheet'

/** Files added to an answer; each is sent at once and named by the answer. */
const props = defineProps<ControlProps>()
const model = defineModel<FileAnswer[]>({ required: true })
const sheet = useSheet()

interface Underway {
  name: string
  share: number
  problem: string
  file: File
}
const underway = ref<Underway[]>([])
const photo = computed(() => props.field.kind === 'photo')
const own = computed(() => fieldSettings(props.field))
const most = computed(() => Math.max(own.value.most ?? 1, 1))
const accept = computed(() =>
  photo.value ? 'image/jpeg,image/png' : own.value.accept?.map((e) => `.${e}`).join(',') || undefined,
)
const full = computed(() => model.value.length >= most.value)

function add(e: Event) {
  const input = e.target as HTMLInputElement
  const chosen = [...(input.files ?? [])].slice(0, most.value - model.value.length)
  input.value = ''
  underway.value = underway.value.filter((u) => !u.problem)
  // Each is sent in its turn: a slow line has one to finish, and they stay in the order in which they were chosen.
  void chosen.reduce((before, file) => before.then(() => send(file)), Promise.resolve())
}

async function send(file: File) {
  underway.value.push({ name: file.name, share: 0, problem: '', file })
  await attempt(underway.value.at(-1)!)
}

async function attempt(u: Underway) {
  u.problem = ''
  u.share = 0
  try {
    const kept = await sheet.upload(props.path.replace(/\/\d+\//, '.'), u.file, (share) => (u.share = share))
    model.value = [...model.value, kept]
    await nextTick() // the next one is added to what the form has by then
    underway.value = underway.value.filter((x) => x !== u)
  } catch (e) {
    u.problem = e instanceof Error ? e.message : String(e)
  }
}
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
        @click="model = model.filter((_, k) => k !== i)"
      >
        {{ sheet.texts.remove }}<span class="sr-only"> {{ f.name }}</span>
      </button>
    </li>
    <li v-for="(u, i) in underway" :key="`u${i}`" class="flex items-center gap-3 py-1" role="status">
      <span class="min-w-0 truncate">{{ u.name }}</span>
      <template v-if="u.problem">
        <span class="font-semibold text-madder" :lang="sheet.ours || undefined">✕ {{ u.problem }}</span>
        <button type="button" class="link ms-auto shrink-0" :lang="sheet.ours || undefined" @click="attempt(u)">
          {{ sheet.texts.again }}<span class="sr-only"> {{ u.name }}</span>
        </button>
      </template>
      <progress v-else :value="u.share" max="1" :aria-label="`${sheet.texts.sending} ${u.name}`"></progress>
    </li>
  </ul>
  <input
    v-show="!full"
    :id="id"
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
