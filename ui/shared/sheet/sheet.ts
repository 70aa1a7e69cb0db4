import { inject, provide, type InjectionKey } from 'vue'
import { en, type Texts } from '../texts'
import type { Field, FileAnswer, Row, Typed } from '../types'

/** What every control of a sheet needs besides its own field. */
export interface Sheet {
  texts: Texts
  language: string
  /** The language of our own words, where it is not that of what is asked; else empty. */
  ours: string
  currency: string
  /** Whether the field of a path shows. */
  shows: (path: string) => boolean
  requires: (path: string, field: Field) => boolean
  /** What a calculated field came to, as people read it. */
  calculated: (path: string) => string | undefined
  /** What the browser may fill in by itself: a token of autocomplete, “parts”, “off” or nothing. */
  fillOf: (path: string) => string | undefined
  errorOf: (path: string) => string | undefined
  /** The id of a field's control in the page. */
  idOf: (path: string) => string
  upload: (name: string, file: File, progress: (share: number) => void) => Promise<FileAnswer>
  /** The picture of a fixed-picture field. */
  pictureOf: (name: string) => string
}

const key: InjectionKey<Sheet> = Symbol('sheet')

export const provideSheet = (sheet: Sheet) => provide(key, sheet)

export function useSheet(): Sheet {
  const sheet = inject(key)
  if (!sheet) throw new Error('controls stand on a sheet')
  return sheet
}

/** A sheet that shows everything and takes no files, to build others on. */
export function plainSheet(): Sheet {
  return {
    texts: en,
    language: 'en-GB',
    ours: '',
    currency: '',
    shows: () => true,
    requires: (_, field) => field.required ?? false,
    calculated: () => undefined,
    fillOf: () => undefined,
    errorOf: () => undefined,
    idOf: (path) => path,
    upload: () => Promise.reject(new Error('Files are taken when the form is open.')),
    pictureOf: (name) => `/p/${name}`,
  }
}

/** What stands in a field before anybody answers. */
export function emptyAnswer(field: Field): Typed {
  switch (field.kind) {
    case 'several_of':
    case 'upload':
    case 'photo':
    case 'rows':
      return []
    case 'consent':
      return false
    case 'yes_no':
    case 'signature':
      return null
    case 'name':
    case 'address':
      return {}
    default:
      return ''
  }
}

/** A field's default as an answer, or nothing. parameters are those of the page's address. */
export function defaultAnswer(field: Field, parameters: URLSearchParams, now: Date): Typed | undefined {
  const d = field.default
  if (!d) return undefined
  const two = (n: number) => String(n).padStart(2, '0')
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
  const time = `${two(now.getHours())}:${two(now.getMinutes())}`
  if (d.startsWith('@link:')) return parameters.get(d.slice(6)) ?? undefined
  if (d === '@today' || d === '@now') return { date: day, time, date_time: `${day}T${time}` }[field.kind as string]
  if (d.startsWith('@')) return undefined
  if (field.kind === 'yes_no' || field.kind === 'consent') return d === 'true' || d === 'yes'
  if (field.kind === 'several_of') return d.split(',').map((v) => v.trim())
  return d
}

/** A new row with its fields' defaults. */
export function newRow(field: Field): Row {
  const row: Row = {}
  for (const f of field.fields ?? []) {
    const d = defaultAnswer(f, new URLSearchParams(), new Date())
    if (d !== undefined) row[f.key] = d
  }
  return row
}

/** What every control is told of its question. */
export interface ControlProps {
  field: Field
  id: string
  described?: string | undefined
  invalid: boolean
  required: boolean
  path: string
}
