import { onScopeDispose } from 'vue'

/** Calls again whenever something changed in the house, without reloading the page. Set up once for each view. */
export function onChange(again: () => void) {
  const source = new EventSource('/api/events')
  source.onmessage = again
  // After a lost connection the browser connects again by itself; what happened meanwhile is read then.
  let lost = false
  source.onerror = () => (lost = true)
  source.onopen = () => {
    if (lost) again()
    lost = false
  }
  onScopeDispose(() => source.close())
}
