import { lookOrder, shapes } from '../../shared/kinds.gen'
import type { BlockKind, FieldKind } from '../../shared/types'

/** The kinds of field and block, in the words people use for them. */
export const fieldKinds: Record<FieldKind, string> = {
  short_text: 'short text',
  long_text: 'long text',
  name: 'name in parts',
  email: 'email',
  phone: 'telephone',
  address: 'postal address',
  whole_number: 'whole number',
  decimal: 'decimal number',
  money: 'money',
  date: 'date',
  time: 'time',
  date_time: 'date and time',
  one_of: 'one of several',
  several_of: 'several of several',
  one_pictured: 'one of several pictures',
  yes_no: 'yes or no',
  consent: 'consent',
  rating: 'rating',
  web_address: 'web address',
  upload: 'files',
  photo: 'photos',
  signature: 'signature',
  hidden: 'hidden',
  rows: 'rows',
  section: 'section',
  page: 'page',
  text: 'fixed words',
  picture: 'fixed picture',
}

/** Whether fields of the kind take an answer. */
export const asks = (kind: FieldKind) => shapes[kind] !== 'nothing'

export const choosy = (kind: FieldKind) => shapes[kind] === 'one' || shapes[kind] === 'several'

export const usualLook = lookOrder[0]!

/** A look’s name, as people read it. */
export const lookName = (look: string) => look.charAt(0).toUpperCase() + look.slice(1)

export const blockKinds: Record<BlockKind, string> = {
  heading: 'heading',
  text: 'text',
  answers: 'table of answers',
  lines: 'line table',
  signature: 'signature',
  code: 'code',
  page_break: 'page break',
  picture: 'picture',
  rule: 'rule',
  space: 'space',
  letterhead: 'letterhead',
  table: 'table of cells',
  columns: 'columns',
  group: 'group',
  chart: 'chart',
  strip: 'tear-off strip',
}
