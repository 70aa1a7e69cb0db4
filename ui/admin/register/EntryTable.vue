<script setup lang="ts">
import type { Entry, Step } from '../../shared/types'
import StateMark from '../parts/StateMark.vue'
import { asClock, asMoment } from '../times'

/** Lines of the register: each submission with the state of its documents, messages and filings. */
defineProps<{ entries: Entry[] }>()

interface Standing {
  text: string
  state: 'done' | 'ready' | 'working' | 'failed'
}

const doneWord = { document: 'made', notice: 'sent', filing: 'filed' } as const

function standing(e: Entry, kind: Step['kind']): Standing | undefined {
  const steps = e.steps.filter((s) => s.kind === kind)
  if (!steps.length) return undefined
  const failed = steps.find((s) => s.state === 'failed')
  if (failed) return { text: failed.reason ?? 'failed', state: 'failed' }
  const done = steps.filter((s) => s.state === 'done').length
  const word = doneWord[kind]
  if (done === steps.length)
    return { text: steps.length > 1 ? `${done} of ${steps.length} ${word}` : word, state: 'done' }
  const waiting = steps.find((s) => s.state !== 'done' && s.reason)
  if (waiting)
    return { text: `${done} of ${steps.length} ${word}, trying again ${asClock(waiting.due)}`, state: 'ready' }
  return { text: done ? `${done} of ${steps.length} ${word}` : 'waits', state: 'working' }
}
const looks = { done: '', working: 'text-soft', ready: 'text-ochre', failed: 'font-semibold text-madder' }
const kinds = ['document', 'notice', 'filing'] as const
const titles = { document: 'Documents', notice: 'Post', filing: 'Cabinet' }
</script>

<template>
  <div class="overflow-x-auto">
    <table class="w-full min-w-[860px] border-collapse text-left">
      <thead class="text-soft">
        <tr class="border-b border-rule">
          <th class="ledger w-[60px]"><span class="sr-only">State</span></th>
          <th class="px-3 py-2 font-normal">Number</th>
          <th class="px-3 py-2 font-normal">Intake and person</th>
          <th class="px-3 py-2 font-normal">Received</th>
          <th v-for="k in kinds" :key="k" class="px-3 py-2 font-normal">{{ titles[k] }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="e in entries" :key="e.id" class="border-b border-faint hover:bg-amber-wash" :data-entry="e.number">
          <td class="ledger pr-4 text-right"><StateMark :state="e.state" bare /></td>
          <td class="px-3 py-2">
            <RouterLink class="font-semibold whitespace-nowrap hover:underline" :to="`/register/${e.id}`">{{
              e.number
            }}</RouterLink>
          </td>
          <td class="px-3 py-2">
            <bdi>{{ e.intake }}</bdi> · <bdi>{{ e.person || 'no name given' }}</bdi>
          </td>
          <td class="px-3 py-2 whitespace-nowrap">{{ asMoment(e.received) }}</td>
          <td v-for="k in kinds" :key="k" class="max-w-[220px] px-3 py-2" :data-kind="k">
            <span v-if="standing(e, k)" :class="looks[standing(e, k)!.state]">{{ standing(e, k)!.text }}</span>
            <span v-else class="text-soft">none</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
