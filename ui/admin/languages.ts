import { t } from './words'

/** The languages that forms and notices can be written in besides their own, by BCP 47. */
export const languages = (): Record<string, string> => ({
  en: t('form.english'),
  de: t('form.german'),
  fr: t('form.french'),
  es: t('form.spanish'),
  pl: t('form.polish'),
  ar: t('form.arabic'),
  he: t('form.hebrew'),
})

/** A language as people call it. */
export const languageName = (tag: string) => languages()[tag.split('-')[0] ?? ''] ?? tag
