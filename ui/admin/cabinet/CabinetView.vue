<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Filed } from '../../shared/types'
import { api, data } from '../api'
import { behind, useDeed, useList } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import ListChoice from '../parts/ListChoice.vue'
import PlaceHead from '../parts/PlaceHead.vue'
import { may } from '../session'
import FiledList from './FiledList.vue'
import FiledSheet from './FiledSheet.vue'
import FolderList from './FolderList.vue'
import { folderOf, linkTo, usePlace, wayTo } from './place'

/** What was filed, folder by folder, at all destinations; the chosen file is seen beside it. What is looked for is found below, too. */
const { place, called } = usePlace()
const find = ref('')
const amiss = ref(useRoute().query.amiss === '1' ? 'amiss' : '')
const looking = computed(() => !!find.value || !!amiss.value)
const { all, more, problem, loaded, loadOlder, start } = useList<Filed>((cursor) =>
  data(
    api.GET('/api/filings', {
      params: {
        query: {
          ...(place.value.destination ? { destination: place.value.destination, here: !looking.value } : {}),
          ...(place.value.folder ? { folder: place.value.folder } : {}),
          ...(find.value ? { words: find.value } : {}),
          ...(amiss.value ? { amiss: true } : {}),
          ...behind(cursor),
        },
      },
    }),
  ),
)
const open = ref<Filed>()
const folders = ref(0)
watch([find, amiss], useDebounceFn(start, 250))
watch(place, async () => {
  open.value = undefined
  folders.value = 0
  await start()
})
const comparing = ref(false)
const { problem: refused, run } = useDeed()
async function compare() {
  comparing.value = await run(() => data(api.POST('/api/filings/compare')))
}
const home = (f: Filed) => ({ destination: f.destination, folder: folderOf(f.path) })
const said = (f: Filed) =>
  wayTo(home(f), called)
    .map((w) => w.name)
    .join(' / ')
const way = computed(() => wayTo(place.value, called))
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="$t('cabinet.cabinet')">
      <template #state
        ><span class="text-soft">{{ $t('cabinet.filedDocuments') }}</span></template
      >
    </PlaceHead>
    <p v-if="problem || refused" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem || refused }}</p>
    <div v-if="loaded" class="grid items-start gap-4 px-3 pb-6 sm:px-6 lg:grid-cols-[3fr_2fr]">
      <div class="sheet">
        <div class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule px-3 py-3 sm:pl-[76px]">
          <label class="w-full max-w-[260px]">
            <span class="sr-only">{{ $t('cabinet.find') }}</span>
            <input v-model="find" class="entry" type="search" :placeholder="$t('cabinet.find')" />
          </label>
          <ListChoice
            v-model="amiss"
            inline
            :label="$t('cabinet.which')"
            :options="[
              { value: '', words: $t('cabinet.allOfThem') },
              { value: 'amiss', words: $t('cabinet.amissOnly') },
            ]"
          />
          <button v-if="may('house')" type="button" class="link ml-auto min-h-[28px]" @click="compare">
            {{ $t('cabinet.compareAll') }}
          </button>
          <p v-if="comparing" role="status" class="w-full text-soft">{{ $t('cabinet.comparing') }}</p>
        </div>
        <nav v-if="way.length" :aria-label="$t('cabinet.place')" class="border-b border-rule px-3 py-2 sm:pl-[76px]">
          <ol class="flex flex-wrap items-baseline gap-x-2">
            <li>
              <RouterLink class="link" :to="linkTo({ destination: '', folder: '' })">{{
                $t('cabinet.everywhere')
              }}</RouterLink>
            </li>
            <li v-for="(w, i) in way" :key="i" class="min-w-0 [overflow-wrap:anywhere]">
              <span class="mr-2 text-soft" aria-hidden="true">/</span>
              <span v-if="i === way.length - 1" class="font-semibold" aria-current="page">{{ w.name }}</span>
              <RouterLink v-else class="link" :to="linkTo(w.place)">{{ w.name }}</RouterLink>
            </li>
          </ol>
        </nav>
        <template v-if="!looking">
          <FolderList
            :key="`${place.destination}:${place.folder}`"
            :place="place"
            :called="called"
            @counted="folders = $event"
          />
          <h2 v-if="!place.destination && all.length" class="flex text-[14px]">
            <span class="ledger w-[60px] shrink-0"></span>
            <span class="px-3 pt-4">{{ $t('cabinet.lately') }}</span>
          </h2>
        </template>
        <h2 v-else class="sr-only">{{ $t('cabinet.found') }}</h2>
        <FiledList v-model:open="open" :all="all" :folder="looking || !place.destination ? said : undefined" />
        <p v-if="!all.length && !folders" class="px-6 py-8">
          {{
            looking
              ? $t('cabinet.nothingFound')
              : place.destination
                ? $t('cabinet.nothingHere')
                : $t('cabinet.everyFiledDocumentWillListed')
          }}
        </p>
        <div v-if="more" class="p-4">
          <ActionButton @click="loadOlder">{{ $t('cabinet.showOlderOnes') }}</ActionButton>
        </div>
      </div>
      <FiledSheet
        v-if="open"
        :key="open.id"
        :filed="open"
        :where="said(open)"
        :to="linkTo(home(open))"
        class="lg:sticky lg:top-3"
      />
      <p v-else-if="all.length" class="p-5 text-soft">{{ $t('cabinet.chooseFile') }}</p>
    </div>
  </main>
</template>
