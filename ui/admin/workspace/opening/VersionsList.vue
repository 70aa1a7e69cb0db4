<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Version } from '../../../shared/types'
import { api, data, words } from '../../api'
import { asDay } from '../../times'
import { useIntake } from '../intake'
import ListChoice from '../../parts/ListChoice.vue'

/** What was published, and what each version changed. */
const { intake, id } = useIntake()
const versions = ref<Version[]>([])
const problem = ref('')
const unfolded = ref(3)
watch(
  () => [intake.value?.revision, intake.value?.version],
  async () => {
    try {
      versions.value = await data(api.GET('/api/intakes/{id}/versions', { params: { path: { id } } }))
      problem.value = ''
    } catch (e) {
      problem.value = words(e)
    }
  },
  { immediate: true },
)

const from = ref<number>()
const compared = ref<string[]>()
const to = ref(-1) // the draft is 0
async function compare(version: number) {
  to.value = version
  if (version < 0) return
  if (from.value === undefined) return
  compared.value = await data(
    api.GET('/api/intakes/{id}/comparison', { params: { path: { id }, query: { from: from.value, to: version } } }),
  )
}
</script>

<template>
  <div>
    <h2 class="mb-2 text-[18px]">{{ $t('opening.versions') }}</h2>
    <p v-if="problem" role="alert" class="text-madder">✕ {{ problem }}</p>
    <p v-else-if="!versions.length" class="text-soft">{{ $t('opening.eachTimePublishedWhatChanged') }}</p>
    <ol>
      <li v-for="v in versions.slice(0, unfolded)" :key="v.version" class="border-b border-faint py-2">
        <p class="font-semibold">
          {{ v.version ? $t('opening.version2', { version: v.version }) : $t('opening.notPublishedYet') }}
          <span v-if="v.published" class="font-normal text-soft">{{ asDay(v.published) }}</span>
        </p>
        <ul class="text-[13px]">
          <li v-for="(c, i) in v.changes" :key="i">{{ c }}</li>
          <li v-if="!v.changes.length" class="text-soft">
            {{ v.version === 1 ? $t('opening.first') : $t('opening.nothingRespondentsDocumentsShow') }}
          </li>
        </ul>
      </li>
    </ol>
    <p v-if="versions.length > 2" class="words mt-2">
      <span
        >{{ $t('opening.whatChangedFrom') }}
        <ListChoice
          v-model="from"
          :label="$t('opening.compareFrom')"
          inline
          :options="
            versions
              .filter((x) => x.version)
              .map((v) => ({ value: v.version, words: $t('opening.version3', { version: v.version }) }))
          "
        />
        {{ $t('opening.to') }}
        <ListChoice
          :model-value="to"
          @update:model-value="compare($event)"
          :label="$t('opening.compare')"
          inline
          :options="[
            { value: -1, words: '…' },
            ...versions.map((v) => ({
              value: v.version,
              words: v.version ? $t('opening.version3', { version: v.version }) : $t('opening.draft'),
            })),
          ]"
        />
      </span>
    </p>
    <ul v-if="compared" class="text-[13px]" role="status">
      <li v-for="(c, i) in compared" :key="i">{{ c }}</li>
      <li v-if="!compared.length">{{ $t('opening.nothing') }}</li>
    </ul>
    <button v-if="versions.length > unfolded" type="button" class="link" @click="unfolded += 20">
      {{ $t('opening.showEarlierOnes') }}
    </button>
  </div>
</template>
