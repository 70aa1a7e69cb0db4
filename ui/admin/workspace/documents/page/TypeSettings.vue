<script setup lang="ts">
import type { PaperDocument } from '../../../../shared/types'
import { useFamilies } from '../../../house/families'

/** How the page's text is set; what is left alone is the look's. */
const page = defineModel<PaperDocument['page']>({ required: true })
type Type = NonNullable<PaperDocument['page']['type']>
const families = useFamilies()
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
const number = (e: Event) => Number(val(e).replace(',', '.')) || 0

function set<K extends keyof Type>(key: K, to: Type[K] | '' | 0 | false) {
  const type: Type = { ...(page.value.type ?? {}) }
  if (to) type[key] = to as Type[K]
  else Reflect.deleteProperty(type, key)
  if (Object.keys(type).length) page.value.type = type
  else delete page.value.type
}
</script>

<template>
  <div class="words">
    <label>
      text in
      <select class="word" :value="page.type?.family ?? ''" @change="set('family', val($event))">
        <option value="">the house’s font</option>
        <option v-for="f in families" :key="f">{{ f }}</option>
      </select>
    </label>
    <label
      >size
      <input
        class="word w-[44px]"
        inputmode="decimal"
        placeholder="10.5"
        aria-label="Size of plain text in points"
        :value="page.type?.size ?? ''"
        @change="set('size', number($event))"
      />
      pt</label
    >
    <label
      >lines
      <input
        class="word w-[40px]"
        inputmode="decimal"
        placeholder="1.4"
        aria-label="Line height as a multiple of the size"
        :value="page.type?.leading ?? ''"
        @change="set('leading', number($event))"
      />
      times as high</label
    >
    <label
      >colour
      <input
        class="word w-[80px]"
        placeholder="#16262B"
        aria-label="Colour of plain text"
        :value="page.type?.colour ?? ''"
        @change="set('colour', val($event))"
    /></label>
    <label>
      words parted at line ends
      <select class="word" :value="page.type?.hyphens ? 'yes' : 'no'" @change="set('hyphens', val($event) === 'yes')">
        <option value="no">in justified text only</option>
        <option value="yes">always</option>
      </select>
    </label>
  </div>
</template>
