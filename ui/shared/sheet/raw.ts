import { plainNumber } from '../numbers'
import { shapes } from '../kinds.gen'
import { fieldSettings } from '../settings'
import type { Field, Mark, Row, Typed } from '../types'

/** An answer as the server reads it; nothing where nothing was answered. */
export function rawAnswer(field: Field, v: Typed | undefined, language: string): Typed {
  if (v === undefined || v === '' || v === null) return null
  const shape = shapes[field.kind]
  if (shape === 'repeated')
    return (v as Row[]).map((row) => rawAnswers(fieldSettings(field).fields ?? [], row, language) as Row)
  if (shape === 'figure' && field.kind !== 'rating' && typeof v === 'string') return plainNumber(v, language)
  if (shape === 'drawn') {
    const m = v as Mark
    return m.typed || m.file || m.strokes?.length ? m : null
  }
  return v
}

/** All answers that are asked for, by key. */
export function rawAnswers(fields: Field[], answers: Record<string, Typed>, language: string): Record<string, Typed> {
  const out: Record<string, Typed> = {}
  for (const f of fields) {
    if (f.formula || shapes[f.kind] === 'nothing') continue
    const v = rawAnswer(f, answers[f.key], language)
    if (v !== null) out[f.key] = v
  }
  return out
}
