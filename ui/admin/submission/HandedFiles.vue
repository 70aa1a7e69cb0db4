<script setup lang="ts">
import type { HandedFile } from '../../shared/types'
import { api, data } from '../api'
import { useDeed } from '../load'
import { somewhere } from '../session'
import { asDay } from '../times'

/** Files that messages gave by links: how often each was opened, and how to end it. */
const props = defineProps<{ id: number; files: HandedFile[] }>()
const emit = defineEmits<{ withdrawn: [] }>()
const { problem, run } = useDeed()
async function withdraw(f: HandedFile) {
  const path = { id: props.id, handed: f.id }
  if (await run(() => data(api.DELETE('/api/submissions/{id}/handed/{handed}', { params: { path } }))))
    emit('withdrawn')
}
</script>

<template>
  <section class="mt-7">
    <h2 class="mb-2 text-[18px]">{{ $t('submission.filesByLink') }}</h2>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
    <ul>
      <li v-for="f in files" :key="f.id" class="flex flex-wrap gap-x-4 border-b border-faint py-1.5">
        <span class="min-w-0 font-semibold [overflow-wrap:anywhere]">{{ f.name }}</span>
        <span class="text-soft">{{ $t('submission.openedTimes', f.opened) }}</span>
        <span v-if="f.standing !== 'open'" class="text-slate">{{
          f.standing === 'over' ? $t('submission.overNow') : $t('submission.withdrawnNow')
        }}</span>
        <template v-else>
          <span v-if="f.expires" class="text-soft">{{ $t('submission.until', { day: asDay(f.expires) }) }}</span>
          <button v-if="somewhere('handle')" type="button" class="link" @click="withdraw(f)">
            {{ $t('submission.withdraw') }}
          </button>
        </template>
      </li>
    </ul>
  </section>
</template>
