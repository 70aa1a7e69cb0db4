import { expect, test } from 'vitest'
import { chance } from '../../shared/chance'
import type { Paragraph, Span } from '../../shared/types'
import { fromEditor, toEditor } from './phraseSchema'

const { below, one, often } = chance(20261127)

/** A span that the editor holds as one: its look differs from that of the words before it. */
function span(last: Span | undefined): Span {
  const s: Span = {}
  for (const toggle of ['bold', 'italic', 'underline', 'strike', 'smallCaps'] as const) if (often(25)) s[toggle] = true
  if (often(15)) s.colour = one(['#1f4f4a', '#a3262a'])
  if (often(15)) s.size = one([8, 12.5, 20])
  if (often(10)) s.when = one(['days > 3', 'kind = "a"'])
  if (often(10)) s.link = 'https://house.example/'
  if (often(35)) {
    s.field = one(['name', '@number', 'lines.amount'])
    if (often(30)) s.format = 'short'
    if (often(30)) s.empty = 'nobody'
    if (often(20)) s.yes = 'agreed'
    if (often(20)) s.no = 'refused'
    return s
  }
  s.text = one(['Dear ', 'word', ' two words', 'a line\nand another', 'ends\n'])
  const look = (x: Span) =>
    JSON.stringify([x.bold, x.italic, x.underline, x.strike, x.smallCaps, x.colour, x.size, x.when, x.link])
  return last && !last.field && look(last) === look(s) ? { field: 'name' } : s
}
function body(): Paragraph[] {
  const out: Paragraph[] = []
  for (let n = 1 + below(6); n > 0; n--) {
    const spans: Span[] = []
    for (let k = 1 + below(4); k > 0; k--) spans.push(span(spans.at(-1)))
    const p: Paragraph = { spans }
    if (often(20)) p.align = one(['center', 'end', 'justify'])
    if (often(50)) {
      p.list = one(['bullet', 'number'])
      const before = out.at(-1)
      // A deeper item lies inside the one before it; there is one kind of list at a place.
      const deepest = before?.list ? (before.depth ?? 0) + 1 : 0
      const depth = Math.min(below(3), deepest, 2)
      if (depth) p.depth = depth
    }
    out.push(p)
  }
  return out
}

test('what the editor is given it gives back: words, looks, placeholders, breaks and lists', () => {
  for (let n = 0; n < 2000; n++) {
    const given = body()
    expect(fromEditor(toEditor(given))).toEqual(given)
  }
})

test('an empty body is one empty line in the editor and nothing in the file', () => {
  expect(toEditor([]).content).toEqual([{ type: 'paragraph' }])
  expect(fromEditor(toEditor([]))).toEqual([])
})
