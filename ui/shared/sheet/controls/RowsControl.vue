<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { fieldSettings } from '../../settings'
import type { Field, Row, Typed } from '../../types'
import FormSheet from '../FormSheet.vue'
import { newRow, rowIdentity, useSheet } from '../sheet'

/** A repeating group: rows are added, taken out and moved. */
const props = defineProps<{
  field: Field
  id: string
  described?: string | undefined
  invalid: boolean
  path: string
  proof?: boolean
  marked?: string | undefined
}>()
const emit = defineEmits<{ pick: [name: string]; touch: [path: string] }>()
const model = defineModel<Row[]>({ required: true })
const sheet = useSheet()
const root = useTemplateRef<HTMLElement>('root')
const said = ref('')

const own = computed(() => fieldSettings(props.field))
const most = computed(() => own.value.most || 500)
const least = computed(() => own.value.least ?? 0)
// A proof shows what a row looks like while one of its fields is chosen.
const rows = computed(() =>
  props.proof && !model.value.length && props.marked?.startsWith(`${props.field.key}.`)
    ? [newRow(props.field)]
    : model.value,
)

/** Puts a row's change where the row is by now. What a file on its way adds to a row that has gone is dropped. */
function set(of: number, row: Record<string, Typed>) {
  model.value = rows.value.map((r) => (rowIdentity(r) === of ? row : r))
}
async function focusRow(i: number) {
  await nextTick()
  await nextTick()
  const row = root.value?.querySelectorAll<HTMLElement>(':scope > [data-row]')[i]
  row?.querySelector<HTMLElement>('input, textarea, select')?.focus()
}
// The parent takes a change over in its own time: what is focused is reckoned from what was given to it.
async function add() {
  const next = [...model.value, newRow(props.field)]
  model.value = next
  emit('touch', props.path)
  await focusRow(next.length - 1)
}
async function remove(i: number) {
  const next = model.value.filter((_, k) => k !== i)
  model.value = next
  said.value = `${sheet.texts.row} ${i + 1}: ${sheet.texts.remove}`
  emit('touch', props.path)
  if (next.length) await focusRow(Math.min(i, next.length - 1))
  else {
    await nextTick()
    document.getElementById(`${props.id}-add`)?.focus()
  }
}
function move(i: number, by: number) {
  const all = [...model.value]
  all.splice(i + by, 0, ...all.splice(i, 1))
  model.value = all
  // The hand goes along with the row, so that the next press moves the same one on.
  void nextTick(nextTick).then(() => {
    const row = root.value?.querySelectorAll<HTMLElement>(':scope > [data-row]')[i + by]
    const way = by < 0 ? '[data-up]' : '[data-down]'
    ;(row?.querySelector<HTMLElement>(way) ?? row?.querySelector<HTMLElement>('[data-up], [data-down]'))?.focus()
  })
  said.value = `${sheet.texts.row} ${i + by + 1} ${sheet.texts.of} ${all.length}`
  emit('touch', props.path)
}
</script>

<template>
  <div ref="root">
    <div
      v-for="(row, i) in rows"
      :key="rowIdentity(row)"
      data-row
      class="mb-3 border-s-4 border-rule ps-4"
      role="group"
      :aria-label="`${field.label} ${i + 1}`"
    >
      <div class="mb-2 flex flex-wrap items-baseline gap-x-4">
        <span class="text-soft tabular-nums">{{ sheet.texts.row }} {{ i + 1 }}</span>
        <span class="ms-auto flex gap-4 text-[13px]">
          <button
            v-if="i > 0"
            type="button"
            data-up
            class="link min-h-[28px]"
            :lang="sheet.ours || undefined"
            @click="move(i, -1)"
          >
            {{ sheet.texts.up }}
          </button>
          <button
            v-if="i < rows.length - 1"
            type="button"
            data-down
            class="link min-h-[28px]"
            :lang="sheet.ours || undefined"
            @click="move(i, 1)"
          >
            {{ sheet.texts.down }}
          </button>
          <button
            v-if="rows.length > least"
            type="button"
            class="link min-h-[28px]"
            :lang="sheet.ours || undefined"
            @click="remove(i)"
          >
            {{ sheet.texts.remove }}<span class="sr-only"> {{ sheet.texts.row }} {{ i + 1 }}</span>
          </button>
        </span>
      </div>
      <FormSheet
        :model-value="row"
        :fields="own.fields ?? []"
        :at="`${path}/${i}/`"
        :proof="proof ?? false"
        :marked="marked"
        @update:model-value="set(rowIdentity(row), $event)"
        @pick="emit('pick', $event)"
        @touch="emit('touch', $event)"
      />
    </div>
    <button
      v-if="model.length < most"
      :id="`${id}-add`"
      type="button"
      class="button"
      :lang="sheet.ours || undefined"
      :aria-describedby="described"
      @click="add"
    >
      {{ sheet.texts.add }}
    </button>
    <p class="sr-only" role="status">{{ said }}</p>
  </div>
</template>
