import { autoUpdate, computePosition, flip, offset, shift, size } from '@floating-ui/dom'
import { onScopeDispose, watch, type Ref } from 'vue'

/**
 * Keeps a panel beside what opened it, inside the window, also where what holds both scrolls. The panel stands fixed; its size is at
 * most the room there is. Elements are those of components or plain ones.
 */
export function useFloating(anchor: Ref<unknown>, panel: Ref<unknown>, wide = true) {
  const element = (x: unknown): HTMLElement | undefined =>
    x instanceof HTMLElement ? x : ((x as { $el?: unknown } | undefined)?.$el as HTMLElement | undefined)
  let end: (() => void) | undefined
  watch(
    [anchor, panel],
    () => {
      end?.()
      end = undefined
      const from = element(anchor.value)
      const to = element(panel.value)
      if (!(from instanceof HTMLElement) || !(to instanceof HTMLElement)) return
      end = autoUpdate(from, to, async () => {
        const { x, y } = await computePosition(from, to, {
          strategy: 'fixed',
          placement: 'bottom-start',
          middleware: [
            offset(2),
            flip({ padding: 8 }),
            shift({ padding: 8 }),
            size({
              padding: 8,
              apply({ availableHeight, rects }) {
                to.style.maxHeight = `${Math.max(120, Math.min(availableHeight, 360))}px`
                if (wide) to.style.minWidth = `${rects.reference.width}px`
              },
            }),
          ],
        })
        Object.assign(to.style, { position: 'fixed', left: `${x}px`, top: `${y}px` })
      })
    },
    { flush: 'post' },
  )
  onScopeDispose(() => end?.())
}
