<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Enclosure } from '../../shared/types'
import { api, data } from '../api'
import { formOf, formsOf } from './carried'
import TickList from '../parts/TickList.vue'
import { useIntake } from './intake'
import { t } from '../words'

/** What a message or a filing carries: documents in their forms, files that were sent, fixed files of the house, the answers. */
const list = defineModel<Enclosure[]>({ required: true })
defineProps<{ label: string }>()
const { design } = useIntake()

const fixed = ref<string[]>([])
onMounted(async () => {
  try {
    fixed.value = ((await data(api.GET('/api/house'))).files ?? []).map((f) => f.name)
  } catch {
    // Those that are carried already are shown by their names.
  }
})
const things = computed<{ value: string; words: string }[]>(() =>
  all.value.map((x, i) => ({ value: String(i), words: x.words })),
)
const thing = (value: string) => all.value[Number(value)]!.enclosure
const all = computed<{ words: string; enclosure: Enclosure }[]>(() => [
  ...(design.value?.documents ?? []).flatMap((d) =>
    formsOf(d).map((f) => ({
      words: f.words,
      enclosure: f.form === 'docx' ? { document: d.key, as: f.form } : { document: d.key },
    })),
  ),
  ...(design.value?.form.fields ?? [])
    .flatMap((f) => [
      { key: f.key, label: f.label, kind: f.kind },
      ...('rows' in f ? (f.rows?.fields ?? []) : []).map((c) => ({
        key: `${f.key}.${c.key}`,
        label: `${f.label}: ${c.label}`,
        kind: c.kind,
      })),
    ])
    .filter((f) => f.kind === 'upload' || f.kind === 'photo')
    .map((f) => ({ words: t('workspace.filesOf', { label: f.label }), enclosure: { files: f.key } })),
  ...fixed.value.map((name) => ({ words: t('workspace.fixedFile', { name }), enclosure: { house: name } })),
  ...list.value
    .flatMap((e) => e.house ?? [])
    .filter((name) => !fixed.value.includes(name))
    .map((name) => ({ words: t('workspace.noFixedFile', { name }), enclosure: { house: name } })),
  { words: t('workspace.answersAsData'), enclosure: { answers: true } },
])
const same = (a: Enclosure, b: Enclosure) =>
  a.document === b.document &&
  a.files === b.files &&
  a.house === b.house &&
  !!a.answers === !!b.answers &&
  formOf(a) === formOf(b)
const has = (e: Enclosure) => list.value.some((x) => same(x, e))
/** The things stand in the order of the list, so that a filing's first stays the one that has the rule's name. */
function turn(e: Enclosure, on: boolean) {
  const rest = list.value.filter((x) => !same(x, e))
  const link = rest.find((x) => x.link)?.link // what comes besides comes in the same way
  const added = link ? { ...e, link } : e
  list.value = on
    ? all.value.map((x) => x.enclosure).flatMap((x) => (same(x, e) ? [added] : (rest.find((r) => same(r, x)) ?? [])))
    : rest
}
</script>

<template>
  <TickList
    :label="label"
    :options="things"
    :ticked="(value) => has(thing(value))"
    @turn="(value, on) => turn(thing(value), on)"
  />
</template>
