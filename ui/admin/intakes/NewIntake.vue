<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { onMounted, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Design, Field } from '../../shared/types'
import { api, data, words } from '../api'
import { keptWords } from '../kept'
import { focusHead } from '../router'
import FileStart from './FileStart.vue'
import { t } from '../words'

/** A name and questions, one a line, become a whole intake. */
const router = useRouter()
const name = keptWords('new-name')
const questions = keptWords('new-questions')
function forget() {
  name.value = questions.value = ''
}
const first = useTemplateRef<HTMLTextAreaElement>('first')
onMounted(() => first.value?.focus({ preventScroll: true }))
const problem = ref('')
const busy = ref(false)
const fields = ref<Field[]>([])

async function make(open: boolean) {
  if (!questions.value.trim() && !fields.value.length) {
    problem.value = t('intakes.typePasteLeastOneQuestion')
    return
  }
  busy.value = true
  problem.value = ''
  try {
    const made = await data(
      api.POST('/api/intakes', {
        body: {
          name: name.value,
          questions: questions.value,
          ...(fields.value.length && !questions.value.trim() ? { fields: fields.value } : {}),
        },
      }),
    )
    if (open) {
      // A refusal is shown in the workspace, with its findings and their places.
      await api.PUT('/api/intakes/{id}/opening', { params: { path: { id: made.id } }, body: { open: true } })
    }
    forget()
    await router.push(`/intakes/${made.id}/form`)
    void focusHead('[aria-label="New question"]')
  } catch (e) {
    problem.value = words(e)
  } finally {
    busy.value = false
  }
}

function read(of: string, got: Field[]) {
  fields.value = got
  name.value ||= of
}
async function bring(what: { design: Design } | { file: string }) {
  try {
    const made = await data(api.POST('/api/intakes', { body: { name: '', questions: '', ...what } }))
    await router.push(`/intakes/${made.id}/form`)
  } catch (e) {
    problem.value = words(e)
  }
}
</script>

<template>
  <form class="sheet max-w-[760px] px-6 py-5" @submit.prevent="make(false)">
    <h2 class="mb-1 text-[18px]">{{ $t('intakes.beginIntake') }}</h2>
    <p class="mb-4 text-soft">{{ $t('intakes.typePasteWhatYouWant') }}</p>
    <label class="mb-1 block font-semibold" for="questions">{{ $t('intakes.questions') }}</label>
    <textarea
      id="questions"
      ref="first"
      v-model="questions"
      class="entry mb-4"
      rows="7"
      :placeholder="$t('intakes.yourNameYourEmailWhich')"
      @keydown.ctrl.enter="make(false)"
    ></textarea>
    <FileStart class="mb-4" @read="read" @design="bring({ design: $event })" @file="bring({ file: $event })" />
    <div class="flex flex-wrap items-end gap-4">
      <label class="grow">
        <span class="mb-1 block font-semibold"
          >{{ $t('intakes.name') }} <span class="font-normal text-soft">{{ $t('intakes.optional') }}</span></span
        >
        <input v-model="name" class="entry" :placeholder="$t('intakes.roomBooking')" />
      </label>
      <ActionButton :disabled="busy" @click="make(true)">{{ $t('intakes.makeOpen') }}</ActionButton>
      <ActionButton main type="submit" :disabled="busy">{{ $t('intakes.makeIntake') }}</ActionButton>
    </div>
    <p v-if="problem" role="alert" class="mt-3 font-semibold text-madder">✕ {{ problem }}</p>
  </form>
</template>
