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

  function begin(first: P) {
    older.value = []
    page.value = first
    next.value = first.next
  }

  /** Reads the first page again. */
  async function load() {
    const before = page.value?.entries ?? []
    const first = await read()
    const last = first.entries.at(-1)?.id ?? Infinity
    const newest = before[0]?.id
    if (!older.value.length || newest === undefined || last > newest) {
      begin(first) // all of it is new: what lies between is not known
      return
    }
    const left = before.filter((e) => e.id < last)
    if (left.length) older.value = [left, ...older.value]
    page.value = first
  }

  /** Starts anew, as for other words or another intake. */
  async function start() {
    begin(await read())
  }

  async function loadOlder() {
    const further = await read(next.value)
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
