<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { tabStore } from '../../shared/store'
import type { House } from '../../shared/types'
import { api, data, Refused, words } from '../api'
import ChoiceCell from '../parts/ChoiceCell.vue'
import ComboChoice from '../parts/ComboChoice.vue'
import EntryCell from '../parts/EntryCell.vue'
import PictureChooser from '../parts/PictureChooser.vue'
import SettingCell from '../parts/SettingCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import { loadSession } from '../session'
import SplitDesk from '../workspace/SplitDesk.vue'
import { countries, currencies, languages, zones } from './choices'
import { familiesOf } from './families'
import HouseColours from './HouseColours.vue'
import HouseFiles from './HouseFiles.vue'
import HouseFonts from './HouseFonts.vue'
import HouseHead from './HouseHead.vue'
import SampleLetter from './SampleLetter.vue'
import { t } from '../words'

/** Who we are. What is written is kept by itself; what cannot be kept says why at its place, and stays in this tab. */
const house = ref<House>()
const problem = ref('')
const errors = ref<Record<string, string>>({})
const keeping = ref<'kept' | 'keeping' | 'not'>('kept')

const place = 'amberseal:house'
let known = ''
onMounted(async () => {
  try {
    const got = await data(api.GET('/api/house'))
    known = JSON.stringify(got)
    const left = tabStore.get(place)
    house.value = left ? (JSON.parse(left) as House) : got
  } catch (e) {
    problem.value = words(e)
  }
})

async function keep() {
  const now = JSON.stringify(house.value)
  if (!house.value || now === known) {
    keeping.value = 'kept'
    return
  }
  keeping.value = 'keeping'
  try {
    const sent = { ...house.value, address: house.value.address.filter((l) => l.trim()) }
    await data(api.PUT('/api/house', { body: sent }))
    known = now
    problem.value = ''
    errors.value = {}
    if (JSON.stringify(house.value) !== now) return void soon()
    tabStore.remove(place)
    keeping.value = 'kept'
    await loadSession()
  } catch (e) {
    keeping.value = 'not'
    problem.value = words(e)
    errors.value =
      e instanceof Refused
        ? Object.fromEntries((e.problem.findings ?? []).map((f) => [f.path.replace('house/', ''), f.message]))
        : {}
  }
}
const soon = useDebounceFn(keep, 600)
watch(
  house,
  (h, before) => {
    const now = JSON.stringify(h)
    if (!h || now === known) return
    tabStore.set(place, now)
    if (before) keeping.value = 'keeping'
    void soon()
  },
  { deep: true },
)
onBeforeUnmount(() => void keep())

const address = computed({
  get: () => house.value?.address.join('\n') ?? '',
  set: (v: string) => {
    if (house.value) house.value.address = v.split('\n')
  },
})
type Line = {
  key: 'name' | 'email' | 'phone' | 'website' | 'site' | 'registration'
  label: string
  help?: string
  type?: string
}
const lines: Line[] = [
  { key: 'name', label: t('house.name') },
  { key: 'email', label: t('house.email'), help: t('house.noticesComeFromHereThose'), type: 'email' },
  { key: 'phone', label: t('house.telephone'), type: 'tel' },
  { key: 'website', label: t('house.website') },
  {
    key: 'site',
    label: t('house.whereFormsReached'),
    help: t('house.suchAsHttpsFormsHouse'),
  },
  { key: 'registration', label: t('house.registrationLine') },
]
const papers = [
  { value: 'A4', words: 'A4' },
  { value: 'Letter', words: t('house.letter') },
]
const fonts = computed(() => familiesOf(house.value).map((f) => ({ value: f, words: f })))
const zoneChoices = zones()
const currencyChoices = currencies()
const countryChoices = countries()
function setCountry(to: string) {
  if (to) house.value!.country = to
  else delete house.value!.country
}
const said = { kept: t('house.allKept'), keeping: t('house.keeping'), not: t('house.notKept') }
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead>
      <span
        v-if="house"
        role="status"
        class="self-center text-soft"
        :class="{ 'font-semibold text-madder': keeping === 'not' }"
        data-keeping
        >{{ said[keeping] }}</span
      >
    </HouseHead>
    <div class="flex grow flex-col px-3 pb-3 sm:px-6 sm:pb-6">
      <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
      <SplitDesk v-if="house" tall>
        <template #script>
          <div class="grid gap-6 px-5 py-5">
            <SettingsGrid>
              <EntryCell
                v-for="l in lines"
                :key="l.key"
                v-model="house[l.key] as string"
                live
                :label="l.label"
                :type="l.type ?? 'text'"
                :error="errors[l.key]"
                :help="l.help"
              />
              <SettingCell :label="$t('house.address')" of="house-address" :error="errors.address">
                <textarea id="house-address" v-model="address" class="entry" rows="3"></textarea>
              </SettingCell>
              <SettingCell :label="$t('house.logo')"><PictureChooser v-model="house.logo" shapes /></SettingCell>
            </SettingsGrid>
            <SettingsGrid>
              <HouseColours v-model="house" :errors="errors" />
              <ChoiceCell v-model="house.font" :label="$t('house.fontDocuments')" :options="fonts" />
              <ChoiceCell v-model="house.paper" :label="$t('house.paper')" :options="papers" />
              <HouseFonts v-model="house" />
              <HouseFiles v-model="house" :error="errors.files" />
            </SettingsGrid>
            <SettingsGrid>
              <ChoiceCell v-model="house.language" :label="$t('house.languageDocuments')" :options="languages" />
              <SettingCell :label="$t('house.timeZone')" :error="errors.zone">
                <ComboChoice v-model="house.zone" :label="$t('house.timeZone2')" :options="zoneChoices" />
              </SettingCell>
              <SettingCell :label="$t('house.country')" :error="errors.country">
                <ComboChoice
                  :model-value="house.country ?? ''"
                  :label="$t('house.country')"
                  :placeholder="$t('house.countryUsual')"
                  :options="countryChoices"
                  @update:model-value="setCountry"
                />
              </SettingCell>
              <SettingCell :label="$t('house.currency')" :error="errors.currency">
                <ComboChoice v-model="house.currency" :label="$t('house.currency2')" :options="currencyChoices" />
              </SettingCell>
            </SettingsGrid>
          </div>
        </template>
        <template #proof><SampleLetter :house="house" /></template>
      </SplitDesk>
    </div>
  </main>
</template>
