<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { useTemplateRef } from 'vue'
import { useFloating } from './floating'

/** Something small that opens beside its button and closes when the keyboard leaves it. */
defineProps<{ label: string; plain?: boolean }>()
const button = useTemplateRef<unknown>('button')
const panel = useTemplateRef<unknown>('panel')
useFloating(button, panel, false)
</script>

<template>
  <Popover as="div" class="inline-block">
    <PopoverButton ref="button" :class="plain ? 'link' : 'button'">{{ label }}</PopoverButton>
    <PopoverPanel ref="panel" v-slot="{ close }" class="panel p-4"><slot :close="close" /></PopoverPanel>
  </Popover>
</template>
