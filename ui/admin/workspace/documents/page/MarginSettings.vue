<script setup lang="ts">
import type { PaperDocument } from '../../../../shared/types'

/** The page's margins in millimetres; those of the look when none are written. */
const page = defineModel<PaperDocument['page']>({ required: true })
type Margins = NonNullable<PaperDocument['page']['margins']>
const sides = { top: 'top', right: 'right', bottom: 'foot', left: 'left' } as const
function set(side: keyof Margins, e: Event) {
  const text = (e.target as HTMLInputElement).value.replace(',', '.').trim()
  const n = Number(text)
  if (text && n >= 0)
    page.value.margins = { top: 20, right: 20, bottom: 22, left: 20, ...page.value.margins, [side]: n }
}
</script>

<template>
  <span>
    margins
    <template v-for="(words, side) in sides" :key="side">
      {{ words }}
      <input
        class="word mr-2.5 w-[40px]"
        inputmode="decimal"
        placeholder="–"
        :aria-label="`Margin: ${words}, in millimetres`"
        :value="page.margins?.[side] ?? ''"
        @change="set(side, $event)"
      />
    </template>
    <button v-if="page.margins" type="button" class="link text-[13px]" @click="delete page.margins">the look’s</button>
  </span>
</template>
