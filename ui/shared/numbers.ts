/** The sign that parts decimals in a language. */
function decimalSign(language: string): string {
  return new Intl.NumberFormat(language).formatToParts(1.5).find((p) => p.type === 'decimal')?.value ?? '.'
}

/**
 * Turns a number as people of a language type it into plain digits with a point, as the server reads it.
 * What is no number is passed on unchanged, so that the server's message names what was typed.
 */
export function plainNumber(typed: string, language: string): string {
  const decimal = decimalSign(language)
  const compact = typed.replace(/[\s\u00A0\u202F'’]/g, '').replace('−', '-')
  const group = decimal === ',' ? '.' : ','
  const parts = compact.split(decimal)
  const whole = parts[0] ?? ''
  // A lone group sign with other than three digits behind it was meant as the decimal sign.
  if (parts.length === 1 && whole.split(group).length === 2 && !/[.,]\d{3}$/.test(whole)) {
    return whole.replace(group, '.')
  }
  parts[0] = whole.replaceAll(group, '')
  const plain = parts.join('.')
  return /^[+-]?\d*\.?\d*$/.test(plain) ? plain : typed
}
