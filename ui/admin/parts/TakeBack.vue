<script setup lang="ts">
import { onScopeDispose, watch } from 'vue'

export interface Gone {
  words: string
  back: () => unknown
}

/** What was removed, and for ten seconds the way back. */
const gone = defineModel<Gone | undefined>({ required: true })
const lasts = 10_000
let end: ReturnType<typeof setTimeout> | undefined
watch(gone, (now) => {
  clearTimeout(end)
  if (now) end = setTimeout(() => (gone.value = undefined), lasts)
})
onScopeDispose(() => clearTimeout(end))
function back() {
  gone.value?.back()
  gone.value = undefined
}
</script>

<template>
  <div role="status" class="pointer-events-none fixed inset-x-0 bottom-14 z-40 flex justify-center px-3">
    <p v-if="gone" class="pointer-events-auto flex flex-wrap items-center gap-x-5 bg-ink px-4 py-2 text-white">
      {{ gone.words }}
      <button type="button" class="min-h-[24px] font-semibold text-[#f4c27a] underline" @click="back">
        {{ $t('parts.takeBack') }}
      </button>
    </p>
  </div>
</template>
