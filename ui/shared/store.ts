/**
 * What the browser keeps. A store may be forbidden (a frame of another site, a private window) or full: then nothing is kept, and
 * nothing breaks.
 */
function guarded(of: () => Storage) {
  return {
    get(key: string): string | null {
      try {
        return of().getItem(key)
      } catch {
        return null
      }
    },
    /** Whether it was kept. */
    set(key: string, value: string): boolean {
      try {
        of().setItem(key, value)
        return true
      } catch {
        return false
      }
    },
    remove(key: string) {
      try {
        of().removeItem(key)
      } catch {
        // What was never kept need not be removed.
      }
    },
    keys(): string[] {
      try {
        const s = of()
        return Array.from({ length: s.length }, (_, i) => s.key(i) ?? '')
      } catch {
        return []
      }
    },
  }
}

/** Kept until it is removed. */
export const store = guarded(() => window.localStorage)
/** Kept while the tab is open. */
export const tabStore = guarded(() => window.sessionStorage)
