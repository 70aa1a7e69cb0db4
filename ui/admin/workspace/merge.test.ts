import { expect, test } from 'vitest'
import { chance } from '../../shared/chance'
import { merge, type Plain } from './merge'

type Fields = { key: string; label: string; help: string }[]
type Design = { name: string; form: { fields: Fields }; documents: { key: string; title: string }[] }
const copy = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T
const base: Design = {
  name: 'Intake',
  form: { fields: Array.from({ length: 8 }, (_, i) => ({ key: `f${i}`, label: `Label ${i}`, help: '' })) },
  documents: [
    { key: 'receipt', title: 'Receipt' },
    { key: 'report', title: 'Report' },
  ],
}
const joined = (mine: Design, theirs: Design) =>
  merge(base as Plain, mine as unknown as Plain, theirs as unknown as Plain)
const fieldsOf = (v: unknown) => (v as Design).form.fields

test('what only one changed is taken from that one', () => {
  const other = copy(base)
  other.form.fields[3]!.label = 'Theirs'
  other.name = 'Another'
  expect(joined(base, other)).toEqual({ value: other, conflicts: [] })
  expect(joined(other, base)).toEqual({ value: other, conflicts: [] })
  expect(joined(other, copy(other))).toEqual({ value: other, conflicts: [] })
})

test('changes of different places are both there, whatever they are', () => {
  const { below: pick } = chance(20261127)
  for (let n = 0; n < 500; n++) {
    const mine = copy(base)
    const theirs = copy(base)
    const a = pick(8)
    const b = (a + 1 + pick(7)) % 8
    const moved = pick(2) === 1
    mine.form.fields[a]!.label = 'Mine'
    if (moved) mine.form.fields.reverse()
    const gone = pick(2) === 1
    if (gone) theirs.form.fields.splice(b, 1)
    else theirs.form.fields[b]!.help = 'Theirs'
    theirs.form.fields.splice(pick(theirs.form.fields.length + 1), 0, { key: 'new', label: 'New', help: '' })
    const m = joined(mine, theirs)
    expect(m.conflicts).toEqual([])
    const got = fieldsOf(m.value)
    expect(got.find((f) => f.key === `f${a}`)?.label).toBe('Mine')
    expect(got.filter((f) => f.key === 'new')).toHaveLength(1)
    if (gone) expect(got.some((f) => f.key === `f${b}`)).toBe(false)
    else expect(got.find((f) => f.key === `f${b}`)?.help).toBe('Theirs')
    const order = got.map((f) => f.key).filter((k) => k !== 'new')
    expect(order).toEqual(mine.form.fields.map((f) => f.key).filter((k) => !gone || k !== `f${b}`))
  }
})

test('both changed the same: mine stands, and the place is told', () => {
  const mine = copy(base)
  const theirs = copy(base)
  mine.form.fields[2]!.label = 'Mine'
  theirs.form.fields[2]!.label = 'Theirs'
  theirs.documents[1]!.title = 'Theirs too'
  const m = joined(mine, theirs)
  expect(m.conflicts).toEqual(['form/fields/f2/label'])
  expect(fieldsOf(m.value)[2]!.label).toBe('Mine')
  expect((m.value as unknown as Design).documents[1]!.title).toBe('Theirs too')
})

test('what one took out and the other changed is a conflict, in both directions', () => {
  const without = copy(base)
  without.form.fields.splice(4, 1)
  const changed = copy(base)
  changed.form.fields[4]!.label = 'Changed'
  expect(joined(without, changed).conflicts).toEqual(['form/fields/f4'])
  const kept = joined(changed, without)
  expect(kept.conflicts).toEqual(['form/fields/f4'])
  expect(fieldsOf(kept.value)[4]!.label).toBe('Changed')
})

test('where one changes the kind and the other a setting of the former kind, no setting of it is left', () => {
  const base = { key: 'a', kind: 'money', label: 'A' }
  const mine = { ...base, kind: 'decimal', decimal: { min: '1' } }
  const theirs = { ...base, label: 'B', money: { currency: 'EUR' } }
  expect(merge(base, mine, theirs).value).toEqual({ key: 'a', kind: 'decimal', label: 'B', decimal: { min: '1' } })
  expect(merge(base, theirs, mine).value).toEqual({ key: 'a', kind: 'decimal', label: 'B', decimal: { min: '1' } })
})
