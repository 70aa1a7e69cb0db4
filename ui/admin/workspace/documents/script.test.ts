import { expect, test } from 'vitest'
import { ref } from 'vue'
import { chance } from '../../../shared/chance'
import type { Block, PaperDocument } from '../../../shared/types'
import { allBlocks, useScript } from './script'

const { below, often } = chance(20261127)
let count = 0
function block(depth: number): Block {
  const id = `b${count++}`
  const inside = () => Array.from({ length: below(4) }, () => block(depth + 1))
  if (depth < 3 && often(20)) return { id, kind: 'group', group: { blocks: inside() } } as Block
  if (depth < 3 && often(20))
    return {
      id,
      kind: 'columns',
      columns: { sides: Array.from({ length: 2 + below(2) }, () => ({ blocks: inside() })) },
    } as Block
  return { id, kind: 'text' } as Block
}
const ids = (doc: PaperDocument) => allBlocks(doc).map((b) => b.id)

test('however lines are moved and set in and out, none is lost, doubled, or put inside itself', () => {
  for (let n = 0; n < 150; n++) {
    const doc = ref({ blocks: Array.from({ length: 2 + below(5) }, () => block(0)) } as unknown as PaperDocument)
    const { lines, move, indent, canIndent } = useScript(doc)
    const all = ids(doc.value).sort()
    for (let k = 0; k < 40; k++) {
      const line = lines.value[below(lines.value.length)]!
      const before = JSON.stringify(doc.value)
      const by = often(50) ? 1 : -1
      const could = canIndent(line)
      const done = often(50) ? move(line, by) : indent(line, by)
      expect(ids(doc.value).sort()).toEqual(all)
      if (!done) expect(JSON.stringify(doc.value)).toBe(before)
      expect(typeof could).toBe('boolean')
    }
  }
})

test('a line that is moved inside its list goes back by the opposite move', () => {
  const doc = ref({ blocks: ['a', 'b', 'c'].map((id) => ({ id, kind: 'text' })) } as unknown as PaperDocument)
  const { lines, move, indent } = useScript(doc)
  expect(move(lines.value[0]!, 1)).toBe(true)
  expect(ids(doc.value)).toEqual(['b', 'a', 'c'])
  expect(move(lines.value[1]!, -1)).toBe(true)
  expect(ids(doc.value)).toEqual(['a', 'b', 'c'])
  expect(move(lines.value[0]!, -1)).toBe(false)
  expect(indent(lines.value[1]!, 1)).toBe(false)
})
