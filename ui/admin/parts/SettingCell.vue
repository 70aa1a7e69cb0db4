<script setup lang="ts">
/** One setting: its label above it, and what is wrong or helpful under it. */
defineProps<{ label: string; full?: boolean; error?: string | undefined; help?: string | undefined; of?: string }>()
</script>

<template>
  <div class="min-w-0" :class="{ 'sm:col-span-2': full }">
    <component
      :is="of ? 'label' : 'span'"
      :for="of"
      class="mb-0.5 block text-[13px] text-soft first-letter:uppercase"
      >{{ label }}</component
    >
    <slot />
    <p v-if="error" class="font-semibold text-madder">✕ {{ error }}</p>
    <p v-else-if="help" class="text-[13px] text-soft">{{ help }}</p>
  </div>
</template>
