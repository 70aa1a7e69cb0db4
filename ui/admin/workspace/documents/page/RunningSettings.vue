<script setup lang="ts">
import type { PaperDocument } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'

/** What stands in the margins of each page, and of the first where that is another. */
const doc = defineModel<PaperDocument>({ required: true })
function setFirst(other: boolean) {
  if (other) doc.value.first = { header: [], footer: [...doc.value.footer] }
  else delete doc.value.first
}
</script>

<template>
  <div><span class="text-soft">header</span><PhraseEditor v-model:line="doc.header" label="Header" paged /></div>
  <div><span class="text-soft">footer</span><PhraseEditor v-model:line="doc.footer" label="Footer" paged /></div>
  <label class="flex items-center gap-2">
    <input
      type="checkbox"
      :checked="doc.first !== undefined"
      @change="setFirst(($event.target as HTMLInputElement).checked)"
    />
    The first page has a header and footer of its own
  </label>
  <template v-if="doc.first">
    <div>
      <span class="text-soft">header of the first page</span
      ><PhraseEditor v-model:line="doc.first.header" label="Header of the first page" paged />
    </div>
    <div>
      <span class="text-soft">footer of the first page</span
      ><PhraseEditor v-model:line="doc.first.footer" label="Footer of the first page" paged />
    </div>
  </template>
</template>
