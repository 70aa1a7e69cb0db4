<script setup lang="ts">
import { api, data } from '../api'
import { useLoad } from '../load'
import NewIntake from '../intakes/NewIntake.vue'
import RestingHouse from './RestingHouse.vue'
import PlaceHead from '../parts/PlaceHead.vue'
import EntryTable from '../register/EntryTable.vue'
import { may, somewhere } from '../session'

const { value: desk, problem, load } = useLoad(() => data(api.GET('/api/desk')))
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="$t('desk.desk')">
      <template #state>
        <span v-if="desk?.failed" class="font-semibold text-madder">{{ $t('desk.hand', desk.failed) }}</span>
        <RouterLink v-if="desk?.amiss" class="link font-semibold text-madder" to="/cabinet?amiss=1">{{
          $t('desk.amiss', { n: desk.amiss }, desk.amiss)
        }}</RouterLink>
        <RouterLink v-if="desk?.unsent" class="link font-semibold text-madder" to="/post?tab=invitations">{{
          $t('desk.unsent', { n: desk.unsent }, desk.unsent)
        }}</RouterLink>
        <span v-if="desk?.unfinished" class="text-ochre">{{
          $t('desk.waiting', { unfinished: desk.unfinished })
        }}</span>
        <span
          v-if="
            desk &&
            desk.intakes &&
            !desk.failed &&
            !desk.unfinished &&
            !desk.amiss &&
            !desk.unsent &&
            somewhere('records')
          "
          class="text-pine"
          >{{ $t('desk.nothingNeedsHand') }}</span
        >
      </template>
      <RouterLink v-if="desk?.intakes && somewhere('records')" class="button" to="/register">{{
        $t('desk.lookIntoRegister')
      }}</RouterLink>
    </PlaceHead>
    <div class="px-3 pb-6 sm:px-6">
      <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
      <RestingHouse v-if="desk?.resting" :since="desk.resting" @woken="load" />
      <NewIntake v-if="desk && !desk.intakes && may('design')" />
      <div v-else-if="desk" class="sheet">
        <EntryTable v-if="desk.entries.length" :pages="[desk.entries]" />
        <p v-else-if="!somewhere('records')" class="px-6 py-8">
          {{ $t('desk.houseHasWhatComesStaff', desk.intakes) }}
          <RouterLink class="link" to="/intakes">{{ $t('desk.seeIntakes') }}</RouterLink>
        </p>
        <p v-else class="px-6 py-8">
          {{
            $t('desk.whateverFailsWaitsWillLie', {
              all: desk.all ? $t('desk.allCameFinished') : $t('desk.nothingHasComeYet'),
            })
          }}
          <RouterLink class="link" to="/intakes">{{ $t('desk.seeIntakes') }}</RouterLink>
        </p>
      </div>
    </div>
  </main>
</template>
