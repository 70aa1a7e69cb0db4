<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { tabStore } from '../../shared/store'
import type { House } from '../../shared/types'
import { api, data, Refused, words } from '../api'
import PictureChooser from '../parts/PictureChooser.vue'
import { loadSession } from '../session'
import SplitDesk from '../workspace/SplitDesk.vue'
import { familiesOf } from './families'
import HouseHead from './HouseHead.vue'
import HouseFonts from './HouseFonts.vue'
import SampleLetter from './SampleLetter.vue'

const house = ref<House>()
const problem = ref('')
const errors = ref<Record<string, string>>({})
const kept = ref(false)

// What was typed and not kept stays in this tab, so that looking elsewhere loses nothing.
const place = 'amberseal:house'
let known = ''
const changed = ref(false)
onMounted(async () => {
  try {
    // The chooser of colours shows black where none is said.
    const got = { tint: '#EEF2EF', ...(await data(api.GET('/api/house'))) }
    known = JSON.stringify(got)
    const left = tabStore.get(place)
    house.value = left ? (JSON.parse(left) as House) : got
  } catch (e) {
    problem.value = words(e)
  }
})

watch(
  house,
  (h) => {
    if (!h) return
    const now = JSON.stringify(h)
    changed.value = now !== known
    if (changed.value) tabStore.set(place, now)
    else tabStore.remove(place)
  },
  { deep: true },
)
function discard() {
  house.value = JSON.parse(known) as House
}

const address = computed({
  get: () => house.value?.address.join('\n') ?? '',
  set: (v: string) => {
    if (house.value) house.value.address = v.split('\n')
  },
})

type Line = { key: keyof House & string; label: string; help?: string; type?: string }
const lines: Line[] = [
  { key: 'name', label: 'Name' },
  { key: 'email', label: 'Email', help: 'Notices come from here, and those for the house go here.', type: 'email' },
  { key: 'phone', label: 'Telephone', type: 'tel' },
  { key: 'website', label: 'Website' },
  {
    key: 'site',
    label: 'Where forms are reached',
    help: 'Such as https://forms.house.example; links in documents and mail begin with it.',
  },
  { key: 'registration', label: 'Registration line' },
  { key: 'accent', label: 'Colour', help: 'Of headings, rules and header rows.', type: 'color' },
  { key: 'tint', label: 'Colour of shaded rows', help: 'Pale, so that words on it can be read.', type: 'color' },
  { key: 'zone', label: 'Time zone', help: 'Such as Europe/London.' },
  { key: 'currency', label: 'Currency', help: 'Three letters, such as EUR.' },
]
const selects = computed<{ key: 'language' | 'paper' | 'font'; label: string; choices: string[] }[]>(() => [
  {
    key: 'language',
    label: 'Language of documents',
    choices: ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'es-ES', 'pl-PL', 'ja-JP'],
  },
  { key: 'paper', label: 'Paper', choices: ['A4', 'Letter'] },
  { key: 'font', label: 'Font of documents', choices: familiesOf(house.value) },
])

async function keep() {
  if (!house.value) return
  problem.value = ''
  errors.value = {}
  kept.value = false
  try {
    house.value = await data(
      api.PUT('/api/house', { body: { ...house.value, address: house.value.address.filter((l) => l.trim()) } }),
    )
    known = JSON.stringify(house.value)
    changed.value = false
    tabStore.remove(place)
    kept.value = true
    await loadSession()
  } catch (e) {
    problem.value = words(e)
    if (e instanceof Refused) {
      errors.value = Object.fromEntries(
        (e.problem.findings ?? []).map((f) => [f.path.replace('house/', ''), f.message]),
      )
    }
  }
}
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead>
      <template #state
        ><span v-if="changed" role="status" class="font-semibold text-ochre" data-unkept>◐ Not kept yet</span></template
      >
      <button v-if="changed" class="button" @click="discard">As it was</button>
      <button v-if="changed" class="button button-main" @click="keep">Keep it</button>
    </HouseHead>
    <SplitDesk v-if="house" tall>
      <template #script>
        <form class="grid gap-x-8 gap-y-4 px-6 py-6 sm:grid-cols-2" @submit.prevent="keep">
          <label v-for="l in lines" :key="l.key">
            <span class="mb-1 block font-semibold">{{ l.label }}</span>
            <input
              v-model="house[l.key] as string"
              class="entry"
              :type="l.type ?? 'text'"
              :aria-invalid="errors[l.key] ? 'true' : undefined"
            />
            <span v-if="errors[l.key]" class="font-semibold text-madder">✕ {{ errors[l.key] }}</span>
            <span v-else-if="l.help" class="text-soft">{{ l.help }}</span>
          </label>
          <label>
            <span class="mb-1 block font-semibold">Address</span>
            <textarea v-model="address" class="entry" rows="3"></textarea>
          </label>
          <label v-for="s in selects" :key="s.key">
            <span class="mb-1 block font-semibold">{{ s.label }}</span>
            <select v-model="house[s.key]" class="entry">
              <option v-for="c in s.choices" :key="c">{{ c }}</option>
            </select>
          </label>
          <div>
            <span class="mb-1 block font-semibold">Logo</span>
            <PictureChooser v-model="house.logo" shapes />
          </div>
          <HouseFonts v-model="house" />
          <div class="sticky bottom-0 flex items-center gap-4 bg-sheet py-3 sm:col-span-2">
            <button class="button button-main">Keep it</button>
            <span role="status" class="text-pine">{{
              kept ? '● Kept. Documents made from now on carry it.' : ''
            }}</span>
            <span v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</span>
          </div>
        </form>
      </template>
      <template #proof><SampleLetter :house="house" /></template>
    </SplitDesk>
  </main>
</template>
