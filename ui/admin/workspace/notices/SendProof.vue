<script setup lang="ts">
import { ref, watch } from 'vue'
import type { ProofSource } from '../../../shared/types'
import { api, data } from '../../api'
import { useDeed } from '../../load'
import { useIntake } from '../intake'

/** The message of the proof, sent to who looks at it. */
const props = defineProps<{ notice: string; answers: ProofSource }>()
const { design } = useIntake()
const { problem, run } = useDeed()
const sent = ref('')
const sending = ref(false)
watch(
  () => props.notice,
  () => {
    sent.value = ''
    problem.value = ''
  },
)
async function send() {
  if (!design.value || sending.value) return
  sent.value = ''
  sending.value = true
  await run(async () => {
    const body = { design: design.value!, key: props.notice, ...props.answers }
    sent.value = (await data(api.POST('/api/proofs/notice/letter', { body }))).to
  })
  sending.value = false
}
</script>

<template>
  <span class="ml-auto">
    <button type="button" class="link min-h-[28px]" :disabled="sending" @click="send">
      {{ sending ? $t('notices.sendingProof') : $t('notices.sendProof') }}
    </button>
    <span v-if="sent" role="status" class="block text-pine">● {{ $t('notices.proofSent', { to: sent }) }}</span>
    <span v-if="problem" role="alert" class="block font-semibold text-madder">✕ {{ problem }}</span>
  </span>
</template>
