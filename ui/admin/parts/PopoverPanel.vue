<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { useTemplateRef } from 'vue'
import { PanelPlace } from './panelPlace'

/** Something small that opens beside its button and closes when the keyboard leaves it. */
defineProps<{ label: string; plain?: boolean }>()
const button = useTemplateRef<object>('button')
</script>

<template>
  <Popover as="div" class="inline-block">
    <PopoverButton ref="button" :class="plain ? 'link' : 'button'">{{ label }}</PopoverButton>
    <PopoverPanel v-slot="{ close }" class="panel p-4">
      <PanelPlace :anchor="button ?? undefined" narrow /><slot :close="close"
    /></PopoverPanel>
  </Popover>
</template>
