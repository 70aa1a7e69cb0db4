<script setup lang="ts">
import { ref } from 'vue'
import { api, data } from '../api'
import ActionButton from '../parts/ActionButton.vue'
import { useDeed } from '../load'
import { may } from '../session'
import { asFull } from '../times'

/** A house that was made of a backup: it does nothing outside until somebody lets it. */
defineProps<{ since: string }>()
const emit = defineEmits<{ woken: [] }>()
const skip = ref('')
const { problem, busy, run } = useDeed()
const wake = () =>
  run(async () => {
    await data(api.DELETE('/api/house/rest', { body: { skip: Number(skip.value) } }))
    emit('woken')
  })
</script>

<template>
  <section class="mb-4 border-2 border-ochre bg-sheet px-6 py-4" :aria-label="$t('desk.resting')">
    <h2 class="mb-1 text-[18px]">{{ $t('desk.resting') }}</h2>
    <p class="mb-3">{{ $t('desk.restingSince', { when: asFull(since) }) }}</p>
    <form v-if="may('house')" class="flex flex-wrap items-end gap-x-4 gap-y-2" @submit.prevent="wake">
      <label>
        <span class="mb-0.5 block text-[13px] text-soft">{{ $t('desk.numbersSince') }}</span>
        <input v-model="skip" class="entry w-[160px]" inputmode="numeric" pattern="[0-9]{1,6}" required />
      </label>
      <ActionButton main type="submit" :disabled="busy || skip === ''">{{ $t('desk.letItAct') }}</ActionButton>
      <p class="basis-full text-[13px] text-soft">{{ $t('desk.letItActHint') }}</p>
    </form>
    <p v-if="problem" role="alert" class="mt-2 font-semibold text-madder">✕ {{ problem }}</p>
  </section>
</template>
