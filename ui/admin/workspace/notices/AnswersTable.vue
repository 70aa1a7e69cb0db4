<script setup lang="ts">
import { computed } from 'vue'
import type { Notice } from '../../../shared/types'
import TickList from '../../parts/TickList.vue'
import { useIntake } from '../intake'
import { asks } from '../kinds'

/** The table of answers in a message: whether there is one, and which answers it shows. */
const notice = defineModel<Notice>({ required: true })
const { design } = useIntake()
const there = computed(() => notice.value.message.some((p) => p.spans.some((s) => s.field === '@answers')))
const fields = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind)))
function turn(on: boolean) {
  const message = notice.value.message.filter((p) => !p.spans.some((s) => s.field === '@answers'))
  if (on) notice.value.message = [...message, { spans: [{ field: '@answers' }] }]
  else {
    notice.value.message = message
    delete notice.value.answers
  }
}
const shows = (key: string) => !notice.value.answers?.length || notice.value.answers.includes(key)
function show(key: string, on: boolean) {
  const now = fields.value.map((f) => f.key).filter((k) => (k === key ? on : shows(k)))
  if (now.length && now.length < fields.value.length) notice.value.answers = now
  else delete notice.value.answers
}
</script>

<template>
  <div>
    <label class="flex min-h-[28px] items-center gap-2">
      <input type="checkbox" :checked="there" @change="turn(($event.target as HTMLInputElement).checked)" />
      {{ $t('notices.tableOfAnswers') }}
    </label>
    <TickList
      v-if="there"
      class="ml-6 text-[13px]"
      silent
      :label="$t('notices.answersShown')"
      :options="fields.map((f) => ({ value: f.key, words: f.label }))"
      :ticked="shows"
      @turn="show"
    />
  </div>
</template>
