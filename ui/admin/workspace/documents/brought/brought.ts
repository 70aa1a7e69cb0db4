import type { Design, Match, PaperDocument, Placeholder, ProofSource } from '../../../../shared/types'
import { api, data, octets } from '../../../api'

/** Keeps a file of this device in the house, and gives the name by which a document speaks of it. */
export async function bring(file: File): Promise<string> {
  const kept = await data(api.POST('/api/files', { params: { query: { name: file.name } }, ...octets(file) }))
  return kept.file
}

/** A new document of a file: it is called like the file, and its title says its number. */
export function broughtDocument(key: string, file: string, name: string): PaperDocument {
  const title = [{ text: `${name} ` }, { field: '@number' }]
  return { key, name, title: [...title], fileName: [...title], page: {}, footer: [], blocks: [], file }
}

/** The name of a file as its owner knows it: without the sign that tells files apart here. */
export const knownAs = (file: string) => file.replace(/-[0-9a-f]{16}(\.[a-z]+)$/, '$1')

/** What a file is called by people: its name without the ending, its first letter a capital. */
export function calledBy(file: string): string {
  const stem = file
    .replace(/\.[^.]*$/, '')
    .replace(/[-_]+/g, ' ')
    .trim()
  return stem ? stem[0]!.toUpperCase() + stem.slice(1) : file
}

export const inspect = (design: Design, key: string, source: ProofSource = { answers: 'made-up' }) =>
  data(api.POST('/api/files/inspection', { body: { design, key, ...source } }))

/** Whether a file is a PDF, on whose pages the document is printed. */
export const onPages = (file: string | undefined) => Boolean(file?.toLowerCase().endsWith('.pdf'))

/** Hands a file that was made just now to the browser’s downloads. */
function handOver(file: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
const asBlob = { parseAs: 'blob' } as const

/** The document as a designed one, and what blocks do not hold of it. */
export const turn = (design: Design, key: string) =>
  data(api.POST('/api/files/blocks', { body: { design, key } })) as Promise<{ document: PaperDocument; left: string[] }>

/** A copy of the document’s file with a comment at each fault. */
export async function downloadNotes(design: Design, key: string, file: string) {
  const made = await data(api.POST('/api/files/notes', { body: { design, key }, ...asBlob }))
  handOver(made as unknown as Blob, file.replace(/\.docx$/i, '') + ', notes.docx')
}

/** A file to begin with: the whole form laid out with its placeholders. */
export async function downloadBeginning(design: Design) {
  const made = await data(api.POST('/api/files/beginning', { body: { design }, ...asBlob }))
  handOver(made as unknown as Blob, `${design.name}.docx`)
}

/**
 * The matches of a document with those that its names give by themselves: kept, they hold when a question is renamed or
 * its label is rewritten.
 */
export function held(matches: Record<string, Match>, placeholders: Placeholder[]): Record<string, Match> {
  const out = { ...matches }
  for (const p of placeholders)
    if (['same key', 'same label'].includes(p.how) && fieldOf(p.match) && !(p.name in out)) out[p.name] = p.match
  return out
}

/** One line of the list: a name of the file, all its places, and what it got. */
export interface Found {
  name: string
  kind: Placeholder['kind']
  places: string[]
  match: Match
  how: Placeholder['how']
  /** What stands there with the answers of the proof. */
  value: string
  /** The format of the part of an answer that the name ends with, where it does. */
  part: string
  /** It asks for a match: parts of sentences such as conditions say themselves what they are. */
  asks: boolean
}

/** The names of a file, each once, those without a match first. */
export function byName(placeholders: Placeholder[]): Found[] {
  const found = new Map<string, Found>()
  for (const p of placeholders) {
    const id = `${p.kind === 'condition' || p.kind === 'rows' || p.kind === 'answers' ? p.kind : ''} ${p.name.toLowerCase()}`
    const before = found.get(id)
    if (before) {
      if (!before.places.includes(p.place)) before.places.push(p.place)
      continue
    }
    const asks = p.kind !== 'condition' && p.kind !== 'answers'
    const { name, kind, match, how } = p
    found.set(id, { name, kind, places: [p.place], match, how, value: p.value ?? '', part: p.part ?? '', asks })
  }
  /** Buttons and fields to sign are often left as they are. */
  const idle = (f: Found) => f.how === '' && (f.kind === 'button' || f.kind === 'signature')
  const late = (f: Found) => (idle(f) ? 3 : f.asks && f.how === '' ? 0 : f.how === 'nearly the same label' ? 1 : 2)
  return [...found.values()].sort((a, b) => late(a) - late(b))
}

/** The one field that a match is, or nothing. */
export const fieldOf = (m: Match): string =>
  !m.formula && m.words?.length === 1 && m.words[0]!.field ? m.words[0]!.field : ''

/** Whether a match says that what stands there stays. */
export const isLeft = (m: Match) => !m.formula && !m.words?.length

/** The match of a name by a field: where the name ends with a part that the field has, it is that part. */
export function matchOf(field: string, part: string, formats: { value: string }[]): Match {
  const format = part && formats.some((f) => f.value === part) ? { format: part } : {}
  return { words: [{ field, ...format }] }
}

/** A name of a file as a question: “first_day” is “First day”, the last part of a form’s name is the one that people know. */
export function questionOf(name: string): string {
  const last =
    name
      .replace(/\[\d+\]/g, '')
      .split('.')
      .at(-1) ?? name
  return calledBy(last.replace(/[{}]/g, '')).replace(/\s+/g, ' ').trim() || name
}
