import { computed } from 'vue'
import { fieldSettings } from '../../../shared/settings'
import type { Choice, Clause, Field, FieldKind } from '../../../shared/types'
import { useIntake } from '../intake'
import { asks } from '../kinds'
import { t } from '../../words'

/** A name that formulas can use. */
export interface FormulaName {
  name: string
  label: string
  kind: FieldKind | 'constant'
  choices: Choice[]
}

/** The names of the intake that is being worked on; inside rows, those of the row come first, by their own keys. */
export function useNames(rows: () => string) {
  const { design } = useIntake()
  const of = (f: Field, name: string, label = f.label): FormulaName => ({
    name,
    label,
    kind: f.kind,
    choices: fieldSettings(f).choices ?? [],
  })
  return computed<FormulaName[]>(() => {
    const own: FormulaName[] = []
    const all: FormulaName[] = []
    for (const f of design.value?.form.fields ?? []) {
      if (asks(f.kind)) all.push(of(f, f.key))
      for (const c of fieldSettings(f).fields ?? []) {
        if (f.key === rows()) own.push(of(c, c.key))
        all.push(of(c, `${f.key}.${c.key}`, `${f.label}: ${c.label}`))
      }
    }
    const constants = (design.value?.form.constants ?? []).map((c): FormulaName => ({
      name: c.key,
      label: c.label,
      kind: 'constant',
      choices: [],
    }))
    return [...own, ...all, ...constants]
  })
}

const numeric = new Set(['whole_number', 'decimal', 'money', 'rating', 'constant'])
const dated = new Set(['date'])

interface Comparison {
  is: Clause['is']
  words: string
}

/** What can be said of a field of a kind, in words. */
export function comparisons(kind: FormulaName['kind']): Comparison[] {
  const empty: Comparison[] = [
    { is: 'empty', words: t('formula.empty') },
    { is: 'filled', words: t('formula.notEmpty') },
  ]
  if (kind === 'yes_no' || kind === 'consent' || kind === 'signature') {
    return [
      { is: 'yes', words: kind === 'signature' ? t('formula.there') : t('formula.yes') },
      { is: 'no', words: kind === 'signature' ? t('formula.missing') : t('formula.notYes') },
    ]
  }
  if (kind === 'several_of')
    return [
      { is: 'contains', words: t('formula.contains') },
      { is: 'lacks', words: t('formula.doesNotContain') },
      ...empty,
    ]
  if (kind === 'rows' || kind === 'upload' || kind === 'photo') return empty
  if (numeric.has(kind) || dated.has(kind)) {
    const day = dated.has(kind)
    return [
      { is: '=', words: t('formula.is') },
      { is: '<>', words: t('formula.not') },
      { is: '>', words: day ? t('formula.after') : t('formula.moreThan') },
      { is: '>=', words: day ? t('formula.after2') : t('formula.least') },
      { is: '<', words: day ? t('formula.before') : t('formula.lessThan') },
      { is: '<=', words: day ? t('formula.before2') : t('formula.most') },
      ...empty,
    ]
  }
  return [
    { is: '=', words: t('formula.is') },
    { is: '<>', words: t('formula.not') },
    { is: 'contains', words: t('formula.contains') },
    ...empty,
  ]
}

/** Whether the comparison needs a value beside it. */
export const valued = (is: string) => !['empty', 'filled', 'yes', 'no'].includes(is)

/** One comparison as a formula writes it. */
export function written(field: string, is: string, value: string, kind: FormulaName['kind']): string {
  switch (is) {
    case 'yes':
      return field
    case 'no':
      return `not ${field}`
    case 'empty':
      return `${field} is empty`
    case 'filled':
      return `${field} is not empty`
    case 'contains':
      return `${field} contains ${quoted(value)}`
    case 'lacks':
      return `not (${field} contains ${quoted(value)})`
  }
  return `${field} ${is} ${literal(value, kind)}`
}

const quoted = (s: string) => `"${s.replaceAll('"', '""')}"`

function literal(value: string, kind: FormulaName['kind']): string {
  const day = /^(\d{4})-(\d\d)-(\d\d)$/.exec(value)
  if (dated.has(kind) && day) return `date(${day.slice(1).map(Number).join(', ')})`
  if (numeric.has(kind)) return /^-?\d+(\.\d+)?$/.test(value.trim()) ? value.trim() : '0'
  return quoted(value)
}
