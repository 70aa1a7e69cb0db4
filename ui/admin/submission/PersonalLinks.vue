<script setup lang="ts">
import { ref } from 'vue'
import { api, data, words } from '../api'

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
    said.value = 'Withdrawn. Links in messages that go out from now on are new ones.'
    emit('withdrawn')
  } catch (e) {
    problem.value = words(e)
  }
}
</script>

<template>
  <section class="mt-7">
    <h2 class="mb-2 text-[18px]">Personal links</h2>
    <p class="text-soft">
      Messages and documents may carry links to read this submission or to correct it. Withdrawn, none of them opens
      anything any more.
    </p>
    <p v-if="sure" class="mt-2 flex flex-wrap gap-x-4 gap-y-2">
      <button class="button" @click="withdraw">Withdraw all of them</button>
      <button class="link" @click="sure = false">Leave them as they are</button>
    </p>
    <button v-else class="link mt-2" @click="sure = true">Withdraw the links</button>
    <p role="status" class="mt-1 text-pine">{{ said }}</p>
    <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
  </section>
</template>
