<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'
import type { Entry, Step } from '../../shared/types'
import StateMark from '../parts/StateMark.vue'
import { asClock, asMoment } from '../times'
import { t } from '../words'

/** A page of the register. Far from what is in sight its rows give way to room of their height, so that thousands cost nothing. */
defineProps<{ entries: Entry[]; kinds: readonly Step['kind'][] }>()
const body = useTemplateRef<HTMLElement>('body')
const height = ref(0) // CSS pixels; 0 while the rows are there
useIntersectionObserver(
  body,
  ([at]) => {
    if (at) height.value = at.isIntersecting || !at.boundingClientRect.height ? 0 : at.boundingClientRect.height
  },
  { rootMargin: '1500px 0px' },
)

interface Standing {
  text: string
  state: 'done' | 'ready' | 'working' | 'failed'
}

const doneWord = { document: t('register.made'), notice: t('register.sent'), filing: t('register.filed') } as const

const some = (done: number, all: number, word: string) => t('register.some', { done, all, word })

function standing(e: Entry, kind: Step['kind']): Standing | undefined {
  const steps = e.steps.filter((s) => s.kind === kind && s.state !== 'void')
  if (!steps.length) return undefined
  const failed = steps.find((s) => s.state === 'failed')
  if (failed) return { text: failed.reason ?? t('register.failed'), state: 'failed' }
  const done = steps.filter((s) => s.state === 'done').length
  const word = doneWord[kind]
  if (done === steps.length) return { text: steps.length > 1 ? some(done, steps.length, word) : word, state: 'done' }
  const waiting = steps.find((s) => s.state !== 'done' && s.reason)
  if (waiting) {
    const next =
      Date.parse(waiting.due) > Date.now()
        ? t('register.tryingAgain', { asClock: asClock(waiting.due) })
        : t('register.tryingAgain2')
    return { text: some(done, steps.length, word) + next, state: 'ready' }
  }
  return { text: done ? some(done, steps.length, word) : t('register.waits'), state: 'working' }
}
const looks = { done: '', working: 'text-soft', ready: 'text-ochre', failed: 'font-semibold text-madder' }
</script>

<template>
  <tbody ref="body">
    <tr v-if="height" aria-hidden="true" :style="{ height: `${height}px` }"></tr>
    <template v-else>
      <tr v-for="e in entries" :key="e.id" class="border-b border-faint hover:bg-amber-wash" :data-entry="e.number">
        <td class="ledger pr-4 text-right"><StateMark :state="e.state" bare /></td>
        <td class="px-3 py-2">
          <RouterLink class="font-semibold whitespace-nowrap hover:underline" :to="`/register/${e.id}`">{{
            e.number
          }}</RouterLink>
        </td>
        <td class="px-3 py-2">
          <bdi>{{ e.intake }}</bdi> · <bdi>{{ e.person || $t('register.noNameGiven') }}</bdi>
        </td>
        <td class="px-3 py-2 whitespace-nowrap">{{ asMoment(e.received) }}</td>
        <td v-for="k in kinds" :key="k" class="max-w-[220px] px-3 py-2" :data-kind="k">
          <span v-if="standing(e, k)" :class="looks[standing(e, k)!.state]">{{ standing(e, k)!.text }}</span>
          <span v-else class="text-soft">{{ $t('register.none') }}</span>
        </td>
      </tr>
    </template>
  </tbody>
</template>
