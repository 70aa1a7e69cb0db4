<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import { filled } from '../shared/texts'
import type { Texts } from '../shared/texts'
import { Refused } from './service'

/** One message to come back by, to an address that is asked for. */
const props = defineProps<{
  remind: (email: string, days: number) => Promise<string>
  email: string
  language: string
  texts: Texts
}>()
const open = ref(false)
const address = ref(props.email)
const days = ref(1)
const due = ref('')
const problem = ref('')
const asking = ref(false)

const entry = useTemplateRef<HTMLInputElement>('entry')
async function begin() {
  address.value ||= props.email
  open.value = true
  await nextTick()
  entry.value?.focus()
}
async function ask() {
  problem.value = due.value = ''
  asking.value = true
  try {
    due.value = await props.remind(address.value, days.value)
  } catch (e) {
    const told = e instanceof Refused ? e.problem.findings?.[0]?.message : ''
    const enough = e instanceof Refused && e.status === 429
    problem.value = told || (enough ? props.texts.remindEnough : props.texts.lost)
  } finally {
    asking.value = false
  }
}
const dayOf = (moment: string) =>
  new Intl.DateTimeFormat(props.language, { dateStyle: 'long' }).format(new Date(moment))
</script>

<template>
  <p v-if="!open" class="mt-1 text-[13px]">
    <button type="button" class="link" @click="begin">{{ texts.remind }}</button>
  </p>
  <fieldset v-else class="mt-3 grid max-w-[420px] gap-2 border-t border-faint pt-3">
    <legend class="sr-only">{{ texts.remind }}</legend>
    <label>
      <span class="block text-[13px] text-soft">{{ texts.remindEmail }}</span>
      <input
        ref="entry"
        v-model="address"
        class="entry"
        type="email"
        autocomplete="email"
        maxlength="320"
        :aria-invalid="!!problem"
        :aria-describedby="problem ? 'remind-problem' : undefined"
        @keydown.enter.prevent="ask"
      />
    </label>
    <div role="radiogroup" :aria-label="texts.remindWhen" class="flex flex-wrap gap-x-5 gap-y-1">
      <label v-for="n in [1, 3, 7]" :key="n" class="flex min-h-[28px] items-center gap-2">
        <input v-model="days" type="radio" name="remind-days" :value="n" />
        {{ n === 1 ? texts.remindTomorrow : filled(texts.remindDays, { n }) }}
      </label>
    </div>
    <p v-if="problem" id="remind-problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
    <p>
      <button type="button" class="button" :disabled="asking || !address.trim()" @click="ask">
        {{ texts.remindSend }}
      </button>
    </p>
    <p v-if="due" role="status" class="text-pine">
      ● {{ filled(texts.reminded, { email: address.trim(), day: dayOf(due) }) }}
    </p>
  </fieldset>
</template>
