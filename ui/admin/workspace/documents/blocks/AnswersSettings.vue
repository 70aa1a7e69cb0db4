<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import { useIntake } from '../../intake'
import { asks } from '../../kinds'
import FieldTicks from './FieldTicks.vue'
import TableDress from './TableDress.vue'

/** Which answers a table prints, and how. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const askable = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind)))
function setAll(all: boolean) {
  if (all) delete block.value.fields
  else block.value.fields = askable.value.map((f) => f.key)
}
const val = (e: Event) => (e.target as HTMLSelectElement).value
</script>

<template>
  <div class="words">
    <label>
      answers
      <select class="word" :value="block.fields ? 'chosen' : 'all'" @change="setAll(val($event) === 'all')">
        <option>all</option>
        <option>chosen</option>
      </select>
    </label>
    <label>
      empty ones
      <select class="word" :value="block.hideEmpty ? 'no' : 'yes'" @change="block.hideEmpty = val($event) === 'no'">
        <option value="yes">printed</option>
        <option value="no">left out</option>
      </select>
    </label>
    <label>
      sections
      <select class="word" :value="block.flat ? 'no' : 'yes'" @change="block.flat = val($event) === 'no'">
        <option value="yes">under their headings</option>
        <option value="no">without headings</option>
      </select>
    </label>
    <label>
      set
      <select class="word" :value="block.across ?? 1" @change="block.across = Number(val($event))">
        <option :value="1">in one column</option>
        <option :value="2">in two columns</option>
      </select>
    </label>
    <label v-if="block.across !== 2">
      header row
      <select class="word" :value="block.headed ? 'yes' : 'no'" @change="block.headed = val($event) === 'yes'">
        <option>no</option>
        <option>yes</option>
      </select>
    </label>
    <TableDress :model-value="block" />
  </div>
  <FieldTicks v-if="block.fields" v-model="block.fields" :fields="askable" legend="Which answers" />
</template>
