import { computed, type Ref } from 'vue'
import { blockSettings } from '../../../shared/settings'
import type { Block, PaperDocument } from '../../../shared/types'

/** A line of a document's script: a block with the list it stands in. */
export interface BlockLine {
  block: Block
  list: Block[]
  at: number
  depth: number
  /** The block it stands inside, and in which of its columns. */
  owner?: BlockLine
  side?: number
}

/** The lists of blocks that a block holds: of a group one, of columns one for each. */
export function listsIn(block: Block): Block[][] {
  const own = blockSettings(block)
  if (block.kind === 'group') return [(own.blocks ??= [])]
  if (block.kind === 'columns') return (own.sides ??= [{ blocks: [] }, { blocks: [] }]).map((s) => s.blocks)
  return []
}

function flatten(list: Block[], depth: number, owner?: BlockLine, side?: number): BlockLine[] {
  return list.flatMap((block, at) => {
    const line: BlockLine = {
      block,
      list,
      at,
      depth,
      ...(owner ? { owner } : {}),
      ...(side !== undefined ? { side } : {}),
    }
    return [line, ...listsIn(block).flatMap((inner, s) => flatten(inner, depth + 1, line, s))]
  })
}

/** All blocks of a document, also those inside others. */
export const allBlocks = (doc: PaperDocument): Block[] => flatten(doc.blocks, 0).map((l) => l.block)

/** The document's blocks as one numbered script, and the changes of its order. */
export function useScript(doc: Ref<PaperDocument | undefined>) {
  const lines = computed(() => (doc.value ? flatten(doc.value.blocks, 0) : []))

  /** Moves a line up or down: within its list, or into the next column. It reports whether there was somewhere to go. */
  function move(line: BlockLine, by: 1 | -1): boolean {
    const to = line.at + by
    if (to >= 0 && to < line.list.length) {
      line.list.splice(to, 0, ...line.list.splice(line.at, 1))
      return true
    }
    const beside = line.owner && line.side !== undefined ? listsIn(line.owner.block)[line.side + by] : undefined
    if (!beside) return false
    beside.splice(by > 0 ? 0 : beside.length, 0, ...line.list.splice(line.at, 1))
    return true
  }

  /** Puts a line into the group or columns above it, or takes it out behind the block it stands in. */
  function indent(line: BlockLine, by: 1 | -1): boolean {
    if (by > 0) {
      const into = line.at > 0 ? listsIn(line.list[line.at - 1]!).at(-1) : undefined
      into?.push(...line.list.splice(line.at, 1))
      return into !== undefined
    }
    if (!line.owner) return false
    line.owner.list.splice(line.owner.at + 1, 0, ...line.list.splice(line.at, 1))
    return true
  }
  const canIndent = (line: BlockLine) => line.at > 0 && listsIn(line.list[line.at - 1]!).length > 0

  /** The repeating group in whose rows a line stands, the innermost, or nothing. */
  function rowsOf(line: BlockLine | undefined): string {
    for (let l = line; l; l = l.owner) if (l.block.each) return l.block.each
    return ''
  }
  return { lines, move, indent, canIndent, rowsOf }
}
