import type { Field, FieldKind } from '../../../shared/types'

/** A setting that is one word or number. */
export interface Setting {
  key: keyof Field
  words: string
  number?: boolean
  placeholder?: string
}

const texts: FieldKind[] = ['short_text', 'long_text']
const numbers: FieldKind[] = ['whole_number', 'decimal', 'money']
const days: FieldKind[] = ['date', 'time', 'date_time']
const typed: FieldKind[] = [...texts, ...numbers, 'email', 'phone', 'web_address']
const simple: FieldKind[] = [...typed, ...days, 'one_of', 'several_of', 'yes_no', 'consent', 'rating', 'hidden']

const all: (Setting & { of: FieldKind[] })[] = [
  { key: 'placeholder', words: 'shown while empty', of: typed },
  { key: 'prefix', words: 'before it', of: [...numbers, 'short_text'] },
  { key: 'suffix', words: 'after it', of: [...numbers, 'short_text'] },
  { key: 'mask', words: 'mask', placeholder: 'AA-####', of: ['short_text'] },
  { key: 'pattern', words: 'pattern', placeholder: '[A-Z]{2}[0-9]{4}', of: ['short_text'] },
  { key: 'min', words: 'at least', of: [...numbers, ...days] },
  { key: 'max', words: 'at most', of: [...numbers, ...days] },
  { key: 'step', words: 'in steps of', of: numbers },
  { key: 'shortest', words: 'shortest', number: true, placeholder: 'characters', of: texts },
  { key: 'longest', words: 'longest', number: true, placeholder: 'characters', of: texts },
  { key: 'default', words: 'begins as', placeholder: '@today, @link:NAME', of: simple },
  { key: 'country', words: 'country', placeholder: 'the house’s', of: ['phone'] },
  { key: 'currency', words: 'currency', placeholder: 'the house’s', of: ['money'] },
  { key: 'scale', words: 'from 1 to', number: true, placeholder: '5', of: ['rating'] },
  { key: 'least', words: 'at least', number: true, of: ['rows', 'upload', 'photo'] },
  { key: 'most', words: 'at most', number: true, of: ['rows', 'upload', 'photo'] },
  { key: 'largest', words: 'megabytes each', number: true, placeholder: '10', of: ['upload', 'photo'] },
]

/** The single settings of a kind, in the order in which they are offered. */
export const settingsOf = (kind: FieldKind): Setting[] => all.filter((s) => s.of.includes(kind))

/** Kinds that a browser may fill in by itself. */
export const fillable = (kind: FieldKind) => ['short_text', 'email', 'phone', 'name', 'address', 'date'].includes(kind)

/** Kinds whose answers can be unlike those of every other submission. */
export const canBeUnique = (kind: FieldKind) => typed.includes(kind)

/** The parts of names and addresses, and those asked when nothing else is said. */
export const parts = {
  name: { all: ['title', 'given', 'middle', 'family', 'suffix'], usual: ['given', 'family'] },
  address: {
    all: ['street', 'extra', 'postcode', 'city', 'region', 'country'],
    usual: ['street', 'postcode', 'city', 'country'],
  },
}
