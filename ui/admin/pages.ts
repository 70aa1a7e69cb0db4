import { computed, onMounted, ref, type Ref } from 'vue'
import { words } from './api'
import { onChange } from './changes'

const pageSize = 50

/** A list that can grow: its newest page keeps up by itself, older pages are asked for. */
export function usePages<T extends { id: number }>(ask: (before?: number) => Promise<T[]>) {
  const newest = ref() as Ref<T[] | undefined>
  const older = ref([]) as Ref<T[]>
  const end = ref(false)
  const problem = ref('')

  async function load() {
    try {
      newest.value = await ask()
      problem.value = ''
    } catch (e) {
      problem.value = words(e)
    }
  }
  async function loadOlder() {
    try {
      const next = await ask((older.value.at(-1) ?? newest.value?.at(-1))?.id)
      older.value.push(...next)
      end.value = next.length < pageSize
    } catch (e) {
      problem.value = words(e)
    }
  }
  onMounted(load)
  onChange(load)
  // A new line moves the last one of the newest page to where the older ones begin.
  const all = computed(() => {
    const first = newest.value ?? []
    const last = first.at(-1)?.id ?? Infinity
    return [...first, ...older.value.filter((x) => x.id < last)]
  })
  const more = computed(() => newest.value?.length === pageSize && !end.value)
  return { all, more, problem, loaded: computed(() => newest.value !== undefined), loadOlder }
}
