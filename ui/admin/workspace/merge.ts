/** Plain data, as JSON has it. */
export type Plain = null | boolean | number | string | Plain[] | { [key: string]: Plain }

const isObject = (v: Plain | undefined): v is { [key: string]: Plain } =>
  typeof v === 'object' && v !== null && !Array.isArray(v)
const same = (a: Plain | undefined, b: Plain | undefined) => JSON.stringify(a) === JSON.stringify(b)

/** What names a member of a list: fields, documents, notices and filings have keys, blocks have ids. */
function nameOf(v: Plain): string | undefined {
  if (!isObject(v)) return undefined
  const name = v.key ?? v.id
  return typeof name === 'string' ? name : undefined
}
function named(list: Plain[]): boolean {
  const names = list.map(nameOf)
  return names.every((n) => n !== undefined) && new Set(names).size === names.length
}

export interface Merged {
  value: Plain | undefined
  /** Where both changed the same to something different; there mine stands. */
  conflicts: string[]
}

/**
 * Joins two changes of the same design: what only one changed is taken from that one, member by member. Lists of named members are
 * joined by name, in my order with theirs behind what they stood behind; other lists and words are one thing.
 */
export function merge(base: Plain | undefined, mine: Plain | undefined, theirs: Plain | undefined, at = ''): Merged {
  if (same(mine, theirs) || same(base, theirs)) return { value: mine, conflicts: [] }
  if (same(base, mine)) return { value: theirs, conflicts: [] }
  if (isObject(mine) && isObject(theirs) && (isObject(base) || base === undefined)) {
    return mergeObjects(base ?? {}, mine, theirs, at)
  }
  if (
    Array.isArray(mine) &&
    Array.isArray(theirs) &&
    Array.isArray(base) &&
    named(base) &&
    named(mine) &&
    named(theirs)
  ) {
    return mergeLists(base, mine, theirs, at)
  }
  return { value: mine, conflicts: [at] }
}

type Members = { [key: string]: Plain }

function mergeObjects(base: Members, mine: Members, theirs: Members, at: string): Merged {
  const out: Members = {}
  const conflicts: string[] = []
  for (const key of [...Object.keys(mine), ...Object.keys(theirs).filter((k) => !(k in mine))]) {
    const m = merge(base[key], mine[key], theirs[key], at ? `${at}/${key}` : key)
    if (m.value !== undefined) out[key] = m.value
    conflicts.push(...m.conflicts)
  }
  // Settings stand under the name of the kind: those of a kind that it no longer has go with it.
  for (const kind of [base.kind, mine.kind, theirs.kind])
    if (typeof kind === 'string' && kind !== out.kind) Reflect.deleteProperty(out, kind)
  return { value: out, conflicts }
}

function mergeLists(base: Plain[], mine: Plain[], theirs: Plain[], at: string): Merged {
  const find = (list: Plain[], name: string) => list.find((v) => nameOf(v) === name)
  const conflicts: string[] = []
  const out: Plain[] = []
  for (const v of mine) {
    const name = nameOf(v)!
    const before = find(base, name)
    const other = find(theirs, name)
    const where = `${at}/${name}`
    if (other === undefined && before !== undefined) {
      // They took it out: it goes, unless I changed it.
      if (!same(before, v)) {
        conflicts.push(where)
        out.push(v)
      }
      continue
    }
    const m = merge(before, v, other, where)
    conflicts.push(...m.conflicts)
    out.push(m.value!)
  }
  theirs.forEach((v, i) => {
    const name = nameOf(v)!
    if (find(mine, name) !== undefined) return
    const before = find(base, name)
    if (before !== undefined) {
      // I took it out: it stays out, unless they changed it.
      if (same(before, v)) return
      conflicts.push(`${at}/${name}`)
      return
    }
    const ahead = theirs.slice(0, i).map(nameOf).reverse()
    const behind = ahead.map((n) => out.findIndex((o) => nameOf(o) === n)).find((n) => n >= 0)
    out.splice(behind === undefined ? 0 : behind + 1, 0, v)
  })
  return { value: out, conflicts }
}
