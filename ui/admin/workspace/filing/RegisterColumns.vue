<script setup lang="ts">
import { computed } from 'vue'
import type { RunningRegister } from '../../../shared/types'
import ListChoice from '../../parts/ListChoice.vue'
import { t } from '../../words'
import { useIntake } from '../intake'
import { asks } from '../kinds'

/** The columns of a running register: what each says, under which head, in which order. */
const columns = defineModel<RunningRegister['columns']>({ required: true })
const { design } = useIntake()
const says = computed(() => [
  { value: '@number', words: t('filing.number') },
  { value: '@received', words: t('filing.received') },
  { value: '@revision', words: t('filing.revision') },
  { value: '@filed', words: t('filing.filedLink') },
  ...(design.value?.form.fields ?? []).filter((f) => asks(f.kind)).map((f) => ({ value: f.key, words: f.label })),
])
const usual = (of: string) => says.value.find((s) => s.value === of)?.words ?? of
function change(i: number, to: Partial<RunningRegister['columns'][number]>) {
  columns.value = columns.value.map((c, n) => {
    if (n !== i) return c
    const { of, name } = { ...c, ...to }
    return name?.trim() ? { of, name } : { of }
  })
}
function move(i: number, by: number) {
  const all = [...columns.value]
  all.splice(i + by, 0, ...all.splice(i, 1))
  columns.value = all
}
function add() {
  const next = says.value.find((s) => !columns.value.some((c) => c.of === s.value)) ?? says.value[0]!
  columns.value = [...columns.value, { of: next.value }]
}
</script>

<template>
  <div role="group" :aria-label="$t('filing.columns')">
    <span class="text-[13px] text-soft">{{ $t('filing.columns') }}</span>
    <ul>
      <li v-for="(c, i) in columns" :key="i" class="mt-1 grid grid-cols-[1fr_1fr_auto] items-center gap-2">
        <ListChoice
          :model-value="c.of"
          :label="$t('filing.column')"
          :options="says"
          @update:model-value="change(i, { of: $event, name: '' })"
        />
        <input
          class="entry min-h-[34px] w-full"
          :aria-label="$t('filing.columnHead')"
          :placeholder="usual(c.of)"
          :value="c.name ?? ''"
          @change="change(i, { name: ($event.target as HTMLInputElement).value })"
        />
        <span class="flex gap-1">
          <button
            type="button"
            class="link min-h-[28px] min-w-[28px] disabled:opacity-40"
            :disabled="i === 0"
            :aria-label="$t('filing.columnUp')"
            @click="move(i, -1)"
          >
            ▴
          </button>
          <button
            type="button"
            class="link min-h-[28px] min-w-[28px] disabled:opacity-40"
            :disabled="i === columns.length - 1"
            :aria-label="$t('filing.columnDown')"
            @click="move(i, 1)"
          >
            ▾
          </button>
          <button
            type="button"
            class="link min-h-[28px] min-w-[28px]"
            :aria-label="$t('filing.columnAway')"
            @click="columns = columns.filter((_, n) => n !== i)"
          >
            ✕
          </button>
        </span>
      </li>
    </ul>
    <p class="mt-1">
      <button type="button" class="link min-h-[28px]" @click="add">{{ $t('filing.addColumn') }}</button>
    </p>
  </div>
</template>
