<script setup lang="ts" generic="T">
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { t } from '../words'
import { useLocked } from './locked'

/**
 * A script: numbered lines in reading order, the selected one unfolded. Enter adds, Alt+arrows move, Alt+Right and
 * Alt+Left go into a group and out, Ctrl+. goes to the kind, Esc folds.
 */
const props = defineProps<{
  lines: T[]
  kind: (line: T) => string
  idOf?: (line: T, i: number) => string | number
  noun: string
  depth?: (line: T) => number
}>()
const selected = defineModel<number | undefined>('selected')
const emit = defineEmits<{
  add: [after: number]
  move: [from: number, to: number]
  remove: [at: number]
  indent: [at: number, by: 1 | -1]
}>()
/** How far a line stands in, by its depth. */
const indents = ['', 'ml-6 border-l border-rule', 'ml-12 border-l border-rule', 'ml-[72px] border-l border-rule']
const locked = useLocked()
const root = useTemplateRef<HTMLElement>('root')
const announced = ref('')

// A line that was chosen elsewhere comes into sight.
watch(
  selected,
  async (i) => {
    await nextTick()
    if (i !== undefined) root.value?.querySelector(`[data-line="${i}"]`)?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)

/** Which line had the keyboard: it keeps it wherever the line goes, also when that is undone. */
let held: string | number | undefined
function note(e: FocusEvent) {
  const at = (e.target as HTMLElement).dataset.head
  const line = at === undefined ? undefined : props.lines[Number(at)]
  held = line && props.idOf ? props.idOf(line, Number(at)) : undefined
}
watch(
  () => props.lines.map((l, i) => props.idOf?.(l, i)),
  async (ids) => {
    if (held === undefined) return
    const mine = held
    await nextTick()
    const active = document.activeElement as HTMLElement | null
    const inside = root.value?.contains(active) && active?.dataset.head !== undefined
    if (active && active !== document.body && !inside) return
    const at = ids.indexOf(mine)
    if (at >= 0) root.value?.querySelector<HTMLElement>(`[data-head="${at}"]`)?.focus()
  },
)

async function focusHead(i: number) {
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-head="${i}"]`)?.focus()
}
/** Takes the keyboard into an unfolded line, to where its words are typed. */
async function enter(i: number) {
  await nextTick()
  await new Promise(requestAnimationFrame) // an editor of rich text comes after the line it stands in
  const fields = root.value?.querySelectorAll<HTMLElement>(
    `[data-line="${i}"] :is([contenteditable=true], input, select)`,
  )
  const words = [...(fields ?? [])].find((f) => f.isContentEditable)
  ;(words ?? fields?.[0])?.focus()
}
defineExpose({ enter, focusHead })
async function move(i: number, by: number) {
  const to = i + by
  if (to < 0 || to >= props.lines.length) return
  emit('move', i, to)
  if (selected.value === i) selected.value = to
  announced.value = t('parts.movedLine', { to: to + 1 })
  await focusHead(to)
}
function toggle(i: number) {
  selected.value = selected.value === i ? undefined : i
}
/** Alt with an arrow moves the line from anywhere in it, also from where an arrow alone opens a list. */
function early(e: KeyboardEvent, i: number) {
  if (locked.value || !e.altKey || !e.key.startsWith('Arrow')) return
  e.stopPropagation()
  void keys(e, i)
}
async function keys(e: KeyboardEvent, i: number) {
  const head = (e.target as HTMLElement).dataset.head !== undefined
  const change = !locked.value
  if (change && e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
    e.preventDefault()
    await move(i, e.key === 'ArrowUp' ? -1 : 1)
  } else if (change && props.depth && e.altKey && (e.key === 'ArrowRight' || e.key === 'ArrowLeft')) {
    e.preventDefault()
    emit('indent', i, e.key === 'ArrowRight' ? 1 : -1)
  } else if (head && !e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
    e.preventDefault()
    await focusHead(i + (e.key === 'ArrowUp' ? -1 : 1))
  } else if (e.key === 'Escape' && selected.value === i) {
    e.preventDefault()
    selected.value = undefined
    await focusHead(i)
  } else if (e.ctrlKey && e.key === '.') {
    e.preventDefault()
    selected.value = i
    await nextTick()
    root.value?.querySelector<HTMLElement>(`[data-line="${i}"] [data-kind] :is(input, button)`)?.focus()
  } else if (change && head && e.key === 'Enter' && selected.value === i) {
    e.preventDefault()
    emit('add', i)
  } else if (change && head && e.key === 'Delete') {
    e.preventDefault()
    emit('remove', i)
  }
}
</script>

<template>
  <ol ref="root">
    <li
      v-for="(line, i) in lines"
      :key="idOf ? idOf(line, i) : i"
      :data-line="i"
      class="grid grid-cols-[58px_1fr] border-b border-faint"
      :class="{ 'bg-amber-wash': selected === i }"
      @keydown.capture="early($event, i)"
      @keydown="keys($event, i)"
      @focusin="note"
    >
      <span class="ledger pt-[7px] pr-3 text-right tabular-nums" :class="selected === i ? 'font-bold' : 'text-soft'">{{
        i + 1
      }}</span>
      <div class="min-w-0 pl-3.5" :class="indents[Math.min(depth?.(line) ?? 0, indents.length - 1)]">
        <button
          type="button"
          class="flex min-h-[34px] w-full items-center gap-3 pr-4 text-left"
          :data-head="i"
          :aria-expanded="selected === i"
          @click="toggle(i)"
        >
          <span class="min-w-0 grow truncate"><slot name="sentence" :line="line" :index="i" /></span>
          <span class="shrink-0 text-[13px] text-soft">{{ kind(line) }}</span>
        </button>
        <div v-if="selected === i" class="pr-4 pb-3">
          <fieldset class="min-w-0" :disabled="locked"><slot name="settings" :line="line" :index="i" /></fieldset>
          <div v-if="!locked" class="words mt-3 text-[13px]">
            <button type="button" class="link" :disabled="i === 0" @click="move(i, -1)">
              {{ $t('parts.moveUp') }}
            </button>
            <button type="button" class="link" :disabled="i === lines.length - 1" @click="move(i, 1)">
              {{ $t('parts.moveDown') }}
            </button>
            <slot name="actions" :line="line" :index="i" />
            <button type="button" class="link" @click="emit('remove', i)">{{ $t('parts.remove', { noun }) }}</button>
          </div>
        </div>
      </div>
      <div v-if="$slots.below" class="col-span-2"><slot name="below" :line="line" :index="i" /></div>
    </li>
  </ol>
  <p class="sr-only" role="status">{{ announced }}</p>
</template>
