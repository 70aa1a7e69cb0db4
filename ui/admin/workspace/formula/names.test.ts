import { expect, test } from 'vitest'
import { fieldKindOrder } from '../../../shared/kinds.gen'
import { plainName } from '../names'
import { comparisons, valued, written } from './names'

test('names for formulas are made of letters a to z, figures and single underscores, whatever the words are', () => {
  const pieces = ['Łódź', 'ÄÖÜ', '  ', '2nd', '–', 'café', 'Ünïcode', '周', '_', 'What is it?', "o'clock", 'é']
  let chance = 7
  for (let n = 0; n < 500; n++) {
    const words = Array.from({ length: n % 5 }, () => {
      chance = (chance * 48271) % 2147483647 // Park and Miller, 1988, with Lehmer's multiplier of 1993
      return pieces[chance % pieces.length]!
    }).join(' ')
    const name = plainName(words, 'otherwise')
    expect(name).toMatch(/^[a-z0-9]+(_[a-z0-9]+)*$/)
    expect(plainName(name, 'x')).toBe(name)
  }
  expect(plainName('Straße und Größe', 'x')).toBe('strasse_und_grosse')
  expect(plainName('周', 'field')).toBe('field')
})

test('every comparison of every kind is written as a formula', () => {
  for (const kind of [...fieldKindOrder, 'constant' as const])
    for (const c of comparisons(kind)) {
      const formula = written('a', c.is, valued(c.is) ? '2' : '', kind)
      expect(formula, `${kind} ${c.is}`).toMatch(/^(not )?\(?a( (is( not)? empty|contains .+|[<>=]+ .+))?\)?$/)
    }
})

test('a value is written so that it is read back: quotes doubled, days as dates, numbers plain', () => {
  expect(written('a', '=', 'say "no"', 'short_text')).toBe('a = "say ""no"""')
  expect(written('day', '>=', '2026-02-03', 'date')).toBe('day >= date(2026, 2, 3)')
  expect(written('n', '<', '-2.50', 'decimal')).toBe('n < -2.50')
  expect(written('some', 'lacks', 'bow', 'several_of')).toBe('not (some contains "bow")')
})
