import { plainNumber } from '../numbers'
import type { Field, Mark, Row, Typed } from '../types'

const numeric = new Set(['whole_number', 'decimal', 'money'])

/** An answer as the server reads it; nothing where nothing was answered. */
export function rawAnswer(field: Field, v: Typed | undefined, language: string): Typed {
  if (v === undefined || v === '' || v === null) return null
  if (field.kind === 'rows') return (v as Row[]).map((row) => rawAnswers(field.fields ?? [], row, language) as Row)
  if (numeric.has(field.kind) && typeof v === 'string') return plainNumber(v, language)
  if (field.kind === 'signature') {
    const m = v as Mark
    return m.typed || m.file || m.strokes?.length ? m : null
  }
  return v
}

/** All answers that are asked for, by key. */
export function rawAnswers(fields: Field[], answers: Record<string, Typed>, language: string): Record<string, Typed> {
  const out: Record<string, Typed> = {}
  for (const f of fields) {
    if (f.formula || ['section', 'page', 'text', 'picture'].includes(f.kind)) continue
    const v = rawAnswer(f, answers[f.key], language)
    if (v !== null) out[f.key] = v
  }
  return out
}
