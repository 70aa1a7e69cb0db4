<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'

/** What is seldom needed, folded away behind a word; beside it, what lies there. */
defineProps<{ label: string; inside?: string; open?: boolean }>()
</script>

<template>
  <Disclosure v-slot="{ open: unfolded }" as="div" :default-open="open ?? false">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <DisclosureButton class="link gap-1.5 font-semibold no-underline">
        <span aria-hidden="true" class="text-[11px]">{{ unfolded ? '▾' : '▸' }}</span>{{ label }}
      </DisclosureButton>
      <span v-if="inside && !unfolded" class="min-w-0 text-[13px] text-soft">{{ inside }}</span>
    </div>
    <DisclosurePanel class="mt-2"><slot /></DisclosurePanel>
  </Disclosure>
</template>
