<script setup lang="ts">
import { computed } from 'vue'
import type { Field } from '../../../shared/types'
import ChoiceCell from '../../parts/ChoiceCell.vue'
import EntryCell from '../../parts/EntryCell.vue'
import { beginnings } from './settings'
import { t } from '../../words'

/** What an answer begins as: nothing, a value, or what is known when it is asked. */
const field = defineModel<Field>({ required: true })
type Default = NonNullable<Field['default']>
const how = computed(() => field.value.default?.from ?? (field.value.default ? 'value' : ''))
const options = computed(() => [
  { value: '', words: t('form.empty') },
  { value: 'value', words: t('form.value') },
  ...beginnings(field.value.kind),
])
function set(to: string) {
  if (!to) delete field.value.default
  else if (to === 'value') field.value.default = { value: '' }
  else
    field.value.default = { from: to as Default['from'] & string, ...(to === 'link' ? { name: field.value.key } : {}) }
}
</script>

<template>
  <ChoiceCell :label="$t('form.beginsAs')" :options="options" :model-value="how" @update:model-value="set" />
  <EntryCell
    v-if="how === 'value'"
    :label="$t('form.value2')"
    :model-value="field.default?.value ?? ''"
    @update:model-value="field.default = { value: $event }"
  />
  <EntryCell
    v-if="how === 'link'"
    :label="$t('form.parametersName')"
    mono
    :model-value="field.default?.name ?? ''"
    @update:model-value="field.default = { from: 'link', name: $event }"
  />
</template>
