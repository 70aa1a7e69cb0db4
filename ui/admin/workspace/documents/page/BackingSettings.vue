<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PictureChooser from '../../../parts/PictureChooser.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import OnSwitch from '../../../parts/OnSwitch.vue'
import SettingCell from '../../../parts/SettingCell.vue'
import { t } from '../../../words'

/** A picture behind the text, or as a pale watermark. */
const page = defineModel<PaperDocument['page']>({ required: true })
const props = defineProps<{ of: 'backdrop' | 'mark'; label: string }>()
const backing = computed(() => page.value[props.of])
const places = {
  '': t('page.middle'),
  top: t('page.top'),
  bottom: t('page.foot'),
  left: t('page.left'),
  right: t('page.right'),
  top_left: t('page.topLeft'),
  top_right: t('page.topRight'),
  bottom_left: t('page.footLeft'),
  bottom_right: t('page.footRight'),
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
        :label="$t('page.stands')"
        :model-value="backing.place ?? ''"
        :options="Object.entries(places).map(([p, words]) => ({ value: p, words: words }))"
        @update:model-value="setPlace"
      />
      <EntryCell
        :label="$t('page.widthMm', { label })"
        mode="decimal"
        :placeholder="$t('page.pages')"
        :model-value="String(backing.width ?? '')"
        @update:model-value="setWidth"
      />
      <SettingCell :label="$t('page.repeated')"
        ><OnSwitch v-model="repeated" :label="$t('page.againAgainOverPage')"
      /></SettingCell>
    </template>
  </SettingsGrid>
</template>
