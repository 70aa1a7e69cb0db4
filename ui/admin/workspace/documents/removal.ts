import type { Design } from '../../../shared/types'

/** A place that speaks of a document: a notice that carries it, a rule that files it among others, or one that files nothing else. */
export interface Use {
  of: 'notice' | 'filing' | 'rule'
  key: string
  name: string
}

/** What changes elsewhere when a document is taken out. */
export function usesOf(design: Design, document: string): Use[] {
  const speaks = (e: { document?: string }) => e.document === document
  return [
    ...design.notices
      .filter((n) => n.attach.some(speaks))
      .map((n) => ({ of: 'notice' as const, key: n.key, name: n.name })),
    ...design.filings
      .filter((f) => f.what.some(speaks))
      .map((f) => ({ of: f.what.every(speaks) ? ('rule' as const) : ('filing' as const), key: f.key, name: f.name })),
  ]
}

/** Takes a document out of a design, and out of each list that names it. A rule goes only when it would file nothing more. */
export function takeOut(design: Design, document: string): void {
  const uses = usesOf(design, document)
  const other = (e: { document?: string }) => e.document !== document
  design.documents = design.documents.filter((d) => d.key !== document)
  for (const n of design.notices) n.attach = n.attach.filter(other)
  design.filings = design.filings.filter((f) => !uses.some((u) => u.of === 'rule' && u.key === f.key))
  for (const f of design.filings) f.what = f.what.filter(other)
}
