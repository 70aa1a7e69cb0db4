import { expect, test } from 'vitest'
import { folderOf, linkTo, wayTo } from './place'

test('each folder on the way has its own name and place', () => {
  const called = (key: string) => ({ vault: 'Bookkeeper’s vault' })[key] ?? key
  expect(wayTo({ destination: '', folder: '' }, called)).toEqual([])
  expect(wayTo({ destination: 'vault', folder: '' }, called).map((w) => w.name)).toEqual(['Bookkeeper’s vault'])
  const way = wayTo({ destination: 'vault', folder: 'Hire/2026' }, called)
  expect(way.map((w) => w.name)).toEqual(['Bookkeeper’s vault', 'Hire', '2026'])
  expect(way.map((w) => linkTo(w.place).query)).toEqual([
    { at: 'vault' },
    { at: 'vault', folder: 'Hire' },
    { at: 'vault', folder: 'Hire/2026' },
  ])
  expect(folderOf('Hire/2026/HA-1.pdf')).toBe('Hire/2026')
  expect(folderOf('HA-1.pdf')).toBe('')
})
