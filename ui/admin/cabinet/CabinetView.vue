<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Filed } from '../../shared/types'
import { api, data } from '../api'
import { behind, useDeed, useList } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import ListChoice from '../parts/ListChoice.vue'
import PlaceHead from '../parts/PlaceHead.vue'
import { may } from '../session'
import { asMoment } from '../times'
import { t } from '../words'
import FiledSheet from './FiledSheet.vue'

/** What was filed, folder by folder, at all destinations; the chosen file is seen beside it. */
const find = ref('')
const destination = ref('')
const amiss = ref(useRoute().query.amiss === '1' ? 'amiss' : '')
const { all, more, problem, loaded, loadOlder, start } = useList<Filed>((cursor) =>
  data(
    api.GET('/api/filings', {
      params: {
        query: {
          ...(find.value ? { words: find.value } : {}),
          ...(destination.value ? { destination: destination.value } : {}),
          ...(amiss.value ? { amiss: true } : {}),
          ...behind(cursor),
        },
      },
    }),
  ),
)
watch([find, destination, amiss], useDebounceFn(start, 250))
const comparing = ref(false)
const { problem: refused, run } = useDeed()
async function compare() {
  comparing.value = await run(() => data(api.POST('/api/filings/compare')))
}
const open = ref<Filed>()
const known = ref<{ key: string; name: string }[]>([{ key: 'cabinet', name: t('cabinet.cabinet') }])
onMounted(async () => {
  try {
    known.value = (await data(api.GET('/api/destinations'))).map((l) => l.destination)
  } catch {
    // Who may not see the destinations sees their keys.
  }
})
const called = (key: string) => known.value.find((d) => d.key === key)?.name ?? key
const name = (f: Filed) => f.path.split('/').at(-1) ?? ''
const folder = (f: Filed) => [called(f.destination), ...f.path.split('/').slice(0, -1)].join(' / ')
/** Neighbours in one folder stand under its name. */
const groups = computed(() => {
  const out: { folder: string; files: Filed[] }[] = []
  for (const f of all.value) {
    const last = out.at(-1)
    if (last?.folder === folder(f)) last.files.push(f)
    else out.push({ folder: folder(f), files: [f] })
  }
  return out
})
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
          <label class="w-[260px] max-w-full">
            <span class="sr-only">{{ $t('cabinet.find') }}</span>
            <input v-model="find" class="entry" type="search" :placeholder="$t('cabinet.find')" />
          </label>
          <ListChoice
            v-model="destination"
            inline
            :label="$t('cabinet.destination')"
            :options="[
              { value: '', words: $t('cabinet.everywhere') },
              ...known.map((d) => ({ value: d.key, words: d.name })),
            ]"
          />
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
        <section v-for="(g, i) in groups" :key="i" :aria-label="g.folder">
          <h2 class="flex text-[13px] font-normal text-soft">
            <span class="ledger w-[60px] shrink-0"></span>
            <span class="min-w-0 px-3 pt-2 [overflow-wrap:anywhere]"
              ><span aria-hidden="true">▸ </span>{{ g.folder }}</span
            >
          </h2>
          <ul>
            <li v-for="f in g.files" :key="f.id" class="border-b border-faint">
              <button
                class="grid w-full grid-cols-[60px_1fr_auto] gap-x-3 text-left hover:bg-amber-wash"
                :class="{ 'bg-amber-wash': open?.id === f.id }"
                :aria-pressed="open?.id === f.id"
                @click="open = f"
              >
                <span
                  class="ledger self-stretch py-1.5 pr-4 text-right"
                  :class="f.amiss ? 'text-madder' : 'text-pine'"
                  aria-hidden="true"
                  >{{ f.amiss ? '✕' : '●' }}</span
                >
                <span class="min-w-0 py-1.5 font-semibold [overflow-wrap:anywhere]"
                  >{{ name(f) }}
                  <span v-if="f.amiss" class="ml-2 font-normal text-madder">{{
                    f.amiss === 'lost' ? $t('cabinet.isLost') : $t('cabinet.isChanged')
                  }}</span></span
                >
                <span class="py-1.5 pr-3 whitespace-nowrap text-soft tabular-nums">{{ asMoment(f.at) }}</span>
              </button>
            </li>
          </ul>
        </section>
        <p v-if="!all.length" class="px-6 py-8">
          {{ find || destination || amiss ? $t('cabinet.nothingFound') : $t('cabinet.everyFiledDocumentWillListed') }}
        </p>
        <div v-if="more" class="p-4">
          <ActionButton @click="loadOlder">{{ $t('cabinet.showOlderOnes') }}</ActionButton>
        </div>
      </div>
      <FiledSheet v-if="open" :key="open.id" :filed="open" :where="folder(open)" class="lg:sticky lg:top-3" />
      <p v-else-if="all.length" class="p-5 text-soft">{{ $t('cabinet.chooseFile') }}</p>
    </div>
  </main>
</template>
