import { computed, shallowRef } from 'vue'

/** A page of a list, and where the one that follows begins. */
export interface Page<T> {
  entries: T[]
  next?: string
}

/**
 * Lines that are shown, newest first, as pages that came from the server: the first is read again when something changes, what it no
 * longer holds then goes to the older ones, so that no line is missing in between.
 */
export function usePages<T extends { id: number }, P extends Page<T> = Page<T>>(read: (cursor?: string) => Promise<P>) {
  const page = shallowRef<P>()
  const older = shallowRef<T[][]>([])
  const next = shallowRef<string>()

  let asked = 0
  /** Reads a first page; nothing where another was asked for meanwhile: the older answer never replaces the newer one. */
  async function first(): Promise<P | undefined> {
    const mine = ++asked
    const got = await read()
    return mine === asked ? got : undefined
  }

  function begin(first: P) {
    older.value = []
    page.value = first
    next.value = first.next
  }

  /** Reads the first page again. */
  async function load() {
    const got = await first()
    if (!got) return
    const before = page.value?.entries ?? []
    const last = got.entries.at(-1)?.id ?? Infinity
    const newest = before[0]?.id
    if (!older.value.length || newest === undefined || last > newest) {
      begin(got) // all of it is new: what lies between is not known
      return
    }
    const left = before.filter((e) => e.id < last)
    if (left.length) older.value = [left, ...older.value]
    page.value = got
  }

  /** Starts anew, as for other words or another intake. */
  async function start() {
    const got = await first()
    if (got) begin(got)
  }

  async function loadOlder() {
    const from = next.value
    const further = await read(from)
    if (next.value !== from) return // the list began anew meanwhile
    older.value = [...older.value, further.entries]
    next.value = further.next
  }

  const pages = computed(() => (page.value ? [page.value.entries, ...older.value] : []))
  return {
    page,
    pages,
    all: computed(() => pages.value.flat()),
    more: computed(() => !!next.value),
    load,
    start,
    loadOlder,
  }
}

/** All lines of a list, page by page. */
export async function everything<T>(read: (cursor?: string) => Promise<Page<T>>): Promise<T[]> {
  const all: T[] = []
  for (let cursor: string | undefined; ;) {
    const { entries, next } = await read(cursor)
    all.push(...entries)
    if (!next) return all
    cursor = next
  }
}
