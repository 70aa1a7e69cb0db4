<script setup lang="ts">
import { computed } from 'vue'
import { blockSettings, fieldSettings } from '../../../shared/settings'
import type { Block, BlockSettings } from '../../../shared/types'
import PhraseLine from '../../parts/PhraseLine.vue'
import { useIntake } from '../intake'

/** A block as a sentence of the script. */
const props = defineProps<{ block: Block }>()
const { design } = useIntake()
const own = computed(() => blockSettings(props.block))
const labelOf = (key: string | undefined) => {
  for (const f of design.value?.form.fields ?? []) {
    if (f.key === key) return f.label
    const inner = fieldSettings(f).fields?.find((c) => `${f.key}.${c.key}` === key)
    if (inner) return inner.label
  }
  return key ?? ''
}
const codes = {
  qr: 'QR code',
  datamatrix: 'Data Matrix',
  code128: 'Code 128',
  ean13: 'EAN-13',
  payment: 'Payment code',
}
const charts = { bars: 'Bars', hbars: 'Bars lying down', pie: 'A pie', line: 'A line' }

/** What the kinds without words of their own say. */
const said = computed(() => {
  const b = own.value
  switch (props.block.kind) {
    case 'answers':
      return (
        (b.fields ? `${b.fields.length} chosen ${b.fields.length === 1 ? 'answer' : 'answers'}` : 'Every answer') +
        (b.across === 2 ? ', in two columns' : ', as a table')
      )
    case 'picture':
      return b.field ? `Pictures of ${labelOf(b.field)}` : b.alt || 'A picture'
    case 'lines':
      return lines(b)
    case 'signature':
      return `Signature over a line: ${labelOf(b.field)}`
    case 'table':
      return `Table of ${b.grid?.rows.length ?? 0} rows`
    case 'chart':
      return `${charts[b.series?.kind ?? 'bars']} of ${b.rows ? labelOf(b.rows) : (b.fields ?? []).map(labelOf).join(', ')}`
    case 'columns':
      return `${b.sides?.length ?? 2} columns beside each other`
    case 'group':
      return `Group of ${b.blocks?.length ?? 0}`
    case 'page_break':
      return 'A new page'
    case 'letterhead':
      return 'Letterhead of the house'
    case 'space':
      return `${b.height} mm of space`
    case 'strip':
      return `Tear-off strip of ${b.stubs} stubs:`
    default:
      return 'A rule across the page'
  }
})
function lines(b: BlockSettings) {
  const group = design.value?.form.fields.find((f) => f.key === b.rows)
  if (!group) return 'A line table without rows'
  const names = b.columns?.map((c) => c.label) ?? fieldSettings(group).fields?.map((f) => f.label) ?? []
  return `Lines: ${names.join(', ')} for each row of ${group.label}`
}
</script>

<template>
  <span v-if="block.each" class="mr-2 text-amber-ink">for each row of {{ labelOf(block.each) }}</span>
  <span v-if="block.when" class="mr-2 text-amber-ink">when {{ block.when }}</span>
  <span v-if="block.kind === 'heading'" class="font-title text-[15px] font-semibold"
    ><PhraseLine :spans="own.text ?? []"
  /></span>
  <PhraseLine v-else-if="block.kind === 'text'" :spans="own.body?.[0]?.spans ?? [{ text: 'An empty text' }]" />
  <template v-else-if="block.kind === 'code'"
    >{{ codes[own.symbology ?? 'qr'] }} of <PhraseLine :spans="own.text ?? []"
  /></template>
  <template v-else
    >{{ said }} <PhraseLine v-if="block.kind === 'strip'" :spans="own.text ?? []" /><span
      v-if="block.kind === 'picture'"
      class="text-soft"
      >at most {{ own.width ?? 80 }} × {{ own.height ?? 60 }} mm</span
    ></template
  >
</template>
