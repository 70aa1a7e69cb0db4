import { lookOrder, shapes } from '../../shared/kinds.gen'
import type { BlockKind, FieldKind } from '../../shared/types'
import { t } from '../words'

/** The kinds of field and block, in the words people use for them. */
export const fieldKinds: Record<FieldKind, string> = {
  short_text: t('workspace.shortText'),
  long_text: t('workspace.longText'),
  name: t('workspace.nameParts'),
  email: t('workspace.email'),
  phone: t('workspace.telephone'),
  address: t('workspace.postalAddress'),
  whole_number: t('workspace.wholeNumber'),
  decimal: t('workspace.decimalNumber'),
  money: t('workspace.money'),
  date: t('workspace.date'),
  time: t('workspace.time'),
  date_time: t('workspace.dateTime'),
  one_of: t('workspace.oneSeveral'),
  several_of: t('workspace.severalSeveral'),
  one_pictured: t('workspace.oneSeveralPictures'),
  yes_no: t('workspace.yesNo'),
  consent: t('workspace.consent'),
  rating: t('workspace.rating'),
  web_address: t('workspace.webAddress'),
  upload: t('workspace.files'),
  photo: t('workspace.photos'),
  signature: t('workspace.signature'),
  hidden: t('workspace.hidden'),
  rows: t('workspace.rows'),
  section: t('workspace.section'),
  page: t('workspace.page'),
  text: t('workspace.fixedWords'),
  picture: t('workspace.fixedPicture'),
}

/** Whether fields of the kind take an answer. */
export const asks = (kind: FieldKind) => shapes[kind] !== 'nothing'

export const choosy = (kind: FieldKind) => shapes[kind] === 'one' || shapes[kind] === 'several'

export const usualLook = lookOrder[0]!

const lookNames: Record<string, string> = {
  ledger: t('workspace.ledger'),
  letter: t('workspace.letter'),
  ticket: t('workspace.ticket'),
  plain: t('workspace.plain'),
}
/** A look’s name, as people read it. */
export const lookName = (look: string) => lookNames[look] ?? look

export const blockKinds: Record<BlockKind, string> = {
  heading: t('workspace.heading'),
  text: t('workspace.text'),
  facts: t('workspace.facts'),
  answers: t('workspace.tableAnswers'),
  lines: t('workspace.lineTable'),
  signature: t('workspace.signature'),
  code: t('workspace.code'),
  page_break: t('workspace.pageBreak'),
  picture: t('workspace.picture'),
  rule: t('workspace.rule'),
  space: t('workspace.space'),
  letterhead: t('workspace.letterhead'),
  table: t('workspace.tableCells'),
  columns: t('workspace.columns'),
  group: t('workspace.group'),
  chart: t('workspace.chart'),
  strip: t('workspace.tearOffStrip'),
  cover: t('workspace.coverPage'),
  contents: t('workspace.tableOfContents'),
}

/** What each kind of block is for, and a small drawing of it: paths of 24 by 24. */
export const blockNotes: Record<BlockKind, { says: string; drawing: string }> = {
  heading: { says: t('workspace.titleOverWhatFollows'), drawing: 'M4 7h11M4 12h16M4 16h16' },
  text: { says: t('workspace.sentencesPlaceholders'), drawing: 'M4 6h16M4 10h16M4 14h16M4 18h9' },
  facts: {
    says: t('workspace.whatReadersLookFor'),
    drawing: 'M3 8h18M3 16h18M9 8v8M15 8v8M5 11h2M11 11h2M17 11h2M5 13.5h3M11 13.5h3',
  },
  answers: {
    says: t('workspace.allAnswersChosenOnes'),
    drawing: 'M4 5h5M11 5h9M4 10h5M11 10h9M4 15h5M11 15h9M4 20h5M11 20h9',
  },
  lines: { says: t('workspace.rowsGroupTotals'), drawing: 'M4 5h16M4 9h16M4 13h16M13 18h7M13 20.5h7' },
  table: { says: t('workspace.cellsYourOwnWords'), drawing: 'M4 5h16v14H4zM4 10h16M4 14.5h16M10 5v14' },
  picture: {
    says: t('workspace.oneYoursPhotosWereSent'),
    drawing: 'M4 5h16v14H4zM4 17l5-6 4 4 3-3 4 5M15.5 9.5h.01',
  },
  signature: { says: t('workspace.drawnTypedOverLine'), drawing: 'M4 19h16M5 15c3-9 5-9 5-3s2 4 3 1 2-2 2 0 2 2 4 0' },
  code: { says: t('workspace.qrBarsPayment'), drawing: 'M4 4h6v6H4zM14 4h6v6h-6zM4 14h6v6H4zM14 14h3v3h-3zM19 19h1' },
  chart: { says: t('workspace.numbersDrawn'), drawing: 'M4 20h16M7 20v-6M12 20V6M17 20v-9' },
  columns: { says: t('workspace.blocksBesideEachOther'), drawing: 'M4 5h7v14H4zM13 5h7v14h-7z' },
  group: { says: t('workspace.blocksShownRepeatedTogether'), drawing: 'M7 4H4v16h3M17 4h3v16h-3M9 9h6M9 12h6M9 15h6' },
  rule: { says: t('workspace.lineAcrossPage'), drawing: 'M4 12h16' },
  space: { says: t('workspace.roomBetweenTwoBlocks'), drawing: 'M4 5h16M4 19h16M12 8v8M10 10l2-2 2 2M10 14l2 2 2-2' },
  page_break: {
    says: t('workspace.whatFollowsBeginsPage'),
    drawing: 'M6 3v6h12V3M6 21v-6h12v6M3 12h3M9 12h3M15 12h3M21 12h.01',
  },
  strip: { says: t('workspace.stubsTearOffAlongFoot'), drawing: 'M4 4h16v9H4zM4 16v4M8 16v4M12 16v4M16 16v4M20 16v4' },
  cover: { says: t('workspace.coverSays'), drawing: 'M5 3h14v18H5zM5 14h14M8 10.5h7M8 7.5h5' },
  contents: {
    says: t('workspace.contentsSays'),
    drawing: 'M4 6h11M19 6h1M4 11h11M19 11h1M6 16h9M19 16h1M4 20h11M19 20h1',
  },
  letterhead: { says: t('workspace.housesNameAddressLogo'), drawing: 'M4 5h6v4H4zM14 5h6M14 7.5h6M14 10h4M4 14h16' },
}
