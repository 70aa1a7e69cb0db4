<script setup lang="ts">
import { computed } from 'vue'
import type { Filed } from '../../shared/types'
import { asMoment } from '../times'

/** Files that were filed, the newest first; neighbours in one folder stand under its name, where folders have names. */
const props = defineProps<{ all: Filed[]; folder?: (f: Filed) => string }>()
const open = defineModel<Filed>('open')
const name = (f: Filed) => f.path.split('/').at(-1) ?? ''
const groups = computed(() => {
  const out: { folder: string; files: Filed[] }[] = []
  for (const f of props.all) {
    const folder = props.folder?.(f) ?? ''
    const last = out.at(-1)
    if (last?.folder === folder) last.files.push(f)
    else out.push({ folder, files: [f] })
  }
  return out
})
</script>

<template>
  <section v-for="(g, i) in groups" :key="i" :aria-label="g.folder || undefined">
    <h3 v-if="g.folder" class="flex text-[13px] font-normal text-soft">
      <span class="ledger w-[60px] shrink-0"></span>
      <span class="min-w-0 px-3 pt-2 [overflow-wrap:anywhere]">{{ g.folder }}</span>
    </h3>
    <ul>
      <li v-for="f in g.files" :key="f.id" class="border-b border-faint">
        <button
          class="grid w-full grid-cols-[60px_1fr_auto] gap-x-3 text-left hover:bg-amber-wash"
          :class="{ 'bg-amber-wash': open?.id === f.id }"
          :aria-pressed="open?.id === f.id"
          @click="open = f"
        >
          <span
            class="ledger self-stretch py-1.5 pr-4 text-right"
            :class="f.amiss === 'unread' ? 'text-ochre' : f.amiss ? 'text-madder' : 'text-pine'"
            aria-hidden="true"
            >{{ f.amiss === 'unread' ? '◐' : f.amiss ? '✕' : '●' }}</span
          >
          <span class="min-w-0 py-1.5 font-semibold [overflow-wrap:anywhere]"
            >{{ name(f) }}
            <span v-if="f.amiss === 'unread'" class="ml-2 font-normal text-ochre">{{ $t('cabinet.isUnread') }}</span>
            <span v-else-if="f.amiss" class="ml-2 font-normal text-madder">{{
              f.amiss === 'lost' ? $t('cabinet.isLost') : $t('cabinet.isChanged')
            }}</span></span
          >
          <span class="py-1.5 pr-3 whitespace-nowrap text-soft tabular-nums">{{ asMoment(f.at) }}</span>
        </button>
      </li>
    </ul>
  </section>
</template>
