import type { Option } from '../parts/ListChoice.vue'

const english = (type: 'language' | 'region' | 'currency') => new Intl.DisplayNames('en-GB', { type })

/** Every time zone by its place, with how far its clock is from Greenwich now. */
export function zones(): Option<string>[] {
  const now = new Date()
  const offset = (zone: string) =>
    new Intl.DateTimeFormat('en-GB', { timeZone: zone, timeZoneName: 'longOffset' })
      .formatToParts(now)
      .find((p) => p.type === 'timeZoneName')?.value ?? ''
  return ['UTC', ...Intl.supportedValuesOf('timeZone').filter((z) => z !== 'UTC')].map((zone) => {
    const place = zone.split('/').slice(1).reverse().join(', ').replace(/_/g, ' ')
    return { value: zone, words: place || zone, note: `${zone}, ${offset(zone)}` }
  })
}

/** Every currency by its name. */
export function currencies(): Option<string>[] {
  const names = english('currency')
  return Intl.supportedValuesOf('currency').map((code) => ({ value: code, words: names.of(code) ?? code, note: code }))
}

/** The languages that documents can be in. */
export const languages: Option<string>[] = ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'es-ES', 'pl-PL', 'ja-JP'].map(
  (code) => ({
    value: code,
    words: english('language').of(code) ?? code,
    note: code,
  }),
)

/** Codes that ISO 3166 leaves to users, or that name no country. */
const noCountry = /^(A[A]|Q[M-Z]|X[A-Z]|Z[Z]|EU|EZ|UN)$/

/** Countries by the names they have in English. */
export function countries(): Option<string>[] {
  const names = english('region')
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
  return letters
    .flatMap((a) => letters.map((b) => a + b))
    .filter((code) => !noCountry.test(code) && names.of(code) !== code)
    .map((code) => ({ value: code, words: names.of(code)!, note: code }))
}
