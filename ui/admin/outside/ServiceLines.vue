<script
  setup
  lang="ts"
  generic="L extends { secret: boolean; waiting: number; reason?: string; tried?: string; failedFor?: string }"
>
import { standing } from './outside'

/** Services of one sort, one a line; the chosen one is unfolded. */
defineProps<{
  all: { key: string; line: L | undefined; name: string; sentence: string }[]
  open: string | undefined
  label: string
}>()
/** The cabinet, and the account that the program was started with. */
const own = (key: string) => key === 'cabinet' || key === 'given'
defineEmits<{ unfold: [key: string] }>()
</script>

<template>
  <ol class="sheet" :aria-label="label">
    <li
      v-for="(x, i) in all"
      :key="x.key"
      class="flex border-b border-faint"
      :class="{ 'bg-amber-wash': open === x.key }"
    >
      <span class="ledger w-[60px] shrink-0 py-2 pr-3 text-right text-soft">{{ i + 1 }}</span>
      <div class="min-w-0 grow">
        <button
          type="button"
          class="flex w-full flex-wrap items-baseline gap-x-4 px-3 py-2 text-left"
          :aria-expanded="open === x.key"
          @click="$emit('unfold', x.key)"
        >
          <span class="min-w-[180px] font-semibold">{{ x.name || '…' }}</span>
          <span class="min-w-0 grow truncate text-soft">{{ x.sentence }}</span>
          <span class="w-[190px]" :class="standing(x.line, own(x.key)).tone"
            ><span aria-hidden="true">{{ standing(x.line, own(x.key)).mark }}</span>
            {{ standing(x.line, own(x.key)).words }}</span
          >
        </button>
        <p v-if="x.line?.reason ?? x.line?.failedFor" class="px-3 pb-2 text-ochre">
          {{ x.line!.reason ?? x.line!.failedFor }}
        </p>
        <div v-if="open === x.key" class="px-3 pt-1 pb-4"><slot :of="x.key" :line="x.line" /></div>
      </div>
    </li>
    <li class="flex">
      <span class="ledger w-[60px] shrink-0 py-2 pr-3 text-right text-amber-ink">{{ all.length + 1 }}</span>
      <div class="min-w-0 grow px-3 py-2"><slot name="add" /></div>
    </li>
  </ol>
</template>
