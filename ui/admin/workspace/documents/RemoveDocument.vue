<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import ActionButton from '../../parts/ActionButton.vue'
import type { Use } from './removal'

/** A document that is named elsewhere is about to go: each place is shown before. */
defineProps<{ name: string; uses: Use[] }>()
const emit = defineEmits<{ done: [remove: boolean] }>()
</script>

<template>
  <Dialog :open="true" class="relative z-50" @close="emit('done', false)">
    <div class="fixed inset-0 bg-ink/40" aria-hidden="true"></div>
    <div class="fixed inset-0 overflow-y-auto p-4">
      <DialogPanel class="mx-auto mt-[8vh] max-w-[720px] border-t-4 border-ink bg-sheet px-7 py-6">
        <DialogTitle class="mb-1 text-[20px]">{{ $t('documents.removeDocument', { name }) }}</DialogTitle>
        <p class="mb-4 text-soft">{{ $t('documents.namedElsewhere') }}</p>
        <ul>
          <li v-for="u in uses" :key="u.of + u.key" class="border-b border-faint py-2">
            {{
              u.of === 'notice'
                ? $t('documents.noticeWithout', { name: u.name })
                : u.of === 'filing'
                  ? $t('documents.filingWithout', { name: u.name })
                  : $t('documents.filingGoes', { name: u.name })
            }}
          </li>
        </ul>
        <div class="mt-5 flex gap-3">
          <ActionButton main @click="emit('done', true)">{{ $t('documents.removeIt') }}</ActionButton>
          <ActionButton @click="emit('done', false)">{{ $t('documents.leaveIt') }}</ActionButton>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
