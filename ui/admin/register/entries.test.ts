import { expect, test } from 'vitest'
import type { Entry, RegisterPage } from '../../shared/types'
import { useEntries } from './entries'

/** A register of entries with numbers up to `newest`, read in pages of five. */
function register(newest: number) {
  const state = { newest }
  const read = (before?: number): Promise<RegisterPage> => {
    const top = before === undefined ? state.newest : before - 1
    const entries = Array.from({ length: Math.min(5, Math.max(top, 0)) }, (_, i) => ({ id: top - i }) as Entry)
    return Promise.resolve({ entries, more: top > 5 } as RegisterPage)
  }
  return { state, list: useEntries(read) }
}
const ids = (list: ReturnType<typeof useEntries>) => list.pages.value.flat().map((e) => e.id)
const down = (from: number, to: number) => Array.from({ length: from - to + 1 }, (_, i) => from - i)

test('older entries follow without a gap, also when new ones come meanwhile', async () => {
  const { state, list } = register(23)
  await list.start()
  await list.loadOlder()
  expect(ids(list)).toEqual(down(23, 14))
  for (const newest of [24, 26, 26, 30]) {
    state.newest = newest
    await list.load()
    expect(ids(list)).toEqual(down(newest, 14))
  }
  while (list.more.value) await list.loadOlder()
  expect(ids(list)).toEqual(down(30, 1))
})

test('after more than a page of new entries the list begins anew rather than with a gap', async () => {
  const { state, list } = register(12)
  await list.start()
  await list.loadOlder()
  state.newest = 40
  await list.load()
  expect(ids(list)).toEqual(down(40, 36))
  expect(list.more.value).toBe(true)
})
