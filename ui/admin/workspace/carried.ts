import type { Design, Enclosure, PaperDocument } from '../../shared/types'
import { t } from '../words'

export type Form = NonNullable<Enclosure['as']>

/** The form in which a document goes. */
export const formOf = (e: Enclosure | undefined): Form => e?.as ?? 'pdf'

/** The forms in which a document can go: a word-processor file that was brought also as it is. */
export const formsOf = (d: PaperDocument): { form: Form; words: string }[] =>
  /\.docx$/i.test(d.file ?? '')
    ? [
        { form: 'pdf', words: t('notices.asPdf', { name: d.name }) },
        { form: 'docx', words: t('notices.asWord', { name: d.name }) },
      ]
    : [{ form: 'pdf', words: d.name }]

/** What is carried, in a few words. */
export function carriedWords(list: Enclosure[], design: Design): string {
  return list
    .map((e) => {
      if (e.files)
        return t('workspace.filesOf', { label: design.form.fields.find((f) => f.key === e.files)?.label ?? e.files })
      if (e.house) return t('workspace.fixedFile', { name: e.house })
      if (e.answers) return t('workspace.answersAsData')
      const d = design.documents.find((x) => x.key === e.document)
      return d
        ? (formsOf(d).find((f) => f.form === formOf(e))?.words ?? d.name)
        : t('filing.noSuchDocument', { key: e.document ?? '' })
    })
    .join(', ')
}
