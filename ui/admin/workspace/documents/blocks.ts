import type { Block, BlockKind, Field, PaperDocument } from '../../../shared/types'

/** An id that no other block of the document has. */
export function freshId(blocks: Block[], stem: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`
    if (!blocks.some((b) => b.id === id)) return id
  }
}

/** A new block of a kind, usable as it is where the form has what it prints. */
export function blockOf(kind: BlockKind, id: string, fields: Field[]): Block {
  switch (kind) {
    case 'heading':
      return { id, kind, level: 2, text: [] }
    case 'text':
      return { id, kind, body: [] }
    case 'picture':
      return { id, kind, width: 80, height: 60 }
    case 'lines':
      return { id, kind, rows: fields.find((f) => f.kind === 'rows')?.key ?? '' }
    case 'signature':
      return { id, kind, field: fields.find((f) => f.kind === 'signature')?.key ?? '', text: [] }
    case 'code':
      return { id, kind, code: 'qr', text: [{ field: '@number' }], width: 30 }
    case 'space':
      return { id, kind, height: 8 }
    default:
      return { id, kind }
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
      { id: 'heading', kind: 'heading', level: 1, text: [...title] },
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
