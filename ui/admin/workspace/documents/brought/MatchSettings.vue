<script setup lang="ts">
import { computed } from 'vue'
import type { Field, Match, Span } from '../../../../shared/types'
import ComboChoice from '../../../parts/ComboChoice.vue'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import { api, data } from '../../../api'
import { useDeed } from '../../../load'
import FormulaLine from '../../formula/FormulaLine.vue'
import { useIntake } from '../../intake'
import { usePlaceholders } from '../../placeholders'
import { fieldOf, matchOf, questionOf, type Found } from './brought'

/** What stands for a name of a file: a field, words with fields in them, a formula, or a question that is made of it. */
const props = defineProps<{
  found: Found
  /** What is chosen at this moment, which an inspection may not know yet. */
  present: Match
}>()
const emit = defineEmits<{ match: [to: Match | undefined] }>()
const { design, mark } = useIntake()
const { stands } = usePlaceholders(true)
const { problem, busy, run } = useDeed()
/** The label of what it may be meant for. */
const near = computed(() => {
  const key = props.found.how === 'nearly the same label' ? fieldOf(props.found.match) : ''
  return key && (stands.value.find((s) => s.key === key)?.label ?? key)
})
/** It was made by the tools of a word processor, and something stands there already. */
const tool = computed(() => props.found.kind === 'control' || props.found.kind === 'field')
const options = computed(() => stands.value.map((s) => ({ value: s.key, words: s.label, note: s.key })))
const byField = (key: string) =>
  emit(
    'match',
    key ? matchOf(key, props.found.part, stands.value.find((s) => s.key === key)?.formats ?? []) : undefined,
  )
const words = computed({
  get: () => props.present.words ?? [],
  set: (to: Span[]) => emit('match', to.length ? { words: to } : undefined),
})
const formula = computed({
  get: () => props.present.formula ?? '',
  set: (to: string) => emit('match', to ? { formula: to } : undefined),
})

/** A question of the name’s own, with a guessed kind, at the end of the form. */
const ask = () =>
  run(async () => {
    const taken = design.value!.form.fields.map((f) => f.key)
    const { fields } = await data(
      api.POST('/api/questions', { body: { text: questionOf(props.found.name), taken, section: '' } }),
    )
    const made: Field | undefined = fields[0]
    if (!made) return
    mark()
    design.value!.form.fields.push(made)
    byField(made.key)
  })
</script>

<template>
  <div class="grid gap-2">
    <ComboChoice
      :label="$t('brought.standsFor', { name: found.name })"
      :options="options"
      :placeholder="$t('brought.chooseField')"
      :model-value="fieldOf(present)"
      @update:model-value="byField"
    />
    <div>
      <span class="text-[13px] text-soft">{{ $t('brought.words') }}</span>
      <PhraseEditor v-model:line="words" :label="$t('brought.words')" />
    </div>
    <div>
      <span class="text-[13px] text-soft">{{ $t('brought.formula') }}</span>
      <FormulaLine v-model="formula" :label="$t('brought.formula')" />
    </div>
    <p class="flex flex-wrap items-baseline gap-x-4 text-[13px]">
      <span v-if="found.value" class="text-soft">{{ $t('brought.value', { value: found.value }) }}</span>
      <button v-if="near" type="button" class="link" @click="emit('match', found.match)">
        {{ $t('brought.yesIt', { field: near }) }}
      </button>
      <button v-if="found.how === '' && tool" type="button" class="link" @click="emit('match', {})">
        {{ $t('brought.leave') }}
      </button>
      <button v-if="found.how === '' || near" type="button" class="link" :disabled="busy" @click="ask">
        {{ $t('brought.makeQuestion') }}
      </button>
      <button v-if="found.how === 'chosen'" type="button" class="link" @click="emit('match', undefined)">
        {{ $t('brought.takeBack') }}
      </button>
    </p>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  </div>
</template>
