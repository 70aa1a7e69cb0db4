import { expect, test } from 'vitest'
import type { Field, Typed } from '../types'
import { rawAnswers } from './raw'

const fields = [
  { key: 'head', kind: 'section', label: 'Head' },
  { key: 'name', kind: 'short_text', label: 'Name' },
  { key: 'price', kind: 'money', label: 'Price' },
  { key: 'sum', kind: 'money', label: 'Sum', formula: 'price * 2' },
  { key: 'sign', kind: 'signature', label: 'Signature' },
  { key: 'lines', kind: 'rows', label: 'Lines', rows: { fields: [{ key: 'hours', kind: 'decimal', label: 'Hours' }] } },
] as Field[]

test('answers go as the server reads them: numbers plain, rows by row, nothing for what is empty or calculated', () => {
  const typed: Record<string, Typed> = {
    head: 'x',
    name: '',
    price: '1.250,50',
    sum: '9',
    sign: { strokes: [] } as unknown as Typed,
    lines: [{ hours: '1,5' }, { hours: '' }] as unknown as Typed,
  }
  expect(rawAnswers(fields, typed, 'de-DE')).toEqual({ price: '1250.50', lines: [{ hours: '1.5' }, {}] })
  expect(rawAnswers(fields, { name: 'Zoë', sign: { typed: 'Zoë' } as unknown as Typed }, 'en-GB')).toEqual({
    name: 'Zoë',
    sign: { typed: 'Zoë' },
  })
})
