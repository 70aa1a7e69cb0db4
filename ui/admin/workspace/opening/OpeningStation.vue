<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Opening } from '../../../shared/types'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import { useIntake } from '../intake'
import { asks } from '../kinds'
import InvitationsList from './InvitationsList.vue'
import VersionsList from './VersionsList.vue'
import WaysIn from './WaysIn.vue'

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
      <label>
        <span class="mb-1 block font-semibold">Name of the intake</span>
        <input v-model="design!.name" class="entry max-w-[420px]" />
      </label>
      <label>
        <span class="mb-1 block font-semibold">Last part of the address</span>
        <input v-model="design!.slug" class="entry max-w-[420px]" spellcheck="false" />
      </label>
      <label>
        <span class="mb-1 block font-semibold">Numbers of submissions</span>
        <input v-model="design!.number" class="entry max-w-[420px]" spellcheck="false" />
        <span class="block text-soft"
          >{n:5} is the running number with five digits; with {year} it begins again each year.</span
        >
      </label>
      <div class="words">
        <label>
          opens
          <input
            class="word"
            type="datetime-local"
            :value="opening.from"
            aria-label="Opens at"
            @change="set('from', val($event))"
          />
        </label>
        <label>
          closes
          <input
            class="word"
            type="datetime-local"
            :value="opening.until"
            aria-label="Closes at"
            @change="set('until', val($event))"
          />
        </label>
        <label>
          takes at most
          <input
            class="word w-[64px] text-right"
            inputmode="numeric"
            placeholder="any"
            :value="opening.limit ?? ''"
            @change="set('limit', Number.parseInt(val($event), 10) || undefined)"
          />
          submissions
        </label>
      </div>
      <div class="words">
        <label>
          one for each
          <select class="word max-w-[220px]" :value="opening.onePer ?? ''" @change="set('onePer', val($event))">
            <option value="">– any number –</option>
            <option v-for="f in askable" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <label>
          shows before sending
          <select class="word max-w-[220px]" :value="opening.shown ?? ''" @change="set('shown', val($event))">
            <option value="">the answers</option>
            <option v-for="d in design!.documents" :key="d.key" :value="d.key">the answers and the {{ d.name }}</option>
          </select>
        </label>
        <label class="flex items-center gap-1">
          <input
            type="checkbox"
            :checked="opening.invited ?? false"
            @change="set('invited', opening.invited ? undefined : true)"
          />
          only by invitation
        </label>
        <label class="flex items-center gap-1">
          <input
            type="checkbox"
            :checked="opening.correct ?? false"
            @change="set('correct', opening.correct ? undefined : true)"
          />
          can be corrected by who sent it
        </label>
        <label>
          robots
          <select
            class="word"
            :value="opening.guard ?? ''"
            @change="set('guard', (val($event) || undefined) as Opening['guard'])"
          >
            <option value="">are held off quietly</option>
            <option value="strict">must also work for it</option>
          </select>
        </label>
      </div>
      <label>
        <span class="mb-1 block font-semibold">Sites that may show the form in their pages</span>
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
        <span class="mb-1 block font-semibold">Words of thanks</span>
        <button v-if="!thanking" type="button" class="link" @click="thanking = true">
          Write your own<span class="sr-only"> words of thanks</span>
        </button>
        <PhraseEditor v-else v-model:body="thanks" label="Words of thanks" rich />
      </div>
      <div>
        <span class="mb-1 block font-semibold">Words for those who come while it is paused</span>
        <button v-if="!pausing" type="button" class="link" @click="pausing = true">
          Write your own<span class="sr-only"> words for while it is paused</span>
        </button>
        <PhraseEditor v-else v-model:body="paused" label="Words while it is paused" rich />
      </div>
      <label>
        <span class="mb-1 block font-semibold">Where to go after sending</span>
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
