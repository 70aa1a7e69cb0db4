import { expect, test } from 'vitest'
import { chance } from '../../shared/chance'
import { rebased } from './rebase'

type Design = { fields: { key: string; label: string }[] }
const of = (...keys: string[]): Design => ({ fields: keys.map((key) => ({ key, label: key })) })
const text = (d: Design) => JSON.stringify(d)
const keys = (s: string) => (JSON.parse(s) as Design).fields.map((f) => f.key)

test('to go back takes away what I added, and leaves what somebody else did', () => {
  const base = text(of('a', 'b'))
  const theirs = text(of('a', 'b', 'theirs'))
  expect(rebased([text(of('a')), base, text(of('a', 'b', 'mine'))], base, theirs).map(keys)).toEqual([
    ['a', 'theirs'],
    ['a', 'b', 'theirs'],
    ['a', 'b', 'theirs', 'mine'],
  ])
})

test('the history ends where both changed the same', () => {
  const base = of('a', 'b')
  const renamed = (label: string) => text({ fields: [{ key: 'a', label }, base.fields[1]!] })
  expect(rebased([renamed('Mine'), text(base), text(of('a', 'b', 'c'))], text(base), renamed('Theirs'))).toHaveLength(2)
})

test('whatever the two did, no state of mine loses what they added or has what they removed', () => {
  const { below } = chance(20261201)
  for (let round = 0; round < 300; round++) {
    const all = Array.from({ length: 6 }, (_, i) => `f${i}`)
    const base = of(...all)
    const gone = all[below(6)]!
    const theirs = of(...all.filter((k) => k !== gone), 'theirs')
    const states = Array.from({ length: 4 }, (_, n) => text(of(...all.filter(() => below(4) > 0), `mine${n}`)))
    for (const s of rebased(states, text(base), text(theirs))) {
      expect(keys(s)).toContain('theirs')
      expect(keys(s)).not.toContain(gone)
    }
  }
})
