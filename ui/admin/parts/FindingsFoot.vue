<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Finding } from '../../shared/types'

/** Along the foot: the findings of the whole intake, worst first, each with its place and its mend. */
const props = defineProps<{ findings: Finding[] }>()
defineEmits<{ go: [finding: Finding]; write: [finding: Finding] }>()
const all = ref(false)
const faults = computed(() => props.findings.filter((f) => f.level === 'fault').length)
const count = computed(() =>
  faults.value ? `${faults.value} ${faults.value === 1 ? 'fault' : 'faults'}` : `${props.findings.length} to look at`,
)
/** What is said aloud once nobody types any more. */
const summary = computed(() => {
  const worst = props.findings[0]
  return worst ? `${count.value}. ${place(worst)}: ${worst.message}` : 'No findings'
})
const told = refDebounced(summary, 1500)
const shown = computed(() => (all.value ? props.findings : props.findings.slice(0, 1)))

function place(f: Finding): string {
  return f.place
    .replace(/^form\/fields\//, 'Form, ')
    .replace(/^documents\/([^/]+)\/blocks\//, 'Document $1, ')
    .replace(/^documents\//, 'Document ')
    .replace(/^notices\//, 'Notice ')
    .replace(/^filings\//, 'Filing ')
    .replaceAll('/', ', ')
    .replaceAll('_', ' ')
}
</script>

<template>
  <section class="sticky bottom-0 z-10 border-t border-rule bg-blotter px-3 py-2 sm:px-6" aria-label="Findings">
    <p class="sr-only" role="status">{{ told }}</p>
    <p v-if="!findings.length" class="text-pine">● No findings</p>
    <div v-else class="flex items-start gap-5">
      <span class="shrink-0 font-semibold" :class="faults ? 'text-madder' : 'text-ochre'">
        {{ faults ? '✕' : '◐' }} {{ count }}
      </span>
      <ul class="min-w-0 grow" :class="{ 'max-h-[200px] overflow-y-auto': all }">
        <li v-for="(f, i) in shown" :key="i">
          <button type="button" class="text-left hover:underline" @click="$emit('go', f)">
            <span class="font-semibold">{{ place(f) }}</span>: {{ f.message }}
            <span class="text-carbon">{{ f.mend }}</span>
          </button>
          <button v-if="f.write" type="button" class="link ml-2" @click="$emit('write', f)">
            Write it<span class="sr-only">: {{ f.write }}</span>
          </button>
        </li>
      </ul>
      <button v-if="findings.length > 1" type="button" class="link shrink-0" :aria-expanded="all" @click="all = !all">
        {{ all ? 'Only the worst' : `All ${findings.length}` }}
      </button>
    </div>
  </section>
</template>
