import { expect, test } from 'vitest'
import { everything, usePages, type Page } from './pages'

interface Line {
  id: number
}

/** Lines with numbers up to `newest`, read in pages of five. */
function lines(newest: number) {
  const state = { newest }
  const read = (cursor?: string): Promise<Page<Line>> => {
    const top = cursor === undefined ? state.newest : Number(cursor) - 1
    const entries = Array.from({ length: Math.min(5, Math.max(top, 0)) }, (_, i) => ({ id: top - i }))
    return Promise.resolve({ entries, ...(top > 5 ? { next: String(top - 4) } : {}) })
  }
  return { state, read, list: usePages<Line>(read) }
}
const ids = (list: ReturnType<typeof lines>['list']) => list.all.value.map((e) => e.id)
const down = (from: number, to: number) => Array.from({ length: from - to + 1 }, (_, i) => from - i)

test('older entries follow without a gap, also when new ones come meanwhile', async () => {
  const { state, list } = lines(23)
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
  const { state, list } = lines(12)
  await list.start()
  await list.loadOlder()
  state.newest = 40
  await list.load()
  expect(ids(list)).toEqual(down(40, 36))
  expect(list.more.value).toBe(true)
})

test('a list is read whole, page by page', async () => {
  const { read } = lines(13)
  expect((await everything(read)).map((e) => e.id)).toEqual(down(13, 1))
})

test('an answer that was overtaken never replaces a newer one', async () => {
  const answers: ((ids: number[], next?: string) => void)[] = []
  const read = () =>
    new Promise<Page<Line>>((resolve) => {
      answers.push((ids, next) => resolve({ entries: ids.map((id) => ({ id })), ...(next ? { next } : {}) }))
    })
  const list = usePages<Line>(read)
  const slow = list.load()
  const quick = list.start()
  answers[1]!([3], '2')
  await quick
  answers[0]!([])
  await slow
  expect(list.all.value.map((e) => e.id)).toEqual([3])
  const older = list.loadOlder()
  const anew = list.start()
  answers[3]!([9])
  await anew
  answers[2]!([2])
  await older
  expect(list.all.value.map((e) => e.id)).toEqual([9])
})
