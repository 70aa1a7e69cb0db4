<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Design, Finding } from '../../shared/types'
import { mend, t, wrong } from '../words'

/** Along the foot: the findings of the whole intake, worst first, each with its place and its mend. */
const props = defineProps<{ findings: Finding[]; design?: Design | undefined }>()
defineEmits<{ go: [finding: Finding]; write: [finding: Finding] }>()
const all = ref(false)
const faults = computed(() => props.findings.filter((f) => f.level === 'fault').length)
const count = computed(() => (faults.value ? t('parts.faults', faults.value) : t('parts.look', props.findings.length)))
const wings = {
  form: () => t('parts.form'),
  documents: () => t('parts.document'),
  notices: () => t('parts.notice'),
  filings: () => t('parts.filing'),
}
/** What is said aloud once nobody types any more. */
const summary = computed(() => {
  const worst = props.findings[0]
  return worst ? `${count.value}. ${place(worst)}: ${wrong(worst)}` : t('parts.noFindings')
})
const told = refDebounced(summary, 1500)
const shown = computed(() => (all.value ? props.findings : props.findings.slice(0, 1)))

/** What a part of the design is called by people; its key where it has no name. */
function called(wing: string, key: string): string {
  const d = props.design
  if (!d) return key
  if (wing === 'form') return d.form.fields.find((f) => f.key === key)?.label ?? key
  const all = { documents: d.documents, notices: d.notices, filings: d.filings }[wing]
  return all?.find((x) => x.key === key)?.name ?? key
}
/** Where it is, as people say it: “Document Receipt, lead”. */
function place(f: Finding): string {
  const silent = ['fields', 'blocks', 'file', 'marks', 'matches']
  const [wing = '', key = '', ...rest] = f.place.split('/').filter((part) => !silent.includes(part))
  const head = wing in wings ? wings[wing as keyof typeof wings]() : wing
  const name = called(wing, key)
  const parts =
    wing in wings && wing !== 'form' ? [`${head} ${name}`, ...rest] : [head, ...(key ? [name] : []), ...rest]
  return parts.join(', ').replaceAll('_', ' ')
}
</script>

<template>
  <section
    class="sticky bottom-0 z-10 border-t border-rule bg-blotter px-3 py-2 sm:px-6"
    :aria-label="$t('parts.findings')"
  >
    <p class="sr-only" role="status">{{ told }}</p>
    <p v-if="!findings.length" class="text-pine">{{ $t('parts.noFindings2') }}</p>
    <div v-else class="flex items-start gap-5">
      <span class="shrink-0 font-semibold" :class="faults ? 'text-madder' : 'text-ochre'">
        {{ faults ? '✕' : '◐' }} {{ count }}
      </span>
      <ul class="min-w-0 grow" :class="{ 'max-h-[200px] overflow-y-auto': all }">
        <li v-for="(f, i) in shown" :key="i">
          <button type="button" class="text-left hover:underline" @click="$emit('go', f)">
            <span class="font-semibold">{{ place(f) }}</span>: {{ wrong(f) }}
            <span class="text-carbon">{{ mend(f) }}</span>
          </button>
          <button v-if="f.write" type="button" class="link ml-2" @click="$emit('write', f)">
            {{ $t('parts.write') }}<span class="sr-only">: {{ f.write }}</span>
          </button>
        </li>
      </ul>
      <button v-if="findings.length > 1" type="button" class="link shrink-0" :aria-expanded="all" @click="all = !all">
        {{ all ? $t('parts.onlyWorst') : $t('parts.all', { findings: findings.length }) }}
      </button>
    </div>
  </section>
</template>
