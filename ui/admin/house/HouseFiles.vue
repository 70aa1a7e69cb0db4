<script setup lang="ts">
import { ref } from 'vue'
import type { House } from '../../shared/types'
import { api, data, octets, words } from '../api'
import FileEntry from '../parts/FileEntry.vue'

/** The fixed files of the house, which messages and filings of every intake may carry. A newer one takes the place of its name. */
const house = defineModel<House>({ required: true })
defineProps<{ error?: string | undefined }>()
const busy = ref('')
const problem = ref('')

async function take(file: File, at?: number) {
  busy.value = file.name
  problem.value = ''
  try {
    const kept = (await data(api.POST('/api/house/files', octets(file)))).file
    const all = house.value.files ?? []
    house.value.files =
      at === undefined
        ? [...all, { name: freeName(file.name), file: kept }]
        : all.map((f, i) => (i === at ? { ...f, file: kept } : f))
  } catch (err) {
    problem.value = `${file.name}: ${words(err)}`
  } finally {
    busy.value = ''
  }
}
function freeName(name: string) {
  const taken = (house.value.files ?? []).map((f) => f.name.toLowerCase())
  const dot = name.lastIndexOf('.')
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, '']
  let made = name
  for (let n = 2; taken.includes(made.toLowerCase()); n++) made = `${stem} ${n}${ending}`
  return made
}
function rename(i: number, name: string) {
  house.value.files = (house.value.files ?? []).map((f, n) => (n === i ? { ...f, name } : f))
}
function remove(i: number) {
  const rest = (house.value.files ?? []).filter((_, n) => n !== i)
  if (rest.length) house.value.files = rest
  else delete house.value.files
}
</script>

<template>
  <div>
    <span class="mb-0.5 block text-[13px] text-soft">{{ $t('house.fixedFiles') }}</span>
    <p v-if="!house.files?.length" class="text-soft">{{ $t('house.noFixedFiles') }}</p>
    <div v-for="(f, i) in house.files ?? []" :key="f.file + i" class="mb-2 border-l-2 border-rule pl-3" data-fixed>
      <input
        class="word w-full font-semibold"
        :aria-label="$t('house.nameOfFile', { i: i + 1 })"
        :value="f.name"
        @change="rename(i, ($event.target as HTMLInputElement).value.trim())"
      />
      <p class="words text-[13px]">
        <FileEntry
          plain
          :label="$t('house.newerFile')"
          :says="$t('house.newerOf', { name: f.name })"
          @file="take($event, i)"
        />
        <button type="button" class="link" @click="remove(i)">
          {{ $t('house.remove') }}<span class="sr-only"> {{ f.name }}</span>
        </button>
      </p>
    </div>
    <FileEntry
      plain
      :label="busy ? $t('house.reading', { busy }) : $t('house.addFile')"
      :busy="!!busy"
      @file="take($event)"
    />
    <p v-if="problem || error" role="alert" class="font-semibold text-madder">✕ {{ problem || error }}</p>
  </div>
</template>
