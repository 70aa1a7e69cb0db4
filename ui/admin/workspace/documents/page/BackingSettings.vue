<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PictureChooser from '../../../parts/PictureChooser.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import OnSwitch from '../../../parts/OnSwitch.vue'
import SettingCell from '../../../parts/SettingCell.vue'

/** A picture behind the text, or as a pale watermark. */
const page = defineModel<PaperDocument['page']>({ required: true })
const props = defineProps<{ of: 'backdrop' | 'mark'; label: string }>()
const backing = computed(() => page.value[props.of])
const places = {
  '': 'in the middle',
  top: 'at the top',
  bottom: 'at the foot',
  left: 'at the left',
  right: 'at the right',
  top_left: 'at the top left',
  top_right: 'at the top right',
  bottom_left: 'at the foot, left',
  bottom_right: 'at the foot, right',
}
function setPicture(picture: string | undefined) {
  if (picture) page.value[props.of] = { ...(backing.value ?? {}), picture }
  else Reflect.deleteProperty(page.value, props.of)
}
function setWidth(text: string) {
  const n = Number(text.replace(',', '.'))
  if (!backing.value) return
  if (n > 0) backing.value.width = n
  else delete backing.value.width
}
function setPlace(place: string) {
  if (!backing.value) return
  if (place) backing.value.place = place
  else delete backing.value.place
}
const repeated = computed({
  get: () => backing.value?.repeat ?? false,
  set: (on) => backing.value && (backing.value.repeat = on),
})
</script>

<template>
  <SettingsGrid>
    <SettingCell :label="label" full>
      <PictureChooser shapes :model-value="backing?.picture" @update:model-value="setPicture" />
    </SettingCell>
    <template v-if="backing">
      <ChoiceCell
        label="stands"
        :model-value="backing.place ?? ''"
        :options="Object.entries(places).map(([p, words]) => ({ value: p, words: words }))"
        @update:model-value="setPlace"
      />
      <EntryCell
        :label="`width of the ${label}, mm`"
        mode="decimal"
        placeholder="the page’s"
        :model-value="String(backing.width ?? '')"
        @update:model-value="setWidth"
      />
      <SettingCell label="repeated"><OnSwitch v-model="repeated" label="again and again over the page" /></SettingCell>
    </template>
  </SettingsGrid>
</template>
