<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Entry, IntakeLine, RegisterPage } from '../../shared/types'
import { api, data } from '../api'
import PlaceHead from '../parts/PlaceHead.vue'
import { behind, everyIntake, useList } from '../load'
import EntryTable from './EntryTable.vue'
import { somewhere } from '../session'
import ListChoice from '../parts/ListChoice.vue'
import { t } from '../words'

const route = useRoute()
const router = useRouter()
const intakes = ref<IntakeLine[]>([])
const find = ref(String(route.query.find ?? ''))

type State = 'failed' | 'unfinished' | undefined
const state = () =>
  ['failed', 'unfinished'].includes(String(route.query.state)) ? (route.query.state as State) : undefined

function query(cursor?: string) {
  return {
    ...(state() ? { state: state() } : {}),
    ...(route.query.intake ? { intake: Number(route.query.intake) } : {}),
    ...(route.query.find ? { words: String(route.query.find) } : {}),
    ...behind(cursor),
  }
}

const { page, pages, more, problem, busy, run, start, load, loadOlder } = useList<Entry, RegisterPage>((cursor) =>
  data(api.GET('/api/submissions', { params: { query: query(cursor) } })),
)
onMounted(() => run(async () => (intakes.value = await everyIntake())))
watch(
  () => route.query,
  () => void start(),
)

let pause: ReturnType<typeof setTimeout>
watch(find, (v) => {
  clearTimeout(pause)
  pause = setTimeout(() => void router.replace({ query: { ...route.query, find: v || undefined } }), 250)
})
function set(key: string, v: string | undefined) {
  void router.replace({ query: { ...route.query, [key]: v } })
}
const tried = ref('')
async function tryAll() {
  return run(async () => {
    const of = route.query.intake ? { intake: Number(route.query.intake) } : {}
    const { count } = await data(api.POST('/api/steps/retry', { body: of }))
    tried.value = t('register.triedAgain', { count })
    await load()
  })
}
const filters: { name: string; state: State; count: () => number | undefined }[] = [
  { name: t('register.everything'), state: undefined, count: () => undefined },
  { name: t('register.needsHand'), state: 'failed', count: () => page.value?.failed },
  { name: t('register.waiting'), state: 'unfinished', count: () => page.value?.unfinished },
]
const total = (n: number) => (n > 10000 ? t('register.moreThan10000') : n.toLocaleString('en-GB'))
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="$t('register.register')">
      <template #state>
        <span v-if="page" class="text-soft">{{
          $t('register.submissionsIntakes', { total: total(page.all), intakes: intakes.length })
        }}</span>
      </template>
    </PlaceHead>
    <div class="px-3 pb-6 sm:px-6">
      <div class="sheet">
        <div class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule px-3 py-3 sm:pl-[76px]">
          <label class="w-[280px] max-w-full">
            <span class="sr-only">{{ $t('register.find') }}</span>
            <input v-model="find" class="entry" type="search" :placeholder="$t('register.findNameNumberAnswer')" />
          </label>
          <label>
            <span class="sr-only">{{ $t('register.intake') }}</span>
            <ListChoice
              :model-value="String(route.query.intake ?? '')"
              @update:model-value="set('intake', $event || undefined)"
              :label="$t('register.intake')"
              inline
              :options="[
                { value: '', words: $t('register.allIntakes') },
                ...intakes.map((i) => ({ value: String(i.id), words: i.name })),
              ]"
            />
          </label>
          <button
            v-for="f in filters"
            :key="f.name"
            class="min-h-[24px]"
            :class="state() === f.state ? 'font-bold' : 'text-soft hover:text-ink'"
            :aria-pressed="state() === f.state"
            @click="set('state', f.state)"
          >
            {{ f.name }} {{ f.count() }}
          </button>
          <ActionButton
            v-if="state() === 'failed' && page?.failed && somewhere('handle')"
            :disabled="busy"
            @click="tryAll"
          >
            {{ $t('register.tryAllAgain') }}
          </ActionButton>
          <span role="status" class="text-pine">{{ tried }}</span>
          <a
            v-if="route.query.intake"
            class="link"
            :href="`/api/intakes/${route.query.intake}/submissions.csv`"
            download
            >{{ $t('register.allAnswersAsCsv') }}</a
          >
        </div>
        <p v-if="problem" role="alert" class="px-6 py-4 font-semibold text-madder">✕ {{ problem }}</p>
        <EntryTable v-if="page?.entries.length" :pages="pages" />
        <p v-else-if="page" class="px-6 py-8 sm:pl-[76px]">
          {{ page.all ? $t('register.nothingRegisterFits') : $t('register.everySubmissionWillEnteredHere') }}
          <RouterLink v-if="!page.all" class="link" to="/intakes">{{ $t('register.openIntake') }}</RouterLink>
        </p>
        <div v-if="more" class="px-6 py-4 sm:pl-[76px]">
          <ActionButton @click="loadOlder">{{ $t('register.showOlderOnes') }}</ActionButton>
        </div>
      </div>
    </div>
  </main>
</template>
