<script setup lang="ts">
import type { Choice } from '../../../shared/types'
import PictureChooser from '../../parts/PictureChooser.vue'

/** The picture of each choice. */
const choices = defineModel<Choice[]>({ required: true })
function set(i: number, name: string | undefined) {
  choices.value = choices.value.map((c, k) => {
    if (k !== i) return c
    const { value, label } = c
    return name ? { value, label, picture: name } : { value, label }
  })
}
</script>

<template>
  <ul class="grid grid-cols-2 gap-x-5 gap-y-3">
    <li v-for="(c, i) in choices" :key="c.value">
      <p class="text-soft">{{ $t('form.picture', { label: c.label }) }}</p>
      <PictureChooser :model-value="c.picture" @update:model-value="set(i, $event)" />
    </li>
  </ul>
</template>
