<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import PictureChooser from '../../../parts/PictureChooser.vue'
import { useIntake } from '../../intake'
import MissingWords from './MissingWords.vue'
import { fieldsOf } from './blocks'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import MillimetreCell from './MillimetreCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'

/** A picture of the design, or those of an answer; its size and the words under it. */
const block = defineModel<BlockSettings>({ required: true })
const { design } = useIntake()
const asked = computed(() =>
  (design.value?.form.fields ?? []).flatMap((f) => [
    ...(f.kind === 'photo' || f.kind === 'signature' ? [{ name: f.key, label: f.label }] : []),
    ...fieldsOf(f)
      .filter((c) => c.kind === 'photo' || c.kind === 'signature')
      .map((c) => ({ name: `${f.key}.${c.key}`, label: `${f.label}: ${c.label}` })),
  ]),
)
function setSource(name: string) {
  if (name) {
    block.value.field = name
    delete block.value.picture
  } else delete block.value.field
}
const setAcross = (n: number) => (block.value.across = n)
</script>

<template>
  <div class="grid gap-3">
    <template v-if="!block.field">
      <PictureChooser v-model="block.picture" shapes />
      <EntryCell
        :label="$t('blocks.whatShows')"
        :placeholder="$t('blocks.thoseWhoCannotSee')"
        live
        :model-value="block.alt ?? ''"
        @update:model-value="block.alt = $event"
      />
    </template>
    <div>
      <span class="text-[13px] text-soft">{{ $t('blocks.wordsUnder') }}</span><PhraseEditor
        v-model:line="block.caption"
        :label="$t('blocks.caption')"
      />
    </div>
    <SettingsGrid>
      <ChoiceCell
        v-if="asked.length"
        :label="$t('blocks.picture')"
        :model-value="block.field ?? ''"
        @update:model-value="setSource($event)"
        :options="[
          { value: '', words: $t('blocks.designsOwn') },
          ...asked.map((a) => ({ value: a.name, words: $t('blocks.isThatOf', { label: a.label }) })),
        ]"
      />
      <MillimetreCell v-model="block.width" :label="$t('blocks.widthMost')" :usual="80" />
      <MillimetreCell v-model="block.height" :label="$t('blocks.heightMost')" :usual="60" />
      <template v-if="block.field">
        <ChoiceCell
          :label="$t('blocks.several')"
          :model-value="block.across ?? 3"
          @update:model-value="setAcross"
          :options="
            Array.from({ length: 6 }, (_, i) => i + 1).map((n) => ({
              value: n,
              words: n === 1 ? $t('blocks.belowEachOther') : $t('blocks.besideEachOther', { n }),
            }))
          "
        />
        <MissingWords v-model="block.missing" usual="nothing" />
      </template>
    </SettingsGrid>
  </div>
</template>
