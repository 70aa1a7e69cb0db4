import { nextTick, watch } from 'vue'
import { useIntake } from './intake'

/**
 * After undo and redo by keyboard the focus is on the line that came back, or follows its line to where that now stands.
 * `names` are those of the lines, in order.
 */
export function useFocusAfterUndo(names: () => string[], focusHead: (i: number) => Promise<void>) {
  const { stepped } = useIntake()
  let shown: string[] = []
  watch(names, (now) => (shown = now), { immediate: true, flush: 'post' })
  watch(
    stepped,
    async () => {
      const before = shown
      const at = document.activeElement
      const head = at?.closest<HTMLElement>('[data-head]')
      if (!head && at !== document.body) return
      const focused = head ? before[Number(head.dataset.head)] : undefined
      await nextTick()
      const now = names()
      const back = now.filter((n) => !before.includes(n))
      const to = now.indexOf(back.length === 1 ? back[0]! : (focused ?? ''))
      if (to >= 0) await focusHead(to)
    },
    { flush: 'sync' },
  )
}
