<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Folder } from '../../shared/types'
import { api, data } from '../api'
import { behind, useLoad } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import { linkTo, type Place } from './place'

/** The folders in a place, by name; the destinations where it is none. Each leads there. */
const props = defineProps<{ place: Place; called: (key: string) => string }>()
const emit = defineEmits<{ counted: [folders: number] }>()
/** How far files are counted. */
const most = 300
const pages = ref(1)
const { value, problem, load } = useLoad(async () => {
  const all: Folder[] = []
  let next: string | undefined
  for (let n = 0; n < pages.value; n++) {
    const query = {
      ...(props.place.destination ? { destination: props.place.destination } : {}),
      ...(props.place.folder ? { folder: props.place.folder } : {}),
      ...behind(next),
    }
    const page = await data(api.GET('/api/filings/folders', { params: { query } }))
    all.push(...page.entries)
    if (!(next = page.next)) break
  }
  return { all, more: !!next }
})
watch(value, (v) => v && emit('counted', v.all.length))
async function more() {
  pages.value++
  await load()
}
const inside = (name: string): Place =>
  props.place.destination
    ? { ...props.place, folder: props.place.folder ? `${props.place.folder}/${name}` : name }
    : { destination: name, folder: '' }
</script>

<template>
  <p v-if="problem" role="alert" class="px-6 py-3 font-semibold text-madder">✕ {{ problem }}</p>
  <nav v-if="value?.all.length" :aria-label="$t('cabinet.folders')">
    <ul>
      <li v-for="f in value.all" :key="f.name" class="border-b border-faint">
        <RouterLink
          :to="linkTo(inside(f.name))"
          class="grid w-full grid-cols-[60px_1fr_auto] gap-x-3 hover:bg-amber-wash"
        >
          <span class="ledger self-stretch py-1.5 pr-4 text-right text-soft" aria-hidden="true">▸</span>
          <span class="min-w-0 py-1.5 font-semibold [overflow-wrap:anywhere]"
            >{{ place.destination ? f.name : called(f.name) }}
            <span v-if="f.amiss" class="ml-2 font-normal text-madder"
              >✕
              {{
                f.amiss > most
                  ? $t('cabinet.moreNotAsFiled', { n: most }, most)
                  : $t('cabinet.notAsFiled', { n: f.amiss }, f.amiss)
              }}</span
            ></span
          >
          <span class="py-1.5 pr-3 whitespace-nowrap text-soft tabular-nums">{{
            f.files > most ? $t('cabinet.moreFiles', { n: most }, most) : $t('cabinet.files', { n: f.files }, f.files)
          }}</span>
        </RouterLink>
      </li>
    </ul>
    <div v-if="value.more" class="p-4">
      <ActionButton @click="more">{{ $t('cabinet.moreFolders') }}</ActionButton>
    </div>
  </nav>
</template>
