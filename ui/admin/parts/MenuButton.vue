<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useTemplateRef } from 'vue'
import { PanelPlace } from './panelPlace'

export interface Deed {
  words: string
  do: () => unknown
  grave?: boolean
}

/** A few things that can be done, behind one button. */
defineProps<{ label: string; deeds: Deed[]; plain?: boolean }>()
const button = useTemplateRef<object>('button')
</script>

<template>
  <Menu as="div" class="inline-block">
    <MenuButton ref="button" :class="plain ? 'link' : 'button'"
      >{{ label }} <span aria-hidden="true" class="ml-1 text-[11px]">▾</span></MenuButton
    >
    <MenuItems class="panel">
      <PanelPlace :anchor="button ?? undefined" narrow />
      <MenuItem v-for="d in deeds" :key="d.words" v-slot="{ active }" as="template">
        <button
          type="button"
          class="option w-full text-left"
          :class="{ 'option-active': active, 'text-madder': d.grave }"
          @click="d.do()"
        >
          {{ d.words }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
