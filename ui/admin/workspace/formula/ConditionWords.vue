<script setup lang="ts">
import { mend, wrong } from '../../words'
import { computed, ref, watch } from 'vue'
import type { Clause } from '../../../shared/types'
import FormulaLine from './FormulaLine.vue'
import { comparisons, useNames, valued, written } from './names'
import { useReading } from './reading'
import ListChoice from '../../parts/ListChoice.vue'
import DateEntry from '../../parts/DateEntry.vue'

/** “shown always”, “shown when instrument is Strings and days is more than 30”, or a formula behind it. */
const props = defineProps<{ verb: string; rows?: string }>()
const when = defineModel<string | undefined>()
const rows = () => props.rows ?? ''
const names = useNames(rows)
const { reading } = useReading(() => when.value ?? '', rows)

const join = ref<'and' | 'or'>('and')
const clauses = ref<Clause[]>([])
const asFormula = ref(false)
let told = ''

// The server says a formula as clauses; what was written here needs no telling.
watch(reading, (r) => {
  if (!r || when.value === told) return
  if (when.value === unchosen) {
    clauses.value = [fresh()]
    return
  }
  if (r.sentence && r.clauses) {
    clauses.value = r.clauses
    join.value = r.join ?? 'and'
  } else {
    asFormula.value = true
  }
})

const always = computed(() => when.value === undefined)
const kindOf = (field: string) => names.value.find((n) => n.name === field)?.kind ?? 'short_text'
const choicesOf = (field: string) => names.value.find((n) => n.name === field)?.choices ?? []

/** A condition that is not chosen yet, which is a fault: nothing that looks right stands there by itself. */
const unchosen = '?'
function tell() {
  if (clauses.value.some((c) => !c.field)) {
    when.value = told = unchosen
    return
  }
  when.value = told = clauses.value
    .map((c) => written(c.field, c.is, c.value ?? '', kindOf(c.field)))
    .join(` ${join.value} `)
}
const fresh = (): Clause => ({ field: '', is: '=', value: '' })
function begin(how: string) {
  asFormula.value = false
  clauses.value = []
  if (how === 'always') {
    when.value = undefined
    return
  }
  clauses.value = [fresh()]
  tell()
}
function setField(c: Clause, field: string) {
  c.field = field
  const can = comparisons(kindOf(field))
  if (!can.some((x) => x.is === c.is)) c.is = can[0]!.is
  c.value = choicesOf(field)[0]?.value ?? ''
  tell()
}
function add() {
  clauses.value.push(fresh())
  tell()
}
function drop(i: number) {
  clauses.value.splice(i, 1)
  if (clauses.value.length) tell()
  else when.value = undefined
}
</script>

<template>
  <div class="flex w-full flex-wrap items-baseline gap-x-2 gap-y-1">
    <span>{{ verb }}</span>
    <ListChoice
      :model-value="always ? 'always' : 'when'"
      @update:model-value="begin($event)"
      :label="$t('formula.alwaysWhen', { verb })"
      inline
      :options="[
        { value: 'always', words: $t('formula.always') },
        { value: 'when', words: $t('formula.when') },
      ]"
    />
    <template v-if="!always && !asFormula">
      <span v-for="(c, i) in clauses" :key="i" class="inline-flex flex-wrap items-baseline gap-x-2" data-clause>
        <ListChoice
          v-if="i > 0"
          v-model="join"
          @update:model-value="tell"
          :label="$t('formula.andOrOr')"
          inline
          :options="[
            { value: 'and', words: $t('formula.and') },
            { value: 'or', words: $t('formula.or') },
          ]"
        />
        <ListChoice
          :model-value="c.field"
          @update:model-value="setField(c, $event)"
          :label="$t('formula.field')"
          inline
          class="max-w-[180px]"
          :options="[
            ...(!c.field ? [{ value: '', words: $t('formula.chooseField') }] : []),
            ...(!!c.field && !names.some((n) => n.name === c.field)
              ? [{ value: c.field, words: $t('formula.noSuchField', { field: c.field }) }]
              : []),
            ...names.map((n) => ({ value: n.name, words: n.label })),
          ]"
        />
        <ListChoice
          v-if="c.field"
          v-model="c.is"
          @update:model-value="tell"
          :label="$t('formula.comparison')"
          inline
          :options="comparisons(kindOf(c.field)).map((k) => ({ value: k.is, words: k.words }))"
        />
        <template v-if="c.field && valued(c.is)">
          <ListChoice
            v-if="choicesOf(c.field).length"
            v-model="c.value"
            @update:model-value="tell"
            :label="$t('formula.value')"
            inline
            class="max-w-[160px]"
            :options="[
              ...(!choicesOf(c.field).some((x) => x.value === c.value)
                ? [{ value: c.value ?? '', words: c.value ?? '' }]
                : []),
              ...choicesOf(c.field).map((x) => ({ value: x.value, words: x.label })),
            ]"
          />
          <DateEntry
            v-else-if="kindOf(c.field) === 'date'"
            inline
            :label="$t('formula.value')"
            :model-value="c.value || undefined"
            @update:model-value="((c.value = $event ?? ''), tell())"
          />
          <input v-else v-model="c.value" class="word w-[110px]" :aria-label="$t('formula.value')" @input="tell" />
        </template>
        <button
          type="button"
          class="min-h-[24px] min-w-[24px] text-soft hover:text-madder"
          :aria-label="$t('formula.removeCondition', { i: i + 1 })"
          @click="drop(i)"
        >
          ✕
        </button>
      </span>
      <button type="button" class="link min-h-[24px] text-[13px]" @click="add">{{ $t('formula.addCondition') }}</button>
    </template>
    <button
      v-if="!always"
      type="button"
      class="link min-h-[24px] text-[13px]"
      :disabled="asFormula && !reading?.sentence"
      @click="asFormula = !asFormula"
    >
      {{ asFormula ? $t('formula.asSentence') : $t('formula.asFormula') }}
    </button>
    <FormulaLine
      v-if="!always && asFormula"
      :model-value="when ?? ''"
      :label="$t('formula.when2', { verb })"
      :rows="rows()"
      placeholder="deposit > 0 and kind is hire"
      @update:model-value="when = $event"
    />
    <template v-else-if="!always">
      <p v-for="(f, i) in reading?.findings ?? []" :key="i" class="w-full text-[13px] text-madder">
        ✕ {{ wrong(f) }} <span class="text-carbon">{{ mend(f) }}</span>
      </p>
    </template>
  </div>
</template>
