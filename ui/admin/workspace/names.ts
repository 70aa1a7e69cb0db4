/** A name that formulas and files can use, made of words: small letters, figures and underscores; `otherwise` where nothing is left. */
export function plainName(words: string, otherwise: string): string {
  const plain = words
    .normalize('NFD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '')
  return plain || otherwise
}
