import { autoUpdate, computePosition, flip, offset, shift, size } from '@floating-ui/dom'
import { defineComponent, getCurrentInstance, onBeforeUnmount, onMounted } from 'vue'

const tallest = 360
const least = 96

/**
 * Stands inside a panel that opens and keeps it beside what opened it, inside the window, also where what holds both scrolls. It shows
 * nothing itself: it comes with what is in the panel and goes with it.
 */
export const PanelPlace = defineComponent({
  props: { anchor: { type: Object, default: undefined }, narrow: Boolean },
  setup(props) {
    const self = getCurrentInstance()
    let end: (() => void) | undefined
    onMounted(() => {
      const to = (self?.proxy?.$el as Node | undefined)?.parentElement
      const from = (props.anchor instanceof HTMLElement ? props.anchor : (props.anchor as { $el?: unknown })?.$el) as
        HTMLElement | undefined
      if (!to || !from) return
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
                to.style.maxHeight = `${Math.max(least, Math.min(availableHeight, tallest))}px`
                if (!props.narrow) to.style.minWidth = `${rects.reference.width}px`
              },
            }),
          ],
        })
        Object.assign(to.style, { left: `${x}px`, top: `${y}px` })
      })
    })
    onBeforeUnmount(() => end?.())
    return () => null
  },
})
