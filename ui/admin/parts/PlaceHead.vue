<script setup lang="ts">
defineProps<{ title: string }>()
</script>

<template>
  <div class="flex min-h-[62px] flex-wrap items-center gap-x-4 gap-y-2 px-3 py-3 sm:px-6">
    <h1 class="text-[26px] leading-none">{{ title }}</h1>
    <slot name="state" />
    <div class="ml-auto flex flex-wrap gap-3"><slot /></div>
  </div>
</template>
