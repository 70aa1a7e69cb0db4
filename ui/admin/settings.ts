/** Settings with one of them set, or left out where it is nothing. */
export function put<T extends object, K extends keyof T>(settings: T, of: K, to: T[K] | undefined): T {
  const rest = Object.entries(settings).filter(([k]) => k !== of)
  return Object.fromEntries(to === undefined ? rest : [...rest, [of, to]]) as T
}
