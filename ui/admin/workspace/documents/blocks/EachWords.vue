<script setup lang="ts">
import { computed } from 'vue'
import { useIntake } from '../../intake'

/** For the rows of which group something is repeated. */
const each = defineModel<string | undefined>({ required: true })
const { design } = useIntake()
const groups = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'rows'))
</script>

<template>
  <label v-if="groups.length || each">
    repeats
    <select class="word" :value="each ?? ''" @change="each = ($event.target as HTMLSelectElement).value || undefined">
      <option value="">no</option>
      <option v-for="g in groups" :key="g.key" :value="g.key">for each row of {{ g.label }}</option>
    </select>
  </label>
</template>
