import { fieldSettingNames, shapes } from '../../../shared/kinds.gen'
import type { FieldKind, FieldSettings } from '../../../shared/types'
import { t } from '../../words'

/** A setting that is one word or number. */
export interface Setting {
  key: keyof FieldSettings
  words: string
  number?: boolean
  placeholder?: string
}

const all: Setting[] = [
  { key: 'placeholder', words: t('form.shownWhileEmpty') },
  { key: 'prefix', words: t('form.before') },
  { key: 'suffix', words: t('form.after') },
  { key: 'mask', words: t('form.mask'), placeholder: 'AA-####' },
  { key: 'pattern', words: t('form.pattern'), placeholder: '[A-Z]{2}[0-9]{4}' },
  { key: 'min', words: t('form.least') },
  { key: 'max', words: t('form.most') },
  { key: 'step', words: t('form.steps') },
  { key: 'shortest', words: t('form.shortest'), number: true, placeholder: t('form.characters') },
  { key: 'longest', words: t('form.longest'), number: true, placeholder: t('form.characters') },
  { key: 'country', words: t('form.country'), placeholder: t('form.houses') },
  { key: 'currency', words: t('form.currency'), placeholder: t('form.houses') },
  { key: 'scale', words: t('form.from1'), number: true, placeholder: '5' },
  { key: 'least', words: t('form.least'), number: true },
  { key: 'most', words: t('form.most'), number: true },
  { key: 'largest', words: t('form.megabytesEach'), number: true, placeholder: '10' },
]

const has = (kind: FieldKind, key: keyof FieldSettings) => fieldSettingNames[kind].includes(key)

/** The single settings of a kind, in the order in which they are offered. */
export const settingsOf = (kind: FieldKind): Setting[] => all.filter((s) => has(kind, s.key))

/** Whether an answer can begin with something. */
export const canBegin = (kind: FieldKind) => !['nothing', 'parts', 'files', 'drawn', 'repeated'].includes(shapes[kind])

/** What an answer can begin with, besides a value. */
export function beginnings(kind: FieldKind): { value: string; words: string }[] {
  return [
    ...(['day', 'moment', 'hour'].includes(shapes[kind]) ? [{ value: 'today' as const, words: t('form.today') }] : []),
    ...(kind === 'short_text' || kind === 'hidden'
      ? [{ value: 'person' as const, words: t('form.signedPerson') }]
      : []),
    { value: 'link' as const, words: t('form.parameterLink') },
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
