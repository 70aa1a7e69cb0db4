/** The signs that part decimals and groups of three digits in a language. */
function signs(language: string): { decimal: string; group: string } {
  const parts = new Intl.NumberFormat(language).formatToParts(12345678.5)
  const of = (type: string) => parts.find((p) => p.type === type)?.value ?? ''
  return { decimal: of('decimal') || '.', group: of('group').replace(/\s/g, ' ') }
}

/** Takes the signs between groups of three digits out; undefined where they do not stand as in a number. */
function ungrouped(whole: string, groups: string[]): string | undefined {
  if (/^\d*$/.test(whole)) return whole
  for (const g of groups) {
    const parts = whole.split(g)
    // A group never follows a 0 that stands alone.
    if (parts.length < 2 || !/^[1-9]\d{0,2}$/.test(parts[0]!)) continue
    if (parts.slice(1).every((p) => /^\d{3}$/.test(p))) return parts.join('')
  }
  return undefined
}

/**
 * Turns a number as people of a language type it into plain digits with a point, as the server reads it; the server reads filled
 * copies in the same way. A decimal sign of another language is taken where it can mean nothing else. What is no number is passed on
 * unchanged, so that the server's message names what was typed.
 */
export function plainNumber(typed: string, language: string): string {
  const { decimal, group } = signs(language)
  const text = typed
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\s\u00a0\u202f\u2009]/g, ' ')
    .replaceAll('’', "'")
  const [, sign = '', rest = ''] = /^([+-]?)\s*(.*)$/.exec(text) ?? []
  const minus = sign === '-' ? '-' : ''
  const other = decimal === ',' ? '.' : ','
  const groups = [' ', "'", ...(group === other ? [other] : [])]
  const [whole = '', fraction, more] = rest.split(decimal)
  const plain = ungrouped(whole, groups)
  if (plain !== undefined && more === undefined && (fraction === undefined ? plain !== '' : /^\d+$/.test(fraction))) {
    return minus + (plain || '0') + (fraction === undefined ? '' : `.${fraction}`)
  }
  const foreign = new RegExp(`^(\\d*)\\${other}(\\d+)$`).exec(rest)
  return foreign ? `${minus}${foreign[1] || '0'}.${foreign[2]}` : typed
}
