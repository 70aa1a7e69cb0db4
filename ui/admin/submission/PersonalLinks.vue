<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref } from 'vue'
import { api, data, words } from '../api'
import { t } from '../words'

/** The links that were given to a respondent can be made void, such as after one went to the wrong person. */
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ withdrawn: [] }>()

const sure = ref(false)
const said = ref('')
const problem = ref('')

async function withdraw() {
  sure.value = false
  problem.value = ''
  try {
    await data(api.DELETE('/api/submissions/{id}/links', { params: { path: { id: props.id } } }))
    said.value = t('submission.withdrawnLinksMessagesGoOut')
    emit('withdrawn')
  } catch (e) {
    problem.value = words(e)
  }
}
</script>

<template>
  <section class="mt-7">
    <h2 class="mb-2 text-[18px]">{{ $t('submission.personalLinks') }}</h2>
    <p class="text-soft">{{ $t('submission.messagesDocumentsMayCarryLinks') }}</p>
    <p v-if="sure" class="mt-2 flex flex-wrap gap-x-4 gap-y-2">
      <ActionButton @click="withdraw">{{ $t('submission.withdrawAllThem') }}</ActionButton>
      <button class="link" @click="sure = false">{{ $t('submission.leaveThemAsThey') }}</button>
    </p>
    <button v-else class="link mt-2" @click="sure = true">{{ $t('submission.withdrawLinks') }}</button>
    <p role="status" class="mt-1 text-pine">{{ said }}</p>
    <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
  </section>
</template>
