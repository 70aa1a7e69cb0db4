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

/** What each kind of block is for, and a small drawing of it: paths of 24 by 24. */
export const blockNotes: Record<BlockKind, { says: string; drawing: string }> = {
  heading: { says: 'A title over what follows', drawing: 'M4 7h11M4 12h16M4 16h16' },
  text: { says: 'Sentences with placeholders', drawing: 'M4 6h16M4 10h16M4 14h16M4 18h9' },
  answers: {
    says: 'All answers, or chosen ones',
    drawing: 'M4 5h5M11 5h9M4 10h5M11 10h9M4 15h5M11 15h9M4 20h5M11 20h9',
  },
  lines: { says: 'The rows of a group, with totals', drawing: 'M4 5h16M4 9h16M4 13h16M13 18h7M13 20.5h7' },
  table: { says: 'Cells of your own words', drawing: 'M4 5h16v14H4zM4 10h16M4 14.5h16M10 5v14' },
  picture: {
    says: 'One of yours, or photos that were sent',
    drawing: 'M4 5h16v14H4zM4 17l5-6 4 4 3-3 4 5M15.5 9.5h.01',
  },
  signature: { says: 'Drawn or typed, over a line', drawing: 'M4 19h16M5 15c3-9 5-9 5-3s2 4 3 1 2-2 2 0 2 2 4 0' },
  code: { says: 'QR, bars, or a payment', drawing: 'M4 4h6v6H4zM14 4h6v6h-6zM4 14h6v6H4zM14 14h3v3h-3zM19 19h1' },
  chart: { says: 'Numbers, drawn', drawing: 'M4 20h16M7 20v-6M12 20V6M17 20v-9' },
  columns: { says: 'Blocks beside each other', drawing: 'M4 5h7v14H4zM13 5h7v14h-7z' },
  group: { says: 'Blocks shown or repeated together', drawing: 'M7 4H4v16h3M17 4h3v16h-3M9 9h6M9 12h6M9 15h6' },
  rule: { says: 'A line across the page', drawing: 'M4 12h16' },
  space: { says: 'Room between two blocks', drawing: 'M4 5h16M4 19h16M12 8v8M10 10l2-2 2 2M10 14l2 2 2-2' },
  page_break: {
    says: 'What follows begins a page',
    drawing: 'M6 3v6h12V3M6 21v-6h12v6M3 12h3M9 12h3M15 12h3M21 12h.01',
  },
  strip: { says: 'Stubs to tear off along the foot', drawing: 'M4 4h16v9H4zM4 16v4M8 16v4M12 16v4M16 16v4M20 16v4' },
  letterhead: { says: 'The house’s name, address and logo', drawing: 'M4 5h6v4H4zM14 5h6M14 7.5h6M14 10h4M4 14h16' },
}
