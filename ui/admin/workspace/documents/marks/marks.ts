import type { PageBox, PageMark } from '../../../../shared/types'

export type MarkKind = PageMark['kind']

/** A place on a page in millimetres. */
export type Place = Pick<PageMark, 'left' | 'top' | 'width' | 'height' | 'cells'>

/** How large each kind is where the page gives no measure, in millimetres. */
const usual: Record<MarkKind, { width: number; height: number }> = {
  words: { width: 60, height: 6 },
  tick: { width: 5, height: 5 },
  cross: { width: 5, height: 5 },
  strike: { width: 20, height: 4 },
  picture: { width: 40, height: 30 },
  signature: { width: 60, height: 16 },
  code: { width: 25, height: 25 },
}

/** A mark that is not put anywhere yet: it stands where it can be seen. */
export function markOf(kind: MarkKind, id: string, page: number, field?: string): PageMark {
  const says = kind === 'words' ? { text: [] } : kind === 'code' ? { text: [{ field: '@number' }] } : {}
  return { id, kind, page, left: 20, top: 20, ...usual[kind], ...says, ...(field ? { field } : {}) }
}

const tenth = (v: number) => Math.round(v * 10) / 10

/** How far from a rule a click still means to stand on it. */
const reach = 9
/** A box that is wider or higher is a frame around a part of the page. */
const widest = 190
const highest = 60

/**
 * Where something that is put at a point lies: inside the smallest box around it, or on the rule below it; printed boxes for letters
 * are taken together. Where the page has neither it begins at the point.
 */
export function placed(kind: MarkKind, x: number, y: number, rules: PageBox[]): Place {
  const boxes = rules.filter((b) => b.width > 2 && b.height > 2 && b.width < widest && b.height < highest)
  const inside = boxes
    .filter((b) => x >= b.left && x <= b.left + b.width && y >= b.top && y <= b.top + b.height)
    .sort((a, b) => a.width * a.height - b.width * b.height)[0]
  if (inside && kind === 'words') {
    const row = comb(inside, boxes)
    if (row.length > 2) {
      const first = row[0]!
      const last = row.at(-1)!
      return {
        left: tenth(first.left),
        top: tenth(first.top),
        width: tenth(last.left + last.width - first.left),
        height: tenth(first.height),
        cells: row.length,
      }
    }
  }
  if (inside) {
    const rim = Math.min(0.5, inside.width / 10, inside.height / 10)
    const cell = between(inside, x, y, rules)
    return {
      left: tenth(cell.left + rim),
      top: tenth(cell.top + rim),
      width: tenth(cell.width - 2 * rim),
      height: tenth(cell.height - 2 * rim),
    }
  }
  const size = usual[kind]
  const under = rules
    .filter((r) => r.height < 1 && r.width > 8 && x >= r.left - 1 && x <= r.left + r.width + 1)
    .filter((r) => r.top >= y - 1.5 && r.top - y < reach)
    .sort((a, b) => a.top - b.top)[0]
  if (under && (kind === 'words' || kind === 'signature'))
    return {
      left: tenth(under.left),
      top: tenth(under.top - size.height - 0.3),
      width: tenth(under.width),
      height: size.height,
    }
  return { left: tenth(x), top: tenth(Math.max(0, y - size.height / 2)), ...size }
}

/** The boxes of one size that stand beside a box without a gap, it among them, from left to right. */
function comb(box: PageBox, boxes: PageBox[]): PageBox[] {
  const alike = boxes
    .filter((b) => Math.abs(b.top - box.top) < 0.5 && Math.abs(b.height - box.height) < 0.5)
    .filter((b) => Math.abs(b.width - box.width) < 0.5 && b.width < 12)
    .sort((a, b) => a.left - b.left)
  const at = alike.indexOf(box)
  if (at < 0) return [box]
  const joins = (a: PageBox, b: PageBox) => Math.abs(a.left + a.width - b.left) < 1
  let first = at
  let last = at
  while (first > 0 && joins(alike[first - 1]!, alike[first]!)) first--
  while (last + 1 < alike.length && joins(alike[last]!, alike[last + 1]!)) last++
  return alike.slice(first, last + 1)
}

/** The part of a box between the rules that part it: a cell of a drawn table. */
function between(box: PageBox, x: number, y: number, rules: PageBox[]): PageBox {
  let { left, top } = box
  let right = box.left + box.width
  let bottom = box.top + box.height
  for (const r of rules) {
    const across = r.height < 1 && r.left <= x && r.left + r.width >= x
    const down = r.width < 1 && r.top <= y && r.top + r.height >= y
    if (across && r.top <= y) top = Math.max(top, Math.min(r.top, bottom))
    if (across && r.top > y) bottom = Math.min(bottom, Math.max(r.top, top))
    if (down && r.left <= x) left = Math.max(left, Math.min(r.left, right))
    if (down && r.left > x) right = Math.min(right, Math.max(r.left, left))
  }
  return { left, top, width: right - left, height: bottom - top }
}

/** A mark put at a point; what its old place needed and the new one does not is gone. */
export function putAt(mark: PageMark, page: number, x: number, y: number, rules: PageBox[]) {
  const to = placed(mark.kind, x, y, rules)
  mark.page = page
  Object.assign(mark, to)
  if (to.cells === undefined) delete mark.cells
}

/** A mark moved by millimetres; never off the page’s upper left corner. */
export function nudge(mark: PageMark, dx: number, dy: number) {
  mark.left = tenth(Math.max(0, mark.left + dx))
  mark.top = tenth(Math.max(0, mark.top + dy))
}
