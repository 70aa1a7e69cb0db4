<script setup lang="ts">
/** The line behind the last of a script: its number, and in its place what can be added there. */
defineProps<{ number: number }>()
</script>

<template>
  <div class="grid grid-cols-[58px_1fr] border-b border-faint">
    <span class="ledger pt-2 pr-3 text-right text-amber-ink">{{ number }}</span>
    <slot />
  </div>
</template>
