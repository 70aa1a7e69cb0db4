<script setup lang="ts">
import ActionButton from '../../parts/ActionButton.vue'
import { useLocked } from '../../parts/locked'
import { computed, ref } from 'vue'
import type { Opening } from '../../../shared/types'
import PictureChooser from '../../parts/PictureChooser.vue'
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
import { t } from '../../words'

const draft = useIntake()
const locked = useLocked()
const { design, intake, findings, may } = draft
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
  if (intake.value!.state === 'open') return t('opening.intakeOpen')
  if (intake.value!.state === 'paused') return t('opening.intakePaused')
  return intake.value!.state === 'closed' ? t('opening.intakeClosed') : t('opening.intakeWasNotOpenedYet')
})
const sites = computed({ get: () => opening.value.sites ?? [], set: (all) => set('sites', all) })
const switched = (key: 'invited' | 'correct' | 'anew' | 'reminders') =>
  computed({ get: () => opening.value[key] ?? false, set: (on) => set(key, on || undefined) })
const invited = switched('invited')
const correct = switched('correct')
const anew = switched('anew')
const reminders = switched('reminders')
</script>

<template>
  <section
    class="grid grow grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 bg-sheet px-6 py-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
    :aria-label="$t('opening.opening')"
  >
    <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-5">
      <div>
        <h2 class="mb-2 text-[18px]">{{ state }}</h2>
        <p v-if="faults" class="mb-3 font-semibold text-madder">
          {{ $t('opening.mendBeforeCanOpenedThey', { faults }) }}
        </p>
        <p v-else-if="intake!.changed" class="mb-3 text-ochre">{{ $t('opening.thereChangesRespondentsDoNot') }}</p>
        <div v-if="may('open')" class="flex flex-wrap gap-3">
          <ActionButton v-if="intake!.state !== 'open'" main :disabled="faults > 0" @click="draft.setOpen(true)">
            {{ intake!.state === 'paused' ? $t('opening.openAgain') : $t('opening.openIntake') }}
          </ActionButton>
          <ActionButton v-else-if="intake!.changed" main :disabled="faults > 0" @click="draft.setOpen(true)">
            {{ $t('opening.publishChanges') }}
          </ActionButton>
          <ActionButton v-if="intake!.state === 'open'" @click="draft.setOpen(false, true)">
            {{ $t('opening.pauseWhile') }}
          </ActionButton>
          <ActionButton v-if="intake!.state === 'open' || intake!.state === 'paused'" @click="draft.setOpen(false)">
            {{ $t('opening.closeIntake') }}
          </ActionButton>
        </div>
      </div>
      <WaysIn v-model:sites="sites" />
      <InvitationsList v-if="may('records')" />
      <VersionsList />
    </div>
    <fieldset class="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4" :disabled="locked">
      <h2 class="text-[18px]">{{ $t('opening.howAnswered') }}</h2>
      <SettingsGrid>
        <EntryCell
          :label="$t('opening.nameIntake')"
          live
          :model-value="design!.name"
          @update:model-value="design!.name = $event"
        />
        <EntryCell
          :label="$t('opening.lastPartAddress')"
          mono
          live
          :model-value="design!.slug"
          @update:model-value="design!.slug = $event"
        />
        <EntryCell
          :label="$t('opening.numbersSubmissions')"
          mono
          live
          full
          :help="$t('opening.n5RunningNumberFive')"
          :model-value="design!.number"
          @update:model-value="design!.number = $event"
        />
        <SettingCell :label="$t('opening.opens')">
          <DateEntry
            timed
            :label="$t('opening.opens2')"
            :model-value="opening.from"
            @update:model-value="set('from', $event)"
          />
        </SettingCell>
        <SettingCell :label="$t('opening.closes')">
          <DateEntry
            timed
            :label="$t('opening.closes2')"
            :model-value="opening.until"
            @update:model-value="set('until', $event)"
          />
        </SettingCell>
        <EntryCell
          :label="$t('opening.takesMostSubmissions')"
          mode="numeric"
          :placeholder="$t('opening.anyNumber')"
          :model-value="String(opening.limit ?? '')"
          @update:model-value="set('limit', Number.parseInt($event, 10) || undefined)"
        />
        <ChoiceCell
          :label="$t('opening.oneEach')"
          :model-value="opening.onePer ?? ''"
          :options="[
            { value: '', words: $t('opening.anyNumber') },
            ...askable.map((f) => ({ value: f.key, words: f.label })),
          ]"
          @update:model-value="set('onePer', $event)"
        />
        <ChoiceCell
          :label="$t('opening.showsBeforeSending')"
          :model-value="opening.shown ?? ''"
          :options="[
            { value: '', words: $t('opening.answers') },
            ...design!.documents.map((d) => ({ value: d.key, words: $t('opening.answers2', { name: d.name }) })),
          ]"
          @update:model-value="set('shown', $event)"
        />
        <ChoiceCell
          :label="$t('opening.robots')"
          :model-value="opening.guard ?? ''"
          :options="[
            { value: '', words: $t('opening.heldOffQuietly') },
            { value: 'strict', words: $t('opening.mustAlsoWork'), note: $t('opening.everyBrowserProvesSomeWork') },
          ]"
          @update:model-value="set('guard', ($event || undefined) as Opening['guard'])"
        />
        <SettingCell :label="$t('opening.whoMayAnswer')">
          <OnSwitch v-model="invited" :label="$t('opening.onlyInvitation')" />
        </SettingCell>
        <SettingCell :label="$t('opening.afterSending')">
          <OnSwitch v-model="correct" :label="$t('opening.canCorrectedWhoSent')" />
          <OnSwitch v-if="correct || anew" v-model="anew" :label="$t('opening.daysAnew')" />
        </SettingCell>
        <SettingCell :label="$t('opening.keepingAnswers')">
          <OnSwitch v-model="reminders" :label="$t('opening.remindsWhoAsks')" />
        </SettingCell>
      </SettingsGrid>
      <div>
        <span class="mb-0.5 block text-[13px] text-soft">{{ $t('opening.cover') }}</span>
        <PictureChooser :model-value="opening.cover" @update:model-value="set('cover', $event)" />
      </div>
      <div>
        <span class="mb-0.5 block text-[13px] text-soft">{{ $t('opening.wordsThanks') }}</span>
        <button v-if="!thanking" type="button" class="link" @click="thanking = true">
          {{ $t('opening.writeYourOwn') }}<span class="sr-only">{{ ' ' + $t('opening.wordsThanks2') }}</span>
        </button>
        <PhraseEditor v-else v-model:body="thanks" :label="$t('opening.wordsThanks')" rich />
      </div>
      <div>
        <span class="mb-0.5 block text-[13px] text-soft">{{ $t('opening.wordsThoseWhoComeWhile') }}</span>
        <button v-if="!pausing" type="button" class="link" @click="pausing = true">
          {{ $t('opening.writeYourOwn') }}<span class="sr-only">{{ ' ' + $t('opening.wordsWhilePaused') }}</span>
        </button>
        <PhraseEditor v-else v-model:body="paused" :label="$t('opening.wordsWhilePaused2')" rich />
      </div>
      <label>
        <span class="mb-0.5 block text-[13px] text-soft">{{ $t('opening.whereGoAfterSending') }}</span>
        <input
          class="entry max-w-[420px]"
          type="url"
          :placeholder="$t('opening.nowhereHttpsWwwPlaceExample')"
          :value="opening.onward ?? ''"
          @change="set('onward', val($event))"
        />
      </label>
    </fieldset>
  </section>
</template>
