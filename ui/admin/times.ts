const moment = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' })
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })
const full = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'medium' })

/** 24 Nov, 09:41 */
export const asMoment = (iso: string) => moment.format(new Date(iso))
/** 3 November */
export const asDay = (iso: string) => day.format(new Date(iso))
/** 09:45 */
export const asClock = (iso: string) => clock.format(new Date(iso))
/** 24 November 2026 at 09:41:07 */
export const asFull = (iso: string) => full.format(new Date(iso))

const kilobytes = new Intl.NumberFormat('en-GB', { style: 'unit', unit: 'kilobyte' })
const megabytes = new Intl.NumberFormat('en-GB', {
  style: 'unit',
  unit: 'megabyte',
  minimumFractionDigits: 1,
  maximumFractionDigits: 1,
})

/** 12 kB */
export function asSize(bytes: number): string {
  return bytes < 1e6 ? kilobytes.format(Math.max(1, Math.round(bytes / 1000))) : megabytes.format(bytes / 1e6)
}
