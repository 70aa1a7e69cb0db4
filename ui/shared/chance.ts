/** Chance for tests: a generator of its own (a linear congruence, Numerical Recipes), so that each run tries the same. */
export function chance(seed: number) {
  let s = seed
  const below = (n: number) => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return Math.floor((s / 2 ** 32) * n)
  }
  const one = <T>(list: readonly T[]): T => list[below(list.length)]!
  return { below, one, often: (share: number) => below(100) < share }
}
