/** Letters that are no accented ones, as the core writes them in keys (core/ask/form, KeyFor). */
const latin: Record<string, string> = { ß: 'ss', ł: 'l', ø: 'o', æ: 'ae', œ: 'oe', đ: 'd', '’': '', "'": '' }

/** A name that formulas and files can use, made of words: small letters, figures and underscores; `otherwise` where nothing is left. */
export function plainName(words: string, otherwise: string): string {
  const plain = words
    .normalize('NFD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/[ßłøæœđ’']/g, (c) => latin[c]!)
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '')
  return plain || otherwise
}
