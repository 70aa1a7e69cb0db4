import { shapes } from '../../../../shared/kinds.gen'
import { fieldSettings } from '../../../../shared/settings'
import type { Block, BlockKind, BlockSettings, Field, PaperDocument } from '../../../../shared/types'

/** An id that no other block of the document has. */
export function freshId(blocks: Block[], stem: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`
    if (!blocks.some((b) => b.id === id)) return id
  }
}

const rowsIn = (fields: Field[]) => fields.find((f) => f.kind === 'rows')
export const isNumber = (f: Field) => shapes[f.kind] === 'figure'

/** The fields that rows ask for. */
export const fieldsOf = (rows: Field | undefined): Field[] => (rows && fieldSettings(rows).fields) ?? []

/** A new block of a kind, usable as it is where the form has what it prints. */
export function blockOf(kind: BlockKind, id: string, fields: Field[]): Block {
  switch (kind) {
    case 'heading':
      return { id, kind, heading: { level: 2, text: [] } }
    case 'text':
      return { id, kind, text: { body: [] } }
    case 'facts':
      return { id, kind, facts: { tiles: factsOf(fields) } }
    case 'picture':
      return { id, kind, picture: { width: 80, height: 60 } }
    case 'lines':
      return { id, kind, lines: { rows: rowsIn(fields)?.key ?? '' } }
    case 'signature':
      return { id, kind, signature: { field: fields.find((f) => f.kind === 'signature')?.key ?? '', text: [] } }
    case 'code':
      return { id, kind, code: { symbology: 'qr', text: [{ field: '@number' }], width: 30 } }
    case 'space':
      return { id, kind, space: { height: 8 } }
    case 'table':
      return { id, kind, table: { grid: { header: true, rows: [gridRow(2), gridRow(2)] } } }
    case 'columns':
      return { id, kind, columns: { sides: [{ blocks: [] }, { blocks: [] }] } }
    case 'group':
      return { id, kind, group: { blocks: [] } }
    case 'chart':
      return chartOf(id, fields)
    case 'cover':
      return { id, kind, cover: { text: [{ field: '@intake' }], caption: [{ field: '@received' }] } }
    case 'contents':
      return { id, kind, contents: { level: 2, text: [{ text: 'Contents' }] } }
    case 'strip':
      return { id, kind, strip: { stubs: 8, height: 60, text: [{ field: '@house' }] } }
    default:
      return { id, kind }
  }
}

type Tile = NonNullable<BlockSettings['tiles']>[number]
/** What readers of most documents look for: number, day, and the last amount that is calculated. */
function factsOf(fields: Field[]): Tile[] {
  const due = fields.filter((f) => f.kind === 'money' && f.formula !== undefined).at(-1)
  return [
    { label: 'Number', text: [{ field: '@number' }] },
    { label: 'Date', text: [{ field: '@received' }] },
    ...(due ? [{ label: due.label, text: [{ field: due.key }], accent: true }] : []),
  ]
}

type GridRow = NonNullable<BlockSettings['grid']>['rows'][number]
export const gridRow = (cells: number): GridRow => ({ cells: Array.from({ length: cells }, () => ({ body: [] })) })

/** A chart of the first rows that hold numbers, or else of the form's ratings and numbers. */
function chartOf(id: string, fields: Field[]): Block {
  const rows = fields.find((f) => fieldsOf(f).some(isNumber))
  if (!rows)
    return {
      id,
      kind: 'chart',
      chart: { series: { kind: 'hbars' }, fields: fields.filter(isNumber).map((f) => f.key) },
    }
  const label = fieldsOf(rows).find((f) => !isNumber(f))?.key
  return {
    id,
    kind: 'chart',
    chart: {
      rows: rows.key,
      series: { kind: 'bars', value: fieldsOf(rows).find(isNumber)!.key, ...(label ? { label } : {}) },
    },
  }
}

/** A new document: a letterhead, a heading and every answer. */
export function documentOf(key: string, name: string): PaperDocument {
  const title = [{ text: `${name} ` }, { field: '@number' }]
  return {
    key,
    name,
    title: [...title],
    fileName: [...title],
    page: {},
    blocks: [
      { id: 'letterhead', kind: 'letterhead' },
      { id: 'heading', kind: 'heading', heading: { level: 1, text: [...title] } },
      { id: 'answers', kind: 'answers' },
    ],
    footer: [
      { field: '@house' },
      { text: ' · ' },
      { field: '@number' },
      { text: ' · page ' },
      { field: '@page' },
      { text: ' of ' },
      { field: '@pages' },
    ],
  }
}

/** A copy without some of its members. */
export function without<T extends object, K extends keyof T>(of: T, ...keys: K[]): Omit<T, K> {
  const copy = { ...of }
  for (const key of keys) Reflect.deleteProperty(copy, key)
  return copy
}
