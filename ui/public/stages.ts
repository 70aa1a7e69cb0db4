import type { Field } from '../shared/types'

export type Stage =
  'loading' | 'asking' | 'reading' | 'sent' | 'again' | 'closed' | 'missing' | 'linkless' | 'unreachable'

/** One page of a form: what stands between two page marks. */
export interface FormPage {
  key: string
  label: string
  fields: Field[]
}

/** The submission that is corrected. */
export interface Corrected {
  number: string
  received: string
  revision: number
}
