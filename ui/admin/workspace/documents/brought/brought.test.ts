import { expect, test } from 'vitest'
import type { Placeholder } from '../../../../shared/types'
import { byName, calledBy, held, matchOf } from './brought'

const found = (name: string, how: Placeholder['how'], place: string, kind: Placeholder['kind'] = 'words') =>
  ({ name, how, place, kind, match: {} }) as Placeholder

test('names stand once, with all their places; those without a match come first', () => {
  const list = byName([
    found('player', 'same key', 'paragraph 1'),
    found('a > 1', '', 'paragraph 2', 'condition'),
    found('deposit in words', '', 'paragraph 3'),
    found('Player', 'same key', 'paragraph 4'),
    found('gardian', 'nearly the same label', 'paragraph 5'),
  ])
  expect(list.map((f) => [f.name, f.places])).toEqual([
    ['deposit in words', ['paragraph 3']],
    ['gardian', ['paragraph 5']],
    ['player', ['paragraph 1', 'paragraph 4']],
    ['a > 1', ['paragraph 2']],
  ])
})

test('a document is called like its file', () => {
  expect(calledBy('hire-agreement_2026.docx')).toBe('Hire agreement 2026')
  expect(calledBy('.docx')).toBe('.docx')
})

test('matches that names give by themselves are held, and nobody’s choice is replaced', () => {
  const at = (name: string, how: Placeholder['how'], field: string) =>
    ({ name, how, place: '', kind: 'words', match: { words: [{ field }] } }) as Placeholder
  const chosen = { words: [{ text: 'x' }] }
  expect(
    held({ Day: chosen }, [
      at('player', 'same key', 'player'),
      at('Day', 'same label', 'first_day'),
      at('gardian', 'nearly the same label', 'guardian'),
      at('@number', 'given', '@number'),
    ]),
  ).toEqual({ Day: chosen, player: { words: [{ field: 'player' }] } })
})

test('a name that ends with a part of an answer gets that part of the field that is chosen for it', () => {
  const day = [{ value: '' }, { value: 'iso' }, { value: 'dd' }, { value: 'mm' }, { value: 'yyyy' }]
  expect(matchOf('birth', 'mm', day)).toEqual({ words: [{ field: 'birth', format: 'mm' }] })
  expect(matchOf('name', 'mm', [{ value: '' }])).toEqual({ words: [{ field: 'name' }] })
  expect(matchOf('birth', '', day)).toEqual({ words: [{ field: 'birth' }] })
})
