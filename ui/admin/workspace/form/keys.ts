import type { Field, Paragraph, Span } from '../../../shared/types'
import { useIntake } from '../intake'

/** Renames a field's key everywhere in the design at once: placeholders, chosen answers and conditions. */
export function useKeyChange() {
  const { design } = useIntake()

  function rename(field: Field, wanted: string) {
    const from = field.key
    const to = wanted.trim()
    const d = design.value
    if (!d || from === to) return
    field.key = to
    const inSpans = (spans: Span[]) => spans.forEach((s) => s.field === from && (s.field = to))
    const inBody = (body: Paragraph[] | undefined) => body?.forEach((p) => inSpans(p.spans))
    const inWhen = (x: { when?: string }) => {
      if (x.when) x.when = renameInFormula(x.when, from, to)
    }
    for (const doc of d.documents) {
      inWhen(doc)
      for (const spans of [doc.title, doc.fileName, doc.footer]) inSpans(spans)
      for (const b of doc.blocks) {
        inWhen(b)
        inSpans(b.text ?? [])
        inBody(b.body)
        if (b.fields) b.fields = b.fields.map((k) => (k === from ? to : k))
      }
    }
    for (const n of d.notices) {
      inWhen(n)
      inSpans(n.to)
      inSpans(n.subject)
      inBody(n.message)
    }
    for (const f of d.filings) {
      inWhen(f)
      inSpans(f.path)
    }
  }
  return { rename }
}

/** Replaces a name in a formula, but not inside its texts in double quotes. */
export function renameInFormula(source: string, from: string, to: string): string {
  return source.replace(/"(?:[^"]|"")*"|[A-Za-z_][A-Za-z0-9_.]*/g, (part) => (part === from ? to : part))
}
