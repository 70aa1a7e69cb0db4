import { computed } from 'vue'
import { en } from '../../shared/texts/en'
import { fieldSettings } from '../../shared/settings'
import type { FieldKind, Span } from '../../shared/types'
import { useIntake } from './intake'
import { asks } from './kinds'
import { useRowsHere } from './rows'
import { t } from '../words'

/** What a placeholder can stand for. */
export interface Stand {
  key: string
  label: string
  formats: { value: string; name: string }[]
  /** A number that words may count, one for each plural form. */
  counts?: boolean
  /** Its answer is yes or no, and may have words of its own. */
  yesNo?: boolean
}

const usual = { value: '', name: t('workspace.usual') }
const dateFormats = [
  { value: '', name: t('workspace.longDate') },
  { value: 'full', name: t('workspace.fullDate') },
  { value: 'short', name: t('workspace.shortDate') },
  { value: 'iso', name: '2026-11-24' },
  { value: 'dd', name: t('workspace.dayFigure') },
  { value: 'mm', name: t('workspace.monthFigure') },
  { value: 'yyyy', name: t('workspace.yearFigure') },
]
const textFormats = [
  { value: '', name: t('workspace.asWritten') },
  { value: 'upper', name: t('workspace.capitals') },
  { value: 'lower', name: t('workspace.smallLetters') },
  { value: 'title', name: t('workspace.capitalsWords') },
]
const first = { value: 'first', name: t('workspace.firstWordOnly') }

const counts = (kind: FieldKind) => kind === 'whole_number' || kind === 'decimal'

function formats(kind: FieldKind) {
  if (kind === 'date') return dateFormats
  if (kind === 'date_time')
    return [
      { value: '', name: t('workspace.dateTime') },
      ...dateFormats.slice(1),
      { value: 'time', name: t('workspace.time') },
    ]
  if (kind === 'name')
    return [
      ...textFormats.slice(0, 1),
      { value: 'given', name: t('workspace.givenName') },
      { value: 'family', name: t('workspace.familyName') },
      ...textFormats.slice(1),
    ]
  if (kind === 'address')
    return [
      { value: '', name: t('workspace.lines') },
      { value: 'line', name: t('workspace.oneLine') },
      ...['street', 'postcode', 'city', 'region', 'country'].map((value) => ({ value, name: en.parts[value]! })),
      ...textFormats.slice(1, 3),
    ]
  if (['time', 'upload', 'photo', 'signature', 'rows', 'rating'].includes(kind)) return [usual]
  if (kind === 'money')
    return [
      { value: '', name: t('workspace.currency') },
      { value: 'plain', name: t('workspace.numberOnly') },
    ]
  const ungrouped = { value: 'ungrouped', name: '1234' }
  if (kind === 'decimal') return [usual, { value: 'hundredths', name: '1,234.50' }, ungrouped]
  if (kind === 'whole_number') return [usual, ungrouped]
  if (kind === 'yes_no' || kind === 'consent') return [usual]
  if (kind === 'several_of')
    return [
      { value: '', name: t('workspace.bC') },
      { value: 'commas', name: 'a, b, c' },
      { value: 'lines', name: t('workspace.lines') },
      ...textFormats.slice(1, 3),
    ]
  return [...textFormats, first]
}

/** The placeholders of the intake that is being worked on: its fields first, then what is given without asking. */
export function usePlaceholders(paged = false) {
  const rows = useRowsHere()
  const { design, intake } = useIntake()
  const stands = computed<Stand[]>(() => [
    ...(design.value?.form.fields ?? [])
      .filter((f) => asks(f.kind))
      .flatMap((f) => [
        {
          key: f.key,
          label: f.label,
          formats: formats(f.kind),
          yesNo: f.kind === 'yes_no' || f.kind === 'consent',
          counts: counts(f.kind),
        },
        ...(fieldSettings(f).fields ?? []).map((c) => ({
          key: `${f.key}.${c.key}`,
          label: `${f.label}: ${c.label}`,
          formats: formats(c.kind),
          counts: counts(c.kind),
        })),
      ]),
    ...(design.value?.form.constants ?? []).map((c) => ({ key: c.key, label: c.label, formats: [usual] })),
    ...(intake.value?.givens ?? [])
      .filter((g) => paged || !g.name.startsWith('@page'))
      .filter((g) => rows?.value || g.name !== '@row')
      .filter((g) => rows || g.name !== '@check') // rows are known in documents only
      .filter((g) => !rows || !['@filed', '@answers'].includes(g.name))
      .map((g) => ({
        key: g.name,
        label: g.label,
        formats: g.date ? [...dateFormats, { value: 'time', name: t('workspace.time') }] : [usual],
      })),
  ])
  return { stands }
}

/** A phrase as a plain sentence for a script's line: words, and the labels of its placeholders. */
export function pieces(spans: Span[], stands: Stand[]): { text: string; chip: boolean; fault: boolean }[] {
  return spans.map((s) => {
    if (!s.field) return { text: s.text ?? '', chip: false, fault: false }
    const stand = stands.find((x) => x.key === s.field)
    return { text: stand ? stand.label : t('workspace.noSuchField', { field: s.field }), chip: true, fault: !stand }
  })
}
