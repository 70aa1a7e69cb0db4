<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Version } from '../../../shared/types'
import { api, data, words } from '../../api'
import { asDay } from '../../times'
import { useIntake } from '../intake'

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
</script>

<template>
  <div>
    <h2 class="mb-2 text-[18px]">Versions</h2>
    <p v-if="problem" role="alert" class="text-madder">✕ {{ problem }}</p>
    <p v-else-if="!versions.length" class="text-soft">Each time it is published, what changed is told here.</p>
    <ol>
      <li v-for="v in versions.slice(0, unfolded)" :key="v.version" class="border-b border-faint py-2">
        <p class="font-semibold">
          {{ v.version ? `Version ${v.version}` : 'Not published yet' }}
          <span v-if="v.published" class="font-normal text-soft">{{ asDay(v.published) }}</span>
        </p>
        <ul class="text-[13px]">
          <li v-for="(c, i) in v.changes" :key="i">{{ c }}</li>
          <li v-if="!v.changes.length" class="text-soft">
            {{ v.version === 1 ? 'The first.' : 'Nothing that respondents or documents show.' }}
          </li>
        </ul>
      </li>
    </ol>
    <button v-if="versions.length > unfolded" type="button" class="link" @click="unfolded += 20">
      Show earlier ones
    </button>
  </div>
</template>
