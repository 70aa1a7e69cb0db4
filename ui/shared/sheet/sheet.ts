import { inject, provide, toRaw, type InjectionKey } from 'vue'
import { shapes } from '../kinds.gen'
import { fieldSettings } from '../settings'
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
  /** Says that something of a control is under way until a promise ends: the page is not left before. */
  wait: (until: Promise<unknown>) => void
  /** Holds the page where it is while a control has something unsent, with what is to be done; no words let it go. */
  hold: (control: object, path: string, words: string) => void
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
    wait: () => undefined,
    hold: () => undefined,
    pictureOf: (name) => `/p/${name}`,
  }
}

/** What stands in a field before anybody answers. */
export function emptyAnswer(field: Field): Typed {
  switch (shapes[field.kind]) {
    case 'several':
    case 'files':
    case 'repeated':
      return []
    case 'truth':
      return field.kind === 'consent' ? false : null
    case 'drawn':
      return null
    case 'parts':
      return {}
    default:
      return ''
  }
}

/** A field's default as an answer, or nothing. parameters are those of the page's address, person who is signed in. */
export function defaultAnswer(
  field: Field,
  parameters: URLSearchParams,
  now: Date,
  person?: string,
): Typed | undefined {
  const d = field.default
  const two = (n: number) => String(n).padStart(2, '0')
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
  const time = `${two(now.getHours())}:${two(now.getMinutes())}`
  const shape = shapes[field.kind]
  switch (d?.from) {
    case 'link':
      return parameters.get(d.name ?? '') ?? undefined
    case 'today':
    case 'now':
      return { day, hour: time, moment: `${day}T${time}` }[shape as string]
    case 'person':
      return person
  }
  if (!d?.value) return undefined
  if (shape === 'truth') return d.value === 'true' || d.value === 'yes'
  if (shape === 'several') return d.value.split(',').map((v) => v.trim())
  return d.value
}

/** Rows are who they are, wherever they stand: a symbol goes along when a row is copied with a change, and is neither kept nor sent. */
const identity = Symbol('row')
let rowsMade = 0
export function rowIdentity(row: Row): number {
  const r = toRaw(row) as Row & { [identity]?: number }
  return (r[identity] ??= ++rowsMade)
}

/** A new row with its fields' defaults. */
export function newRow(field: Field): Row {
  const row: Row = {}
  for (const f of fieldSettings(field).fields ?? []) {
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
