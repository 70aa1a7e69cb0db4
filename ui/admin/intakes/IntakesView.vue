<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { IntakeLine } from '../../shared/types'
import { api, data } from '../api'
import { everyIntake, useLoad } from '../load'
import PlaceHead from '../parts/PlaceHead.vue'
import { asDay } from '../times'
import NewIntake from './NewIntake.vue'
import { may } from '../session'
import { t } from '../words'

const making = ref(false)
const { value: intakes, problem, run } = useLoad(everyIntake)
watch(intakes, (all) => {
  if (all?.length === 0) making.value = true
})

const router = useRouter()
const copy = (i: IntakeLine) =>
  run(async () => {
    const made = await data(api.POST('/api/intakes/{id}/copy', { params: { path: { id: i.id } } }))
    await router.push(`/intakes/${made.id}/form`)
  })

function standing(i: IntakeLine): string {
  if (i.state === 'open') return t('intakes.openSince', { asDay: asDay(i.opened ?? i.updated) })
  if (i.state === 'paused') return t('intakes.paused')
  return i.state === 'closed' ? t('intakes.closed') : t('intakes.notOpenedYet')
}
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="$t('intakes.intakes')">
      <ActionButton v-if="!making && may('design')" main @click="making = true">
        {{ $t('intakes.newIntake') }}
      </ActionButton>
    </PlaceHead>
    <div class="px-3 pb-6 sm:px-6">
      <p v-if="problem" role="alert" class="mb-4 font-semibold text-madder">✕ {{ problem }}</p>
      <NewIntake v-if="making" class="mb-6" />
      <div v-if="intakes?.length" class="sheet relative overflow-x-auto">
        <table class="w-full min-w-[640px] border-collapse text-left">
          <thead class="text-soft">
            <tr class="border-b border-rule">
              <th scope="col" class="ledger w-[60px]">
                <span class="sr-only">{{ $t('intakes.line') }}</span>
              </th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('intakes.intake') }}</th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('intakes.standing') }}</th>
              <th scope="col" class="px-3 py-2 text-right font-normal">{{ $t('intakes.fields') }}</th>
              <th scope="col" class="px-3 py-2 text-right font-normal">{{ $t('intakes.submissions') }}</th>
              <th scope="col" class="px-3 py-2 font-normal">{{ $t('intakes.wants') }}</th>
              <th scope="col" class="px-3 py-2 font-normal">
                <span class="sr-only">{{ $t('intakes.do') }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(i, n) in intakes" :key="i.id" class="border-b border-faint hover:bg-amber-wash">
              <td class="ledger pr-3 text-right text-soft">{{ n + 1 }}</td>
              <td class="px-3 py-2">
                <RouterLink class="font-semibold hover:underline" :to="`/intakes/${i.id}/form`">{{
                  i.name
                }}</RouterLink>
              </td>
              <td class="px-3" :class="i.state === 'open' ? 'font-semibold text-pine' : 'text-soft'">
                {{ standing(i) }}
              </td>
              <td class="px-3 text-right">{{ i.fields }}</td>
              <td class="px-3 text-right">{{ i.submissions }}</td>
              <td class="px-3">
                <span v-if="i.faults" class="mr-3 font-semibold text-madder">{{
                  $t('intakes.mend', { faults: i.faults })
                }}</span>
                <span v-if="i.failed" class="mr-3 font-semibold text-madder">{{
                  $t('intakes.failed', { failed: i.failed })
                }}</span>
                <span v-else-if="i.unfinished" class="text-ochre">{{
                  $t('intakes.waiting', { unfinished: i.unfinished })
                }}</span>
                <span v-if="i.changed" class="text-soft">{{ $t('intakes.changesNotPublished') }}</span>
              </td>
              <td class="px-3 whitespace-nowrap">
                <button v-if="may('design')" class="link" @click="copy(i)">
                  {{ $t('intakes.copy') }}<span class="sr-only"> {{ i.name }}</span>
                </button>
                <a class="link ml-3" :href="`/api/intakes/${i.id}/file`" download
                  >{{ $t('intakes.file')
                  }}<span class="sr-only">{{ ' ' + $t('intakes.of', { name: i.name }) }}</span></a
                >
                <a class="link ml-3" :href="`/api/intakes/${i.id}/schema`" download
                  >{{ $t('intakes.schema')
                  }}<span class="sr-only">{{ ' ' + $t('intakes.of', { name: i.name }) }}</span></a
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
  </main>
</template>
