<script setup lang="ts">
import type { PaperDocument } from '../../../../shared/types'
import { useFamilies } from '../../../house/families'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import EntryCell from '../../../parts/EntryCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'

/** How the page's text is set; what is left alone is the look's. */
const page = defineModel<PaperDocument['page']>({ required: true })
type Type = NonNullable<PaperDocument['page']['type']>
const families = useFamilies()
const number = (text: string) => Number(text.replace(',', '.')) || 0

function set<K extends keyof Type>(key: K, to: Type[K] | '' | 0 | false) {
  const type: Type = { ...(page.value.type ?? {}) }
  if (to) type[key] = to as Type[K]
  else Reflect.deleteProperty(type, key)
  if (Object.keys(type).length) page.value.type = type
  else delete page.value.type
}
</script>

<template>
  <SettingsGrid>
    <ChoiceCell
      :label="$t('page.text')"
      :model-value="page.type?.family ?? ''"
      @update:model-value="set('family', $event)"
      :options="[{ value: '', words: $t('page.housesFont') }, ...families.map((f) => ({ value: f, words: f }))]"
    />
    <EntryCell
      :label="$t('page.sizePlainTextPt')"
      mode="decimal"
      placeholder="10.5"
      :model-value="String(page.type?.size ?? '')"
      @update:model-value="set('size', number($event))"
    />
    <EntryCell
      :label="$t('page.lineHeightTimesSize')"
      mode="decimal"
      placeholder="1.4"
      :model-value="String(page.type?.leading ?? '')"
      @update:model-value="set('leading', number($event))"
    />
    <EntryCell
      :label="$t('page.colour')"
      placeholder="#16262B"
      :model-value="page.type?.colour ?? ''"
      @update:model-value="set('colour', $event)"
    />
    <ChoiceCell
      :label="$t('page.wordsPartedLineEnds')"
      :model-value="page.type?.hyphens ? 'yes' : 'no'"
      @update:model-value="set('hyphens', $event === 'yes')"
      :options="[
        { value: 'no', words: $t('page.justifiedTextOnly') },
        { value: 'yes', words: $t('page.always') },
      ]"
    />
  </SettingsGrid>
</template>
