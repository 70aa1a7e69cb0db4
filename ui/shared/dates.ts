/** Days as people write them in a language: in its order, and as the program keeps them. */

type Part = 'day' | 'month' | 'year'

/** The order of day, month and year in a language, and the sign between them. */
export function dayOrder(language: string): { order: Part[]; sign: string } {
  const parts = new Intl.DateTimeFormat(language, {
    day: '2-digit',
    month: '2-digit',
    year: 'numeric',
    calendar: 'gregory',
  })
    .formatToParts(new Date(2026, 10, 24))
    .filter((p) => ['day', 'month', 'year', 'literal'].includes(p.type))
  const order = parts.map((p) => p.type).filter((t): t is Part => t === 'day' || t === 'month' || t === 'year')
  const sign = parts.find((p) => p.type === 'literal')?.value.replace(/[^./-]/g, '') || '/'
  return { order, sign }
}

const two = (n: number) => String(n).padStart(2, '0')

/** A day as it is kept, 2026-11-24, as people of the language write it. */
export function written(iso: string, language: string): string {
  const m = /^(\d{4})-(\d{2})-(\d{2})/.exec(iso)
  if (!m) return ''
  const { order, sign } = dayOrder(language)
  const of = { year: m[1]!, month: m[2]!, day: m[3]! }
  return order.map((p) => of[p]).join(sign)
}

/** What the language’s order looks like, such as DD/MM/YYYY. */
export function pattern(language: string): string {
  const { order, sign } = dayOrder(language)
  return order.map((p) => ({ day: 'DD', month: 'MM', year: 'YYYY' })[p]).join(sign)
}

/** A typed day as it is kept, or nothing where it is none. Years of two figures are of this century; 2026-11-24 is always understood. */
export function readDay(typed: string, language: string): string | undefined {
  const numbers = typed
    .trim()
    .split(/[^\d]+/)
    .filter(Boolean)
  if (numbers.length !== 3) return undefined
  const order: Part[] = numbers[0]!.length === 4 ? ['year', 'month', 'day'] : dayOrder(language).order
  const of = Object.fromEntries(order.map((p, i) => [p, Number(numbers[i])])) as Record<Part, number>
  const year = of.year < 100 ? 2000 + of.year : of.year
  const date = new Date(Date.UTC(year, of.month - 1, of.day))
  date.setUTCFullYear(year)
  const same = date.getUTCMonth() === of.month - 1 && date.getUTCDate() === of.day
  return same && year > 999 && year < 10_000 ? isoOf(date) : undefined
}

export const isoOf = (date: Date): string =>
  `${date.getUTCFullYear()}-${two(date.getUTCMonth() + 1)}-${two(date.getUTCDate())}`

/** The day so many days later. */
export function later(iso: string, days: number): string {
  const date = new Date(`${iso}T00:00:00Z`)
  date.setUTCDate(date.getUTCDate() + days)
  return isoOf(date)
}

/** The same day so many months later, or the last of that month. */
export function monthsLater(iso: string, months: number): string {
  const [y, m, d] = iso.split('-').map(Number) as [number, number, number]
  const first = new Date(Date.UTC(y, m - 1 + months, 1))
  const last = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate()
  first.setUTCDate(Math.min(d, last))
  return isoOf(first)
}

/** The weeks that show a month, from the day on which weeks begin in the language. */
export function weeksOf(iso: string, language: string): string[][] {
  const locale = new Intl.Locale(language) as Intl.Locale & {
    getWeekInfo?: () => { firstDay: number }
    weekInfo?: { firstDay: number }
  }
  const begins = (locale.getWeekInfo?.() ?? locale.weekInfo)?.firstDay ?? 1
  const first = `${iso.slice(0, 8)}01`
  const back = (new Date(`${first}T00:00:00Z`).getUTCDay() - (begins % 7) + 7) % 7
  let day = later(first, -back)
  const weeks: string[][] = []
  do {
    weeks.push(Array.from({ length: 7 }, (_, i) => later(day, i)))
    day = later(day, 7)
  } while (day.slice(0, 7) === iso.slice(0, 7))
  return weeks
}
