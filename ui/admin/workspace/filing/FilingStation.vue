<script setup lang="ts">
import NextLine from '../../parts/NextLine.vue'
import { useLocked } from '../../parts/locked'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Filing, ProofSource } from '../../../shared/types'
import { api, data } from '../../api'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import PhraseLine from '../../parts/PhraseLine.vue'
import ScriptList from '../../parts/ScriptList.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import { carriedWords } from '../carried'
import CarriedList from '../CarriedList.vue'
import { useIntake } from '../intake'
import ProofAnswersChoice from '../ProofAnswersChoice.vue'
import SplitDesk from '../SplitDesk.vue'
import { useProof } from '../proof'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import SettingsGrid from '../../parts/SettingsGrid.vue'
import TickList from '../../parts/TickList.vue'
import TakeBack, { type Gone } from '../../parts/TakeBack.vue'
import { t } from '../../words'
import { cabinet, useDestinations } from './destinations'
import RegisterLines from './RegisterLines.vue'
import RegisterProofs from './RegisterProofs.vue'

const { design, mark, undo } = useIntake()
const locked = useLocked()
const route = useRoute()
const filings = computed(() => design.value?.filings ?? [])
const selected = ref<number | undefined>(filings.value.length ? 0 : undefined)
const selectedRegister = ref<number>()
const answers = ref<ProofSource>({ answers: 'made-up' })
watch(
  () => route.query.of,
  (key) => {
    const i = filings.value.findIndex((f) => f.key === key)
    if (i >= 0) selected.value = i
    const r = (design.value?.registers ?? []).findIndex((x) => x.key === key)
    if (r >= 0) selectedRegister.value = r
  },
  { immediate: true },
)

const { proof, problem } = useProof(
  () => (design.value ? { design: design.value, key: '', ...answers.value } : undefined),
  (q) => data(api.POST('/api/proofs/filings', { body: q })),
)
const folders = (path: string) => path.split('/')

function add(after = filings.value.length - 1) {
  mark()
  const taken = filings.value.map((f) => f.key)
  let n = filings.value.length + 1
  while (taken.includes(`filing-${n}`)) n++
  const made: Filing = {
    key: `filing-${n}`,
    name: t('filing.filing', { n }),
    what: design.value!.documents.slice(0, 1).map((d) => ({ document: d.key })),
    path: [{ field: '@intake' }, { text: '/' }, { field: '@year' }, { text: '/' }, { field: '@number' }],
  }
  design.value!.filings.splice(after + 1, 0, made)
  selected.value = after + 1
}
function move(from: number, to: number) {
  mark()
  design.value!.filings.splice(to, 0, ...design.value!.filings.splice(from, 1))
}
const gone = ref<Gone>()
function remove(i: number) {
  mark()
  const [was] = design.value!.filings.splice(i, 1)
  selected.value = undefined
  gone.value = { words: t('filing.removed', { name: was?.name ?? '' }), back: undo }
}
function pick(key: string) {
  selected.value = filings.value.findIndex((f) => f.key === key)
}
const { destinations, called } = useDestinations(() => [
  ...filings.value.flatMap((f) => f.to ?? []),
  ...(design.value?.registers ?? []).flatMap((r) => r.to ?? []),
])
const goesTo = (f: Filing) => f.to ?? [cabinet]
function turn(f: Filing, key: string, on: boolean) {
  const now = destinations.value.map((d) => d.key).filter((k) => (k === key ? on : goesTo(f).includes(k)))
  if (!now.length || (now.length === 1 && now[0] === cabinet)) delete f.to
  else f.to = now
}
const taken = [
  { value: 'number' as const, words: t('filing.numberIt'), note: t('filing.numberItNote') },
  { value: 'version' as const, words: t('filing.newVersion'), note: t('filing.newVersionNote') },
  { value: 'replace' as const, words: t('filing.replaceIt'), note: t('filing.replaceItNote') },
]
function setTaken(f: Filing, to: NonNullable<Filing['taken']>) {
  if (to === 'number') delete f.taken
  else f.taken = to
}
</script>

