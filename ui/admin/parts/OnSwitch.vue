<script setup lang="ts">
import { Switch, SwitchGroup, SwitchLabel } from '@headlessui/vue'

/** Something that is on or off, said in words beside it. */
const on = defineModel<boolean>({ required: true })
defineProps<{ label: string; disabled?: boolean }>()
</script>

<template>
  <SwitchGroup as="div" class="flex min-h-[34px] items-center gap-2.5">
    <Switch
      v-model="on"
      :disabled="disabled ?? false"
      class="relative h-[20px] w-[36px] shrink-0 border border-ink"
      :class="on ? 'bg-ink' : 'bg-white'"
    >
      <span
        aria-hidden="true"
        class="absolute top-[3px] size-[12px]"
        :class="on ? 'right-[3px] bg-amber' : 'left-[3px] bg-soft'"
      ></span>
    </Switch>
    <SwitchLabel class="cursor-pointer">{{ label }}</SwitchLabel>
  </SwitchGroup>
</template>
