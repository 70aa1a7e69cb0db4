import type { Field } from '../shared/types'

/** How many seconds a question takes: reading it and answering; rough, from filling in the demo's forms. */
const seconds: Partial<Record<Field['kind'], number>> = {
  long_text: 40,
  rows: 60,
  signature: 20,
  upload: 30,
  photo: 30,
  address: 25,
  name: 10,
  section: 0,
  page: 0,
  hidden: 0,
  picture: 2,
  text: 6,
}
const usual = 8

/** How many minutes a form takes, at least one. Questions that are calculated take none. */
export function minutesFor(fields: Field[]): number {
  const all = fields.reduce((sum, f) => sum + (f.formula ? 0 : (seconds[f.kind] ?? usual)), 0)
  return Math.max(1, Math.round(all / 60))
}
