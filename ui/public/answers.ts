import { store } from '../shared/store'
import type { Typed } from '../shared/types'

type Answers = Record<string, Typed>
interface Kept {
  at: number
  answers: Answers
}

const prefix = 'amberseal:'
const keptFor = 30 * 24 * 3600 * 1000

/**
 * Answers of one form as this browser keeps them until they are sent, for thirty days at most. Two tabs share them: each writes
 * what was typed in it, and takes up what was typed in the other.
 */
export function keeper(name: string, changed: (theirs: Answers) => void) {
  const key = prefix + name
  const mine = new Set<string>()

  function read(): Answers {
    const text = store.get(key)
    if (!text) return {}
    try {
      const kept = JSON.parse(text) as Kept | Answers
      return 'at' in kept && typeof kept.at === 'number' ? (kept as Kept).answers : (kept as Answers)
    } catch {
      return {}
    }
  }

  /** Keeps the answers; those that another tab typed last stay as they are there. */
  function write(answers: Answers) {
    const theirs = Object.entries(read()).filter(([k]) => !mine.has(k))
    const both = { ...answers, ...Object.fromEntries(theirs) }
    store.set(key, JSON.stringify({ at: Date.now(), answers: both } satisfies Kept))
  }

  function touched(field: string) {
    mine.add(field)
  }

  function forget() {
    mine.clear()
    store.remove(key)
  }

  function listen(e: StorageEvent) {
    if (e.key !== key) return
    const theirs = Object.fromEntries(Object.entries(read()).filter(([k]) => !mine.has(k)))
    changed(theirs)
  }
  window.addEventListener('storage', listen)

  return { read, write, touched, forget }
}

/** Removes answers that nobody came back to. */
export function sweep(now = Date.now()) {
  for (const key of store.keys()) {
    if (!key.startsWith(prefix)) continue
    try {
      const kept = JSON.parse(store.get(key) ?? '{}') as Partial<Kept>
      if (typeof kept.at === 'number' && now - kept.at > keptFor) store.remove(key)
    } catch {
      // Not ours to judge.
    }
  }
}

interface Sending {
  at: number
  once: string
  /** Whether an answer was changed since. */
  changed: boolean
}

/** The key of a sending that was begun and never answered, kept beside the answers: whether it arrived can be asked by it. */
export function sendingOf(name: string) {
  const key = `${prefix}${name}+sending`
  function read(): Sending | undefined {
    try {
      const kept = JSON.parse(store.get(key) ?? 'null') as Sending | null
      return typeof kept?.once === 'string' ? kept : undefined
    } catch {
      return undefined
    }
  }
  return {
    read,
    begin: (once: string) => store.set(key, JSON.stringify({ at: Date.now(), once, changed: false } satisfies Sending)),
    change() {
      const kept = read()
      if (kept && !kept.changed) store.set(key, JSON.stringify({ ...kept, changed: true } satisfies Sending))
    },
    forget: () => store.remove(key),
  }
}

/** 128 random bits; randomUUID exists only on HTTPS pages. */
export function freshKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('')
}
