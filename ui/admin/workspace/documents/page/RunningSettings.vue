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
  <div>
    <span class="text-soft">{{ $t('page.header') }}</span><PhraseEditor
      v-model:line="doc.header"
      :label="$t('page.header2')"
      paged
    />
  </div>
  <div>
    <span class="text-soft">{{ $t('page.footer') }}</span><PhraseEditor
      v-model:line="doc.footer"
      :label="$t('page.footer2')"
      paged
    />
  </div>
  <label class="flex items-center gap-2">
    <input
      type="checkbox"
      :checked="doc.first !== undefined"
      @change="setFirst(($event.target as HTMLInputElement).checked)"
    />
    {{ $t('page.firstPageHasHeaderFooter') }}</label
  >
  <template v-if="doc.first">
    <div>
      <span class="text-soft">{{ $t('page.headerFirstPage') }}</span><PhraseEditor
        v-model:line="doc.first.header"
        :label="$t('page.headerFirstPage2')"
        paged
      />
    </div>
    <div>
      <span class="text-soft">{{ $t('page.footerFirstPage') }}</span><PhraseEditor
        v-model:line="doc.first.footer"
        :label="$t('page.footerFirstPage2')"
        paged
      />
    </div>
  </template>
</template>
