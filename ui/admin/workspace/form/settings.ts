import { fieldSettingNames, shapes } from '../../../shared/kinds.gen'
import type { FieldKind, FieldSettings } from '../../../shared/types'

/** A setting that is one word or number. */
export interface Setting {
  key: keyof FieldSettings
  words: string
  number?: boolean
  placeholder?: string
}

const all: Setting[] = [
  { key: 'placeholder', words: 'shown while empty' },
  { key: 'prefix', words: 'before it' },
  { key: 'suffix', words: 'after it' },
  { key: 'mask', words: 'mask', placeholder: 'AA-####' },
  { key: 'pattern', words: 'pattern', placeholder: '[A-Z]{2}[0-9]{4}' },
  { key: 'min', words: 'at least' },
  { key: 'max', words: 'at most' },
  { key: 'step', words: 'in steps of' },
  { key: 'shortest', words: 'shortest', number: true, placeholder: 'characters' },
  { key: 'longest', words: 'longest', number: true, placeholder: 'characters' },
  { key: 'country', words: 'country', placeholder: 'the house’s' },
  { key: 'currency', words: 'currency', placeholder: 'the house’s' },
  { key: 'scale', words: 'from 1 to', number: true, placeholder: '5' },
  { key: 'least', words: 'at least', number: true },
  { key: 'most', words: 'at most', number: true },
  { key: 'largest', words: 'megabytes each', number: true, placeholder: '10' },
]

const has = (kind: FieldKind, key: keyof FieldSettings) => fieldSettingNames[kind].includes(key)

/** The single settings of a kind, in the order in which they are offered. */
export const settingsOf = (kind: FieldKind): Setting[] => all.filter((s) => has(kind, s.key))

/** Whether an answer can begin with something. */
export const canBegin = (kind: FieldKind) => !['nothing', 'parts', 'files', 'drawn', 'repeated'].includes(shapes[kind])

/** What an answer can begin with, besides a value. */
export function beginnings(kind: FieldKind): { value: string; words: string }[] {
  return [
    ...(['day', 'moment', 'hour'].includes(shapes[kind]) ? [{ value: 'today' as const, words: 'today' }] : []),
    ...(kind === 'short_text' || kind === 'hidden'
      ? [{ value: 'person' as const, words: 'the signed-in person' }]
      : []),
    { value: 'link' as const, words: 'a parameter of the link' },
  ]
}

/** Kinds that a browser may fill in by itself. */
export const fillable = (kind: FieldKind) => has(kind, 'about')

/** Kinds whose answers can be unlike those of every other submission. */
export const canBeUnique = (kind: FieldKind) => shapes[kind] === 'words' || shapes[kind] === 'figure'

/** The parts of names and addresses, and those asked when nothing else is said. */
export const parts = {
  name: { all: ['title', 'given', 'middle', 'family', 'suffix'], usual: ['given', 'family'] },
  address: {
    all: ['street', 'extra', 'postcode', 'city', 'region', 'country'],
    usual: ['street', 'postcode', 'city', 'country'],
  },
}
