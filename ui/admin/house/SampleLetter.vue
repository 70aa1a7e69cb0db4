<script setup lang="ts">
import { mend, wrong } from '../words'
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { lookOrder } from '../../shared/kinds.gen'
import type { DocumentProof as Proof, House } from '../../shared/types'
import { api, data, words } from '../api'
import { lookName } from '../workspace/kinds'
import DocumentProof from '../workspace/documents/DocumentProof.vue'

/** A letter of the house as it is being set, in one of the looks. */
const props = defineProps<{ house: House }>()
const looks = lookOrder
const look = ref('letter')
const proof = ref<Proof>()
const problem = ref('')
let asked = 0

const again = useDebounceFn(async () => {
  const mine = ++asked
  try {
    const got = await data(api.POST('/api/proofs/house', { body: { house: props.house, look: look.value } }))
    if (mine !== asked) return
    proof.value = got
    problem.value = ''
  } catch (e) {
    if (mine === asked) problem.value = words(e)
  }
}, 120)
watch([() => props.house, look], () => void again(), { deep: true, immediate: true })
</script>

<template>
  <div class="flex flex-wrap items-center gap-x-5 px-5 pt-3">
    <strong>{{ $t('house.letter2') }}</strong>
    <span class="text-soft"
      >{{ $t('house.look') }}
      <template v-for="(l, i) in looks" :key="l">
        <template v-if="i"> · </template>
        <button
          type="button"
          :class="look === l ? 'font-semibold text-ink underline' : 'hover:text-ink'"
          :aria-pressed="look === l"
          @click="look = l"
        >
          {{ lookName(l) }}
        </button>
      </template>
    </span>
  </div>
  <div class="p-5">
    <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
    <ul v-if="proof?.findings.length" class="mb-3 text-[13px] text-madder">
      <li v-for="(f, i) in proof.findings" :key="i">✕ {{ wrong(f) }} {{ mend(f) }}</li>
    </ul>
    <DocumentProof v-if="proof" :proof="proof" :zoom="0.9" />
  </div>
</template>
