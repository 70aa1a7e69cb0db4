<script setup lang="ts">
import { computed } from 'vue'
import { useIntake } from '../../intake'
import ChoiceCell from '../../../parts/ChoiceCell.vue'

/** For the rows of which group something is repeated. */
const each = defineModel<string | undefined>({ required: true })
const { design } = useIntake()
const groups = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'rows'))
</script>

<template>
  <ChoiceCell
    v-if="groups.length || each"
    :label="$t('blocks.repeats')"
    :model-value="each ?? ''"
    @update:model-value="each = $event || undefined"
    :options="[
      { value: '', words: $t('blocks.no') },
      ...groups.map((g) => ({ value: g.key, words: $t('blocks.eachRow', { label: g.label }) })),
    ]"
  />
</template>
