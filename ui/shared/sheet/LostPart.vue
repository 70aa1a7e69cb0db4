<script setup lang="ts">
import { useSheet } from './sheet'

/** Stands where a part of the page could not be fetched: the line broke, or the program was renewed while the page was open. */
defineProps<{ error?: Error }>()
const sheet = useSheet()
const reload = () => location.reload()
</script>

<template>
  <p role="alert" class="border-2 border-madder px-4 py-3" :lang="sheet.ours || undefined">
    <span class="font-semibold">✕ {{ sheet.texts.lostPart }}</span>
    <button type="button" class="link ms-4" @click="reload">{{ sheet.texts.reload }}</button>
  </p>
</template>
