import { Extension, InputRule, Node, type JSONContent } from '@tiptap/core'
import type { Paragraph, Span } from '../../shared/types'

/** A placeholder in a phrase, shown as a chip. */
export const Placeholder = Node.create<{
  describe: (attrs: Record<string, unknown>) => { text: string; fault: boolean }
}>({
  name: 'placeholder',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  marks: '_',
  addOptions() {
    return { describe: () => ({ text: '', fault: false }) }
  },
  addAttributes() {
    return { field: { default: '' }, format: { default: '' }, empty: { default: '' } }
  },
  parseHTML() {
    return [
      {
        tag: 'span[data-placeholder]',
        getAttrs: (e) => ({
          field: e.dataset.placeholder,
          format: e.dataset.format ?? '',
          empty: e.dataset.empty ?? '',
        }),
      },
    ]
  },
  renderHTML({ node }) {
    return [
      'span',
      { 'data-placeholder': node.attrs.field, 'data-format': node.attrs.format, 'data-empty': node.attrs.empty },
    ]
  },
  addNodeView() {
    return ({ node }) => {
      const dom = document.createElement('span')
      const { text, fault } = this.options.describe(node.attrs)
      dom.className = fault ? 'chip chip-fault' : 'chip'
      dom.textContent = text
      dom.dataset.placeholder = String(node.attrs.field)
      dom.contentEditable = 'false'
      return { dom }
    }
  },
  addInputRules() {
    // A typed {{key}} becomes a chip.
    return [
      new InputRule({
        find: /\{\{\s*(@?[a-z][a-z0-9_]*)\s*\}\}$/,
        handler: ({ range, match, chain }) => {
          chain()
            .deleteRange(range)
            .insertContent({ type: 'placeholder', attrs: { field: match[1] } })
            .run()
        },
      }),
    ]
  },
})

/** Keys that an editor passes on: the opening brace, and Enter in one line. */
export const Keys = Extension.create<{ brace: () => boolean; enter: () => boolean; oneLine: boolean }>({
  name: 'keys',
  addOptions() {
    return { brace: () => false, enter: () => false, oneLine: false }
  },
  addKeyboardShortcuts() {
    // With a chip selected the browser does not move by Home and End; in one line they mean its ends.
    const end = (at: 'start' | 'end') => () => this.options.oneLine && this.editor.commands.focus(at)
    return {
      '{': () => this.options.brace(),
      Enter: () => this.options.enter(),
      Home: end('start'),
      End: end('end'),
      'Mod-Home': end('start'),
      'Mod-End': end('end'),
    }
  },
})

function inlineOf(spans: Span[]): JSONContent[] {
  const out: JSONContent[] = []
  for (const s of spans) {
    const marks = [
      ...(s.bold ? [{ type: 'bold' }] : []),
      ...(s.italic ? [{ type: 'italic' }] : []),
      ...(s.underline ? [{ type: 'underline' }] : []),
      ...(s.link ? [{ type: 'link', attrs: { href: s.link } }] : []),
    ]
    if (s.field) {
      out.push({ type: 'placeholder', attrs: { field: s.field, format: s.format ?? '', empty: s.empty ?? '' }, marks })
      continue
    }
    ;(s.text ?? '').split('\n').forEach((text, i) => {
      if (i > 0) out.push({ type: 'hardBreak' })
      if (text) out.push({ type: 'text', text, marks })
    })
  }
  return out
}

function spansOf(nodes: JSONContent[] | undefined): Span[] {
  const out: Span[] = []
  for (const n of nodes ?? []) {
    const span: Span = {}
    for (const m of n.marks ?? []) {
      if (m.type === 'bold') span.bold = true
      if (m.type === 'italic') span.italic = true
      if (m.type === 'underline') span.underline = true
      if (m.type === 'link') span.link = String(m.attrs?.href ?? '')
    }
    if (n.type === 'placeholder') {
      span.field = String(n.attrs?.field ?? '')
      if (n.attrs?.format) span.format = String(n.attrs.format)
      if (n.attrs?.empty) span.empty = String(n.attrs.empty)
      out.push(span)
      continue
    }
    span.text = n.type === 'hardBreak' ? '\n' : (n.text ?? '')
    const before = out.at(-1)
    const look = (s: Span) => JSON.stringify([s.field, s.bold, s.italic, s.underline, s.link])
    if (before && !before.field && (n.type === 'hardBreak' || look(before) === look(span) || before.text === '\n')) {
      if (n.type === 'hardBreak' || look(before) === look(span)) {
        before.text = (before.text ?? '') + span.text
        continue
      }
    }
    out.push(span)
  }
  return out
}

/** Paragraphs as the editor holds them; items of one list stand together. */
export function toEditor(body: Paragraph[]): JSONContent {
  const content: JSONContent[] = []
  for (const p of body) {
    const paragraph: JSONContent = { type: 'paragraph', content: inlineOf(p.spans) }
    if (!p.list) {
      content.push(paragraph)
      continue
    }
    const type = p.list === 'bullet' ? 'bulletList' : 'orderedList'
    const item: JSONContent = { type: 'listItem', content: [paragraph] }
    const before = content.at(-1)
    if (before?.type === type) before.content?.push(item)
    else content.push({ type, content: [item] })
  }
  if (!content.length) content.push({ type: 'paragraph' })
  return { type: 'doc', content }
}

export function fromEditor(doc: JSONContent): Paragraph[] {
  const out: Paragraph[] = []
  for (const n of doc.content ?? []) {
    if (n.type === 'paragraph') {
      out.push({ spans: spansOf(n.content) })
      continue
    }
    const list = n.type === 'bulletList' ? 'bullet' : 'number'
    for (const item of n.content ?? []) {
      for (const p of item.content ?? []) if (p.type === 'paragraph') out.push({ spans: spansOf(p.content), list })
    }
  }
  while (out.length && !out.at(-1)!.spans.length) out.pop()
  return out
}
