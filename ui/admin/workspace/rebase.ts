import { merge, type Plain } from './merge'

/**
 * States of a design, each as JSON, as they would be had somebody else's change come before them: to go back to one takes back mine and
 * nothing of theirs. They are ordered towards the present, and begin behind the last one in which both changed the same.
 */
export function rebased(states: string[], base: string, theirs: string): string[] {
  const out: string[] = []
  for (let i = states.length - 1; i >= 0; i--) {
    const m = merge(JSON.parse(base) as Plain, JSON.parse(states[i]!) as Plain, JSON.parse(theirs) as Plain)
    if (m.conflicts.length) break
    out.unshift(JSON.stringify(m.value))
  }
  return out
}
