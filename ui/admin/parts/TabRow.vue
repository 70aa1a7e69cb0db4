<script setup lang="ts">
import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/vue'

/** Views of one thing, one at a time; a slot for each, named by its value. */
const props = defineProps<{ tabs: { value: string; words: string }[]; label: string }>()
const value = defineModel<string>({ required: true })
const at = () =>
  Math.max(
    0,
    props.tabs.findIndex((t) => t.value === value.value),
  )
</script>

<template>
  <TabGroup :selected-index="at()" @change="value = tabs[$event]!.value">
    <TabList class="flex flex-wrap gap-x-5 border-b border-rule" :aria-label="label">
      <Tab v-for="t in tabs" :key="t.value" v-slot="{ selected }" as="template">
        <button
          type="button"
          class="border-b-2 py-1.5"
          :class="selected ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'"
        >
          {{ t.words }}
        </button>
      </Tab>
    </TabList>
    <TabPanels>
      <TabPanel v-for="t in tabs" :key="t.value" class="pt-4"><slot :name="t.value" /></TabPanel>
    </TabPanels>
  </TabGroup>
</template>
