<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import { t } from '../../../words'

/** What stands in a block's place when there is nothing to print: room, nothing, or words. */
const missing = defineModel<BlockSettings['missing'] | undefined>({ required: true })
const props = defineProps<{ usual: 'space' | 'nothing' }>()
const usualWords = t('blocks.thereNone')
const how = computed(() => (missing.value?.words ? 'words' : (missing.value?.leave ?? props.usual)))
function set(to: string) {
  if (to === 'words') missing.value = { words: usualWords }
  else missing.value = to === props.usual ? undefined : { leave: to as 'space' }
}
</script>

<template>
  <ChoiceCell
    :label="$t('blocks.whenMissing')"
    :model-value="how"
    :options="[
      { value: 'space', words: $t('blocks.leaveSpace') },
      { value: 'nothing', words: $t('blocks.leaveNothing') },
      { value: 'words', words: $t('blocks.printWords') },
    ]"
    @update:model-value="set"
  />
  <EntryCell
    v-if="how === 'words'"
    :label="$t('blocks.wordsWhereMissing')"
    :model-value="missing?.words ?? ''"
    @update:model-value="missing = { words: $event || usualWords }"
  />
</template>
