import { describe, expect, it } from 'vitest'
import type { PageBox } from '../../../../shared/types'
import { markOf, nudge, placed, putAt } from './marks'

const rule: PageBox = { left: 50, top: 40, width: 100, height: 0 }
const tick: PageBox = { left: 50, top: 75, width: 5, height: 5 }
const letters: PageBox[] = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => ({ left: 70 + i * 5.5, top: 74, width: 5.5, height: 7 }))
const table: PageBox[] = [
  { left: 20, top: 90, width: 140, height: 32 },
  { left: 20, top: 100, width: 140, height: 0 },
  { left: 20, top: 111, width: 140, height: 0 },
  { left: 105, top: 90, width: 0, height: 32 },
]
const page = [rule, tick, ...letters, ...table]

describe('where a click puts something', () => {
  it('stands on the rule below', () => {
    expect(placed('words', 80, 37, page)).toEqual({ left: 50, top: 33.7, width: 100, height: 6 })
  })
  it('fills the smallest box around it', () => {
    expect(placed('tick', 52, 77, page)).toEqual({ left: 50.5, top: 75.5, width: 4, height: 4 })
  })
  it('takes printed boxes for letters together', () => {
    expect(placed('words', 83, 78, page)).toEqual({ left: 70, top: 74, width: 44, height: 7, cells: 8 })
  })
  it('fills a cell of a drawn table', () => {
    expect(placed('words', 120, 105, page)).toEqual({ left: 105.5, top: 100.5, width: 54, height: 10 })
  })
  it('begins at the point where the page has nothing', () => {
    expect(placed('code', 170, 200, page)).toEqual({ left: 170, top: 187.5, width: 25, height: 25 })
  })
})

describe('a mark that is moved', () => {
  it('loses what only its old place needed', () => {
    const mark = markOf('words', 'words', 1)
    putAt(mark, 1, 83, 78, page)
    expect(mark.cells).toBe(8)
    putAt(mark, 2, 80, 37, page)
    expect(mark).toMatchObject({ page: 2, left: 50 })
    expect(mark.cells).toBeUndefined()
  })
  it('goes by half a millimetre and stays on the page', () => {
    const mark = markOf('tick', 'tick', 1)
    nudge(mark, 0.5, -50)
    expect(mark).toMatchObject({ left: 20.5, top: 0 })
  })
})