<template>
  <SplitDesk>
    <template #script>
      <TakeBack v-model="gone" />
      <ScriptList
        v-model:selected="selected"
        :lines="filings"
        :kind="() => $t('filing.filing2')"
        :id-of="(f: Filing) => f.key"
        :noun="$t('filing.filing2')"
        @add="add"
        @move="move"
        @remove="remove"
      >
        <template #sentence="{ line }">
          <span v-if="line.when" class="mr-2 text-amber-ink">{{ $t('filing.when', { when: line.when }) }}</span>
          <span class="font-semibold">{{ carriedWords(line.what, design!) }}</span>
          {{ $t('filing.as') }} <PhraseLine :spans="line.path" />
          <span v-if="line.to?.length" class="text-soft"> · {{ line.to.map(called).join(', ') }}</span>
        </template>
        <template #settings="{ line }">
          <div class="grid gap-3">
            <SettingsGrid>
              <EntryCell
                :label="$t('filing.name')"
                live
                :model-value="line.name"
                @update:model-value="line.name = $event"
              />
              <ChoiceCell
                :label="$t('filing.taken')"
                :model-value="line.taken ?? 'number'"
                :options="taken"
                @update:model-value="setTaken(line, $event)"
              />
            </SettingsGrid>
            <ConditionWords v-model="line.when" :verb="$t('filing.filed')" />
            <CarriedList v-model="line.what" :label="$t('filing.files')" />
            <TickList
              :label="$t('filing.destinations')"
              :options="destinations.map((d) => ({ value: d.key, words: d.name }))"
              :ticked="(key) => goesTo(line).includes(key)"
              @turn="(key, on) => turn(line, key, on)"
            />
            <div>
              <span class="text-[13px] text-soft">{{ $t('filing.foldersNameParted') }}</span><PhraseEditor
                v-model:line="line.path"
                :label="$t('filing.path')"
              />
            </div>
          </div>
        </template>
      </ScriptList>
      <NextLine v-if="!locked" :number="filings.length + 1">
        <p class="px-3.5 py-2">
          <button class="link" @click="add()">{{ $t('filing.addFiling') }}</button>
        </p>
      </NextLine>
      <RegisterLines v-model:selected="selectedRegister" :destinations="destinations" />
    </template>
    <template #proof>
      <div class="flex flex-wrap items-baseline gap-x-4 px-5 pt-3 text-soft">
        <strong class="text-ink">{{ $t('filing.proof') }}</strong>
        <span>{{ $t('filing.of') }} <ProofAnswersChoice v-model="answers" /></span>
      </div>
      <div class="p-5">
        <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
        <ul class="mx-auto max-w-[640px] border border-rule bg-white py-2" data-filing-proof>
          <li v-for="f in proof ?? []" :key="`${f.key} ${f.path}`">
            <button
              class="w-full px-5 py-2 text-left hover:bg-amber-wash"
              :class="{
                'bg-amber-wash outline-2 -outline-offset-2 outline-amber':
                  selected !== undefined && filings[selected]?.key === f.key,
              }"
              :aria-label="`${f.to.map(called).join(', ')} ${f.path}`"
              @click="pick(f.key)"
            >
              <span class="block text-[13px] text-soft">{{ f.to.map(called).join(', ') }}</span>
              <span v-for="(part, i) in folders(f.path)" :key="i" class="block" :style="{ paddingLeft: `${i * 20}px` }">
                <span aria-hidden="true" class="text-soft">{{ i < folders(f.path).length - 1 ? '▸ ' : '– ' }}</span>
                <span :class="{ 'font-semibold': i === folders(f.path).length - 1 }">{{ part }}</span>
              </span>
            </button>
          </li>
          <li v-if="proof && !proof.length" class="px-5 py-3 text-soft">
            {{ $t('filing.nothingFiledAddFilingLeft') }}
          </li>
        </ul>
        <RegisterProofs v-model:selected="selectedRegister" :answers="answers" :called="called" />
      </div>
    </template>
  </SplitDesk>
</template>
