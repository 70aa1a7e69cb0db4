import { expect, test } from 'vitest'
import type { Field } from '../shared/types'
import { minutesFor } from './estimate'

const of = (...kinds: Field['kind'][]) => kinds.map((kind, i) => ({ key: `f${i}`, kind, label: kind }) as Field)

test('a form takes a minute at least, and longer the more it asks', () => {
  expect(minutesFor([])).toBe(1)
  expect(minutesFor(of('short_text', 'email'))).toBe(1)
  expect(minutesFor(of('rows', 'long_text', 'long_text', 'signature', 'section', 'hidden'))).toBe(3)
  const more = [...of('rows', 'long_text'), ...of('address', 'upload', 'photo')]
  expect(minutesFor(more)).toBeGreaterThan(minutesFor(more.slice(0, 1)))
})
