import type { Enclosure, PaperDocument } from '../../shared/types'
import { t } from '../words'

export type Form = NonNullable<Enclosure['as']>

/** The form in which a document goes. */
export const formOf = (e: Enclosure | undefined): Form => e?.as ?? 'pdf'

/** A document that goes in a form. */
export const enclosed = (document: string, form: Form): Enclosure =>
  form === 'docx' ? { document, as: form } : { document }

/** The forms in which a document can go: a word-processor file that was brought also as it is. */
export const formsOf = (d: PaperDocument): { form: Form; words: string }[] =>
  /\.docx$/i.test(d.file ?? '')
    ? [
        { form: 'pdf', words: t('notices.asPdf', { name: d.name }) },
        { form: 'docx', words: t('notices.asWord', { name: d.name }) },
      ]
    : [{ form: 'pdf', words: d.name }]
