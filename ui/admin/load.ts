import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, data, words } from './api'
import { onChange } from './changes'
import { everything, usePages, type Page } from './pages'

/** Does what may go wrong, and says in problem what did. */
export function useDeed() {
  const problem = ref('')
  const busy = ref(false)
  /** Reports whether it was done. */
  async function run(deed: () => Promise<unknown>): Promise<boolean> {
    busy.value = true
    try {
      await deed()
      problem.value = ''
      return true
    } catch (e) {
      problem.value = words(e)
      return false
    } finally {
      busy.value = false
    }
  }
  return { problem, busy, run }
}

/** What a page reads at once, and again whenever something changes in the house; an answer that was overtaken is dropped. */
export function useLoad<T>(read: () => Promise<T>) {
  const value = shallowRef<T>()
  const { problem, busy, run } = useDeed()
  let asked = 0
  const load = () =>
    run(async () => {
      const mine = ++asked
      const got = await read()
      if (mine === asked) value.value = got
    })
  onMounted(load)
  onChange(load)
  return { value, problem, busy, load, run }
}

/** A list that grows by older pages and keeps up by itself. */
export function useList<T extends { id: number }, P extends Page<T> = Page<T>>(read: (cursor?: string) => Promise<P>) {
  const list = usePages<T, P>(read)
  const { problem, busy, run } = useDeed()
  const load = () => run(list.load)
  onMounted(load)
  onChange(load)
  return {
    ...list,
    loaded: computed(() => list.page.value !== undefined),
    problem,
    busy,
    run,
    load,
    start: () => run(list.start),
    loadOlder: () => run(list.loadOlder),
  }
}

/** The page of a list behind a cursor, as a query. */
export const behind = (cursor?: string) => (cursor ? { cursor } : {})

/** All intakes that the signed-in person sees, the last changed first. */
export const everyIntake = () =>
  everything((cursor) => data(api.GET('/api/intakes', { params: { query: behind(cursor) } })))
