<script setup lang="ts">
import { computed } from 'vue'
import type { BlockSettings } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import PictureChooser from '../../../parts/PictureChooser.vue'
import { useIntake } from '../../intake'
import MissingWords from './MissingWords.vue'
import { fieldsOf } from './blocks'
import MillimetreWord from './MillimetreWord.vue'

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
const setAcross = (e: Event) => (block.value.across = Number((e.target as HTMLSelectElement).value))
</script>

<template>
  <div class="grid gap-3">
    <template v-if="!block.field">
      <PictureChooser v-model="block.picture" shapes />
      <label class="text-soft"
        >what it shows
        <input v-model="block.alt" class="word w-full text-ink" placeholder="for those who cannot see it"
      /></label>
    </template>
    <div>
      <span class="text-soft">words under it</span><PhraseEditor v-model:line="block.caption" label="Caption" />
    </div>
    <div class="words">
      <label v-if="asked.length">
        the picture
        <select class="word" :value="block.field ?? ''" @change="setSource(($event.target as HTMLSelectElement).value)">
          <option value="">is the design’s own</option>
          <option v-for="a in asked" :key="a.name" :value="a.name">is that of {{ a.label }}</option>
        </select>
      </label>
      <label
        >at most <MillimetreWord v-model="block.width" label="Width in millimetres" :usual="80" /> ×
        <MillimetreWord v-model="block.height" label="Height in millimetres" :usual="60" /> mm</label
      >
      <template v-if="block.field">
        <label>
          several
          <select class="word" :value="block.across ?? 3" @change="setAcross">
            <option v-for="n in 6" :key="n" :value="n">
              {{ n === 1 ? 'below each other' : `${n} beside each other` }}
            </option>
          </select>
        </label>
        <MissingWords v-model="block.missing" usual="nothing" />
      </template>
    </div>
  </div>
</template>
