<script setup lang="ts">
import { computed } from 'vue'
import { blockSettings, fieldSettings } from '../../../shared/settings'
import type { Block, BlockSettings } from '../../../shared/types'
import PhraseLine from '../../parts/PhraseLine.vue'
import { useIntake } from '../intake'
import { t } from '../../words'

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
  qr: t('documents.qrCode'),
  datamatrix: t('documents.dataMatrix'),
  code128: t('documents.code128'),
  ean13: t('documents.ean13'),
  payment: t('documents.paymentCode'),
}
const charts = {
  bars: t('documents.bars'),
  hbars: t('documents.barsLyingDown'),
  pie: t('documents.pie'),
  line: t('documents.line'),
}

/** What the kinds without words of their own say. */
const said = computed(() => {
  const b = own.value
  switch (props.block.kind) {
    case 'facts':
      return t('documents.factsOf', { labels: (b.tiles ?? []).map((x) => x.label).join(', ') })
    case 'answers':
      return (
        (b.fields ? t('documents.chosenAnswers', b.fields.length) : t('documents.everyAnswer')) +
        (b.across === 2 ? t('documents.twoColumns') : t('documents.asTable'))
      )
    case 'picture':
      return b.field ? t('documents.pictures', { labelOf: labelOf(b.field) }) : b.alt || t('documents.picture')
    case 'lines':
      return lines(b)
    case 'signature':
      return t('documents.signatureOverLine', { labelOf: labelOf(b.field) })
    case 'table':
      return t('documents.tableRows', { rows: b.grid?.rows.length ?? 0 })
    case 'chart':
      return t('documents.chartOf', {
        chart: charts[b.series?.kind ?? 'bars'],
        drawn: b.rows ? labelOf(b.rows) : (b.fields ?? []).map(labelOf).join(', '),
      })
    case 'columns':
      return t('documents.columnsBesideEachOther', { sides: b.sides?.length ?? 2 })
    case 'group':
      return t('documents.group', { blocks: b.blocks?.length ?? 0 })
    case 'page_break':
      return t('documents.newPage')
    case 'letterhead':
      return t('documents.letterheadHouse')
    case 'space':
      return t('documents.mmSpace', { height: b.height })
    case 'cover':
      return t('documents.cover')
    case 'contents':
      return t('documents.contents', { level: b.level || 2 })
    case 'strip':
      return t('documents.tearOffStripStubs', { stubs: b.stubs })
    default:
      return t('documents.ruleAcrossPage')
  }
})
function lines(b: BlockSettings) {
  const group = design.value?.form.fields.find((f) => f.key === b.rows)
  if (!group) return t('documents.lineTableWithoutRows')
  const names = b.columns?.map((c) => c.label) ?? fieldSettings(group).fields?.map((f) => f.label) ?? []
  return t('documents.linesEachRow', { join: names.join(', '), label: group.label })
}
</script>

<template>
  <span v-if="block.each" class="mr-2 text-amber-ink">{{
    $t('documents.eachRow', { labelOf: labelOf(block.each) })
  }}</span>
  <span v-if="block.when" class="mr-2 text-amber-ink">{{ $t('documents.when', { when: block.when }) }}</span>
  <span v-if="block.kind === 'heading'" class="font-title text-[15px] font-semibold"
    ><PhraseLine :spans="own.text ?? []"
  /></span>
  <PhraseLine
    v-else-if="block.kind === 'text'"
    :spans="own.body?.[0]?.spans ?? [{ text: $t('documents.emptyText') }]"
  />
  <template v-else-if="block.kind === 'code'"
    >{{ $t('documents.of', { qr: codes[own.symbology ?? 'qr'] }) }} <PhraseLine :spans="own.text ?? []"
  /></template>
  <template v-else
    >{{ said }} <PhraseLine v-if="block.kind === 'strip' || block.kind === 'cover'" :spans="own.text ?? []" /><span
      v-if="block.kind === 'picture'"
      class="text-soft"
      >{{ $t('documents.mostMm', { width: own.width ?? 80, height: own.height ?? 60 }) }}</span
    ></template
  >
</template>
