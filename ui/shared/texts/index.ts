import { en, type Texts } from './en'

export type { Texts }
export { en }

const others: Record<string, () => Promise<{ texts: Texts }>> = {
  de: () => import('./de'),
  fr: () => import('./fr'),
  es: () => import('./es'),
  pl: () => import('./pl'),
}

/** The texts of a language; English where it is not known. */
export async function textsOf(language: string): Promise<Texts> {
  const load = others[language.split('-')[0] ?? '']
  return load ? (await load()).texts : en
}

/** The language that our own words are in on a page of a language: English where it is not known. */
export function ownLanguage(language: string): string {
  const base = language.split('-')[0] ?? ''
  return base === 'en' || base in others ? base : 'en'
}

export const sameLanguage = (a: string, b: string) => a.split('-')[0] === b.split('-')[0]

/** Puts values in the place of names in braces. */
export function filled(text: string, values: Record<string, string | number>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => String(values[name] ?? whole))
}

/** Languages written from right to left. */
export function direction(language: string): 'rtl' | 'ltr' {
  return /^(ar|he|fa|ur|yi|ps|sd|ckb|dv)\b/.test(language) ? 'rtl' : 'ltr'
}
