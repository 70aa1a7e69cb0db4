<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Destination, DestinationLine } from '../../shared/types'
import { api, data } from '../api'
import HouseHead from '../house/HouseHead.vue'
import ActionButton from '../parts/ActionButton.vue'
import AddLine from '../parts/AddLine.vue'
import DialogSheet from '../parts/DialogSheet.vue'
import { t } from '../words'
import DestinationCells from './DestinationCells.vue'
import { kinds, sentenceOf } from './destinations'
import { useOutside } from './outside'
import ServiceLines from './ServiceLines.vue'
import TrialParts from './TrialParts.vue'

/** Where the house files: each place with its settings, and a trial of it. */
const { all, loaded, open, draft, secrets, errors, parts, problem, busy, unfold, change, add, keep, attempt, remove } =
  useOutside<Destination, DestinationLine>({
    list: () => data(api.GET('/api/destinations')),
    settings: (line) => line.destination,
    set: (destination, secret) =>
      data(
        api.PUT('/api/destinations/{key}', {
          params: { path: { key: destination.key } },
          body: { destination, ...(secret === undefined ? {} : { secret }) },
        }),
      ),
    remove: (key) => data(api.DELETE('/api/destinations/{key}', { params: { path: { key } } })),
    attempt: async (key) =>
      (await data(api.POST('/api/destinations/{key}/trial', { params: { path: { key } } }))).parts,
  })
const shown = computed(() =>
  all.value.map((x) => {
    const d = draft(x.key) ?? x.settings
    return { key: x.key, line: x.line, name: d.name, sentence: sentenceOf(d) }
  }),
)
const leaving = ref<string>()
function leave() {
  if (leaving.value) void remove(leaving.value)
  leaving.value = undefined
}
</script>

<template>
  <main class="flex grow flex-col">
    <HouseHead />
    <div class="px-3 pb-6 sm:px-6">
      <p class="mb-3 max-w-[70ch] text-soft">{{ $t('outside.whereHouseFiles') }}</p>
      <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
      <ServiceLines v-if="loaded" :all="shown" :open="open" :label="$t('outside.destinations')" @unfold="unfold">
        <template #default="{ of, line }">
          <p v-if="of === 'cabinet'" class="mb-3 max-w-[70ch]">{{ $t('outside.cabinetIsHouses') }}</p>
          <form v-else-if="draft(of)" class="grid max-w-[760px] gap-4" @submit.prevent="keep(of)">
            <DestinationCells
              :model-value="draft(of)!"
              :secret="secrets[of] ?? ''"
              :has-secret="line?.secret ?? false"
              :fingerprint="line?.fingerprint"
              :errors="errors"
              @update:model-value="change(of, $event)"
              @update:secret="secrets[of] = $event"
            />
            <p class="flex flex-wrap gap-x-4 gap-y-2">
              <ActionButton main type="submit">{{ $t('outside.keep') }}</ActionButton>
              <ActionButton @click="attempt(of)">{{ $t('outside.keepAndTry') }}</ActionButton>
              <button type="button" class="link text-madder" @click="line ? (leaving = of) : remove(of)">
                {{ $t('outside.remove') }}
              </button>
            </p>
          </form>
          <p v-if="of === 'cabinet'">
            <ActionButton @click="attempt(of)">{{ $t('outside.tryIt') }}</ActionButton>
          </p>
          <p v-if="busy === 'trying' && open === of" role="status" class="mt-3 text-soft">{{ $t('outside.trying') }}</p>
          <TrialParts v-else-if="parts[of]" class="mt-3" :parts="parts[of]!" :well="$t('outside.filingWorks')" />
        </template>
        <template #add>
          <AddLine
            :label="$t('outside.addDestination')"
            :options="kinds"
            @add="add({ name: '', kind: $event as Destination['kind'] })"
          />
        </template>
      </ServiceLines>
    </div>
    <DialogSheet
      :model-value="!!leaving"
      :title="$t('outside.removeDestination')"
      @update:model-value="leaving = undefined"
    >
      <p class="mb-4">{{ t('outside.whatLiesThereStays') }}</p>
      <p class="flex gap-4">
        <ActionButton main @click="leave">{{ $t('outside.remove') }}</ActionButton>
        <ActionButton @click="leaving = undefined">{{ $t('outside.leaveIt') }}</ActionButton>
      </p>
    </DialogSheet>
  </main>
</template>
