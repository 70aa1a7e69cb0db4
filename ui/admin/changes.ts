import { onScopeDispose, ref } from 'vue'

/** Whether changes in the house are heard of: false while the connection is lost. */
export const live = ref(true)

const listeners = new Set<() => void>()
const pauses = [1, 2, 5, 10, 20, 30]
const mostOften = 1000

let last = 0
let pending: number | undefined
/** Tells everybody at most once a second: while the crew works much changes at once. */
function tell() {
  if (pending !== undefined) return
  pending = window.setTimeout(
    () => {
      pending = undefined
      last = Date.now()
      for (const l of listeners) l()
    },
    Math.max(0, last + mostOften - Date.now()),
  )
}

// Browsers keep few connections to one server: one tab holds the stream and tells the others of the same browser.
const channel = 'BroadcastChannel' in window ? new BroadcastChannel('amberseal') : undefined
channel?.addEventListener('message', (e: MessageEvent<{ live: boolean; changed: boolean }>) => {
  live.value = e.data.live
  if (e.data.changed) tell()
})
function say(changed: boolean) {
  channel?.postMessage({ live: live.value, changed })
  if (changed) tell()
}

let source: EventSource | undefined
let failures = 0
function connect() {
  source?.close()
  source = new EventSource('/api/events')
  source.onmessage = () => say(true)
  source.onopen = () => {
    const lost = !live.value || failures > 0
    failures = 0
    live.value = true
    say(lost) // what happened meanwhile is read now
  }
  source.onerror = () => {
    live.value = false
    say(false)
    // The browser connects again by itself, but for an answer that is none, as a proxy gives while the program is started anew.
    if (source?.readyState !== EventSource.CLOSED) return
    const pause = pauses[Math.min(failures++, pauses.length - 1)]! * 1000
    setTimeout(connect, pause * (0.8 + Math.random() * 0.4))
  }
}

let begun = false
function begin() {
  if (begun) return
  begun = true
  // Whoever holds the lock holds the stream; when that tab is closed the next one takes over. Pages without HTTPS have no locks, and
  // streams of their own while they are seen.
  if ('locks' in navigator && channel) {
    void navigator.locks.request('amberseal-events', () => {
      connect()
      return new Promise(() => undefined)
    })
  } else {
    connect()
  }
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') {
      if (!('locks' in navigator)) connect()
      tell()
    } else if (!('locks' in navigator)) {
      source?.close()
    }
  })
}

/** Calls again whenever something changed in the house, without reloading the page. Set up once for each view. */
export function onChange(again: () => void) {
  begin()
  listeners.add(again)
  onScopeDispose(() => listeners.delete(again))
}
