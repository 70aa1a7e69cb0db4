<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Opening } from '../../../shared/types'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import { useIntake } from '../intake'
import { asks } from '../kinds'
import InvitationsList from './InvitationsList.vue'
import VersionsList from './VersionsList.vue'
import WaysIn from './WaysIn.vue'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import DateEntry from '../../parts/DateEntry.vue'
import EntryCell from '../../parts/EntryCell.vue'
import OnSwitch from '../../parts/OnSwitch.vue'
import SettingCell from '../../parts/SettingCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'

const desk = useIntake()
const { design, intake, findings, may } = desk
const faults = computed(() => findings.value.filter((f) => f.level === 'fault').length)
const opening = computed<Opening>(() => design.value!.opening ?? {})
const askable = computed(() => design.value!.form.fields.filter((f) => asks(f.kind) && f.kind !== 'rows'))

/** Sets one of the settings, and leaves none behind that says nothing. */
function set<K extends keyof Opening>(key: K, v: Opening[K] | undefined | '') {
  const next: Opening = { ...opening.value }
  if (v === undefined || v === '' || v === 0 || (Array.isArray(v) && v.length === 0)) Reflect.deleteProperty(next, key)
  else next[key] = v
  if (Object.keys(next).length) design.value!.opening = next
  else delete design.value!.opening
}
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement).value
const thanking = ref(!!opening.value.thanks?.length)
const thanks = computed({
  get: () => opening.value.thanks ?? [],
  set: (v) => set('thanks', v),
})
const pausing = ref(!!opening.value.paused?.length)
const paused = computed({
  get: () => opening.value.paused ?? [],
  set: (v) => set('paused', v),
})
const state = computed(() => {
  if (intake.value!.state === 'open') return 'The intake is open'
  if (intake.value!.state === 'paused') return 'The intake is paused'
  return intake.value!.state === 'closed' ? 'The intake is closed' : 'The intake was not opened yet'
})
const switched = (key: 'invited' | 'correct') =>
  computed({ get: () => opening.value[key] ?? false, set: (on) => set(key, on || undefined) })
const invited = switched('invited')
const correct = switched('correct')
</script>

<template>
  <section
    class="grid grow grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 bg-sheet px-6 py-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
    aria-label="Opening"
  >
    <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-5">
      <div>
        <h2 class="mb-2 text-[18px]">{{ state }}</h2>
        <p v-if="faults" class="mb-3 font-semibold text-madder">
          ✕ {{ faults }} to mend before it can be opened; they are listed below.
        </p>
        <p v-else-if="intake!.changed" class="mb-3 text-ochre">◐ There are changes that respondents do not see yet.</p>
        <div v-if="may('open')" class="flex flex-wrap gap-3">
          <button
            v-if="intake!.state !== 'open'"
            class="button button-main"
            :disabled="faults > 0"
            @click="desk.setOpen(true)"
          >
            {{ intake!.state === 'paused' ? 'Open it again' : 'Open the intake' }}
          </button>
          <button
            v-else-if="intake!.changed"
            class="button button-main"
            :disabled="faults > 0"
            @click="desk.setOpen(true)"
          >
            Publish the changes
          </button>
          <button v-if="intake!.state === 'open'" class="button" @click="desk.setOpen(false, true)">
            Pause it for a while
          </button>
          <button
            v-if="intake!.state === 'open' || intake!.state === 'paused'"
            class="button"
            @click="desk.setOpen(false)"
          >
            Close the intake
          </button>
        </div>
      </div>
      <WaysIn />
      <InvitationsList v-if="may('records')" />
      <VersionsList />
    </div>
    <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4">
      <h2 class="text-[18px]">How it is answered</h2>
      <SettingsGrid>
        <EntryCell
          label="name of the intake"
          live
          :model-value="design!.name"
          @update:model-value="design!.name = $event"
        />
        <EntryCell
          label="last part of the address"
          mono
          live
          :model-value="design!.slug"
          @update:model-value="design!.slug = $event"
        />
        <EntryCell
          label="numbers of submissions"
          mono
          live
          full
          help="{n:5} is the running number with five digits; with {year} it begins again each year."
          :model-value="design!.number"
          @update:model-value="design!.number = $event"
        />
        <SettingCell label="opens">
          <DateEntry timed label="Opens at" :model-value="opening.from" @update:model-value="set('from', $event)" />
        </SettingCell>
        <SettingCell label="closes">
          <DateEntry timed label="Closes at" :model-value="opening.until" @update:model-value="set('until', $event)" />
        </SettingCell>
        <EntryCell
          label="takes at most, submissions"
          mode="numeric"
          placeholder="any number"
          :model-value="String(opening.limit ?? '')"
          @update:model-value="set('limit', Number.parseInt($event, 10) || undefined)"
        />
        <ChoiceCell
          label="one for each"
          :model-value="opening.onePer ?? ''"
          :options="[{ value: '', words: 'any number' }, ...askable.map((f) => ({ value: f.key, words: f.label }))]"
          @update:model-value="set('onePer', $event)"
        />
        <ChoiceCell
          label="shows before sending"
          :model-value="opening.shown ?? ''"
          :options="[
            { value: '', words: 'the answers' },
            ...design!.documents.map((d) => ({ value: d.key, words: `the answers and the ${d.name}` })),
          ]"
          @update:model-value="set('shown', $event)"
        />
        <ChoiceCell
          label="robots"
          :model-value="opening.guard ?? ''"
          :options="[
            { value: '', words: 'are held off quietly' },
            { value: 'strict', words: 'must also work for it', note: 'every browser proves some work' },
          ]"
          @update:model-value="set('guard', ($event || undefined) as Opening['guard'])"
        />
        <SettingCell label="who may answer">
          <OnSwitch v-model="invited" label="only by invitation" />
        </SettingCell>
        <SettingCell label="after sending">
          <OnSwitch v-model="correct" label="can be corrected by who sent it" />
        </SettingCell>
      </SettingsGrid>
      <label>
        <span class="mb-0.5 block text-[13px] text-soft">Sites that may show the form in their pages</span>
        <textarea
          class="entry"
          rows="2"
          spellcheck="false"
          placeholder="https://www.place.example"
          :value="opening.sites?.join('\n') ?? ''"
          @change="set('sites', val($event).split(/\s+/).filter(Boolean))"
        ></textarea>
      </label>
      <div>
        <span class="mb-0.5 block text-[13px] text-soft">Words of thanks</span>
        <button v-if="!thanking" type="button" class="link" @click="thanking = true">
          Write your own<span class="sr-only"> words of thanks</span>
        </button>
        <PhraseEditor v-else v-model:body="thanks" label="Words of thanks" rich />
      </div>
      <div>
        <span class="mb-0.5 block text-[13px] text-soft">Words for those who come while it is paused</span>
        <button v-if="!pausing" type="button" class="link" @click="pausing = true">
          Write your own<span class="sr-only"> words for while it is paused</span>
        </button>
        <PhraseEditor v-else v-model:body="paused" label="Words while it is paused" rich />
      </div>
      <label>
        <span class="mb-0.5 block text-[13px] text-soft">Where to go after sending</span>
        <input
          class="entry max-w-[420px]"
          type="url"
          placeholder="nowhere; or https://www.place.example/thanks"
          :value="opening.onward ?? ''"
          @change="set('onward', val($event))"
        />
      </label>
    </div>
  </section>
</template>
