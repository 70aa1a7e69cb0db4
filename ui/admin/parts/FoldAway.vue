<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import { useLocked } from './locked'

/** What is seldom needed, folded away behind a word; beside it, what lies there. */
const locked = useLocked()
defineProps<{ label: string; inside?: string; open?: boolean }>()
</script>

<template>
  <Disclosure v-slot="{ open: unfolded }" as="div" :default-open="(open ?? false) || locked">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <span v-if="locked" class="font-semibold">{{ label }}</span>
      <DisclosureButton v-else class="link gap-1.5 font-semibold no-underline">
        <span aria-hidden="true" class="text-[11px]">{{ unfolded ? '▾' : '▸' }}</span>{{ label }}
      </DisclosureButton>
      <span v-if="inside && !unfolded" class="min-w-0 text-[13px] text-soft">{{ inside }}</span>
    </div>
    <DisclosurePanel class="mt-2"><slot /></DisclosurePanel>
  </Disclosure>
</template>
