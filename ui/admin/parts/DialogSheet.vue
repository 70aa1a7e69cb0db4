<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A sheet laid over the page, for one thing that is done at once or left. */
defineProps<{ title: string }>()
const open = defineModel<boolean>({ required: true })
</script>

<template>
  <Dialog :open="open" class="fixed inset-0 z-50" @close="open = false">
    <div class="fixed inset-0 bg-ink/50" aria-hidden="true"></div>
    <div class="fixed inset-0 overflow-y-auto p-3">
      <DialogPanel class="mx-auto mt-[8vh] w-full max-w-[560px] border-t-4 border-ink bg-sheet px-6 py-6">
        <DialogTitle as="h2" class="mb-4 text-[20px]">{{ title }}</DialogTitle>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
