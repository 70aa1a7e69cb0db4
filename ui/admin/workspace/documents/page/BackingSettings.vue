<script setup lang="ts">
import { computed } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import PictureChooser from '../../../parts/PictureChooser.vue'

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
const val = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
function setPicture(picture: string | undefined) {
  if (picture) page.value[props.of] = { ...(backing.value ?? {}), picture }
  else Reflect.deleteProperty(page.value, props.of)
}
function setWidth(e: Event) {
  const n = Number(val(e).replace(',', '.'))
  if (!backing.value) return
  if (n > 0) backing.value.width = n
  else delete backing.value.width
}
function setPlace(e: Event) {
  if (!backing.value) return
  if (val(e)) backing.value.place = val(e)
  else delete backing.value.place
}
</script>

<template>
  <div class="words">
    <span>{{ label }}</span>
    <PictureChooser shapes :model-value="backing?.picture" @update:model-value="setPicture" />
    <template v-if="backing">
      <label>
        stands
        <select class="word" :value="backing.place ?? ''" @change="setPlace">
          <option v-for="(words, p) in places" :key="p" :value="p">{{ words }}</option>
        </select>
      </label>
      <label
        >wide
        <input
          class="word w-[52px]"
          inputmode="decimal"
          placeholder="page"
          :aria-label="`Width of the ${label} in millimetres`"
          :value="backing.width ?? ''"
          @change="setWidth"
        />
        mm</label
      >
      <label class="flex items-center gap-1"><input v-model="backing.repeat" type="checkbox" /> repeated</label>
      <button type="button" class="link text-[13px]" @click="setPicture(undefined)">
        Remove<span class="sr-only"> the {{ label }}</span>
      </button>
    </template>
  </div>
</template>
