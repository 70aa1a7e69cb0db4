import { computed, shallowRef } from 'vue'
import type { Entry, RegisterPage } from '../../shared/types'

/**
 * The entries that are shown, newest first, as pages that came from the server: the first is read again when something changes,
 * what it no longer holds then goes to the older ones, so that no entry is missing in between.
 */
export function useEntries(read: (before?: number) => Promise<RegisterPage>) {
  const page = shallowRef<RegisterPage>()
  const older = shallowRef<Entry[][]>([])
  const more = shallowRef(false)

  function begin(next: RegisterPage) {
    older.value = []
    page.value = next
    more.value = next.more
  }

  /** Reads the first page again. */
  async function load() {
    const before = page.value?.entries ?? []
    const next = await read()
    const last = next.entries.at(-1)?.id ?? Infinity
    const newest = before[0]?.id
    if (!older.value.length || newest === undefined || last > newest) {
      begin(next) // all of it is new: what lies between is not known
      return
    }
    const left = before.filter((e) => e.id < last)
    if (left.length) older.value = [left, ...older.value]
    page.value = next
  }

  /** Starts anew, as for other words or another intake. */
  async function start() {
    begin(await read())
  }

  async function loadOlder() {
    const last = (older.value.at(-1) ?? page.value?.entries)?.at(-1)
    const next = await read(last?.id)
    older.value = [...older.value, next.entries]
    more.value = next.more
  }

  const pages = computed(() => (page.value ? [page.value.entries, ...older.value] : []))
  return { page, pages, more, load, start, loadOlder }
}
