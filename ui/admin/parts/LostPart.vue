<script setup lang="ts">
/** Stands where a part of the workshop could not be fetched: the line broke, or the program was renewed while the page was open. */
const props = defineProps<{ to?: string; error?: Error }>()
function reload() {
  if (props.to) location.assign(props.to)
  else location.reload()
}
</script>

<template>
  <p role="alert" class="m-4 border-2 border-madder bg-sheet px-4 py-3">
    <span class="font-semibold">✕ {{ $t('parts.lostPart') }}</span>
    <button type="button" class="link ml-4" @click="reload">{{ $t('parts.loadAnew') }}</button>
  </p>
</template>
