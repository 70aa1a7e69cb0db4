import { Extension, InputRule, Mark, Node, type JSONContent } from '@tiptap/core'
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
    return {
      field: { default: '' },
      format: { default: '' },
      empty: { default: '' },
      yes: { default: '' },
      no: { default: '' },
    }
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
        find: /\{\{\s*(@?[a-z][a-z0-9_]*(?:\.[a-z][a-z0-9_]*)?)\s*\}\}$/,
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

/** Marks that are on or off, by their name in the editor. */
const toggles = ['bold', 'italic', 'underline', 'strike', 'smallCaps'] as const
/** Marks that hold a value: the mark, its attribute and the span's member share a name. */
const valued = ['colour', 'size', 'when'] as const

/** A mark that is shown by a style or class of its element; the page's policy forbids styles in attributes. */
function look(name: string, dress: (dom: HTMLElement, value: string) => void) {
  return Mark.create({
    name,
    addAttributes() {
      return { value: { default: '' } }
    },
    parseHTML() {
      return [{ tag: `span[data-look="${name}"]`, getAttrs: (e) => ({ value: e.dataset.value ?? '' }) }]
    },
    renderHTML({ mark }) {
      return ['span', { 'data-look': name, 'data-value': String(mark.attrs.value) }, 0]
    },
    addMarkView() {
      return ({ mark }) => {
        const dom = document.createElement('span')
        dom.dataset.look = name
        dom.dataset.value = String(mark.attrs.value)
        dress(dom, String(mark.attrs.value))
        return { dom, contentDOM: dom }
      }
    },
  })
}
export const Strike = look('strike', (dom) => dom.classList.add('line-through'))
export const SmallCaps = look('smallCaps', (dom) => (dom.style.fontVariantCaps = 'small-caps'))
export const Colour = look('colour', (dom, value) => (dom.style.color = value))
export const Size = look('size', (dom, value) => (dom.style.fontSize = `${(Number(value) / 10.5) * 15}px`))
/** Words that stand there on a condition only. */
export const When = look('when', (dom, value) => {
  dom.classList.add('border-b-2', 'border-dotted', 'border-amber')
  dom.title = `when ${value}`
})

/** Where a paragraph's lines stand. */
export const Aligned = Extension.create({
  name: 'aligned',
  addGlobalAttributes() {
    return [
      {
        types: ['paragraph'],
        attributes: {
          align: {
            default: '',
            parseHTML: (e) => e.dataset.align ?? '',
            renderHTML: (attrs) =>
              attrs.align ? { 'data-align': String(attrs.align), class: `align-${attrs.align}` } : {},
          },
        },
      },
    ]
  },
})

function marksOf(s: Span): NonNullable<JSONContent['marks']> {
  return [
    ...toggles.filter((t) => s[t]).map((type) => ({ type })),
    ...valued
      .filter((v) => s[v] !== undefined && s[v] !== '')
      .map((type) => ({ type, attrs: { value: String(s[type]) } })),
    ...(s.link ? [{ type: 'link', attrs: { href: s.link } }] : []),
  ]
}

function inlineOf(spans: Span[]): JSONContent[] {
  const out: JSONContent[] = []
  for (const s of spans) {
    const marks = marksOf(s)
    if (s.field) {
      const { field, format = '', empty = '', yes = '', no = '' } = s
      out.push({ type: 'placeholder', attrs: { field, format, empty, yes, no }, marks })
      continue
    }
    ;(s.text ?? '').split('\n').forEach((text, i) => {
      if (i > 0) out.push({ type: 'hardBreak' })
      if (text) out.push({ type: 'text', text, marks })
    })
  }
  return out
}

/** The look of a node's words, as a span has it. */
function lookOf(n: JSONContent): Span {
  const span: Span = {}
  for (const m of n.marks ?? []) {
    const toggle = toggles.find((t) => t === m.type)
    if (toggle) span[toggle] = true
    const value = String(m.attrs?.value ?? '')
    if (m.type === 'colour') span.colour = value
    if (m.type === 'when') span.when = value
    if (m.type === 'size' && Number(value) > 0) span.size = Number(value)
    if (m.type === 'link') span.link = String(m.attrs?.href ?? '')
  }
  return span
}

function spansOf(nodes: JSONContent[] | undefined): Span[] {
  const out: Span[] = []
  const looks = (s: Span) => JSON.stringify([...toggles, ...valued, 'link' as const].map((k) => s[k] ?? null))
  for (const n of nodes ?? []) {
    const span = lookOf(n)
    if (n.type === 'placeholder') {
      span.field = String(n.attrs?.field ?? '')
      for (const key of ['format', 'empty', 'yes', 'no'] as const) if (n.attrs?.[key]) span[key] = String(n.attrs[key])
      out.push(span)
      continue
    }
    span.text = n.type === 'hardBreak' ? '\n' : (n.text ?? '')
    const before = out.at(-1)
    // A break has no look of its own: it goes with the words before it.
    if (before && !before.field && (n.type === 'hardBreak' || looks(before) === looks(span))) {
      before.text = (before.text ?? '') + span.text
      continue
    }
    out.push(span)
  }
  return out
}

/** Paragraphs as the editor holds them; items of one list stand together, deeper ones inside the item before them. */
export function toEditor(body: Paragraph[]): JSONContent {
  const content: JSONContent[] = []
  for (const p of body) {
    const paragraph: JSONContent = { type: 'paragraph', attrs: { align: p.align ?? '' }, content: inlineOf(p.spans) }
    if (!p.list) {
      content.push(paragraph)
      continue
    }
    const type = p.list === 'bullet' ? 'bulletList' : 'orderedList'
    let into = content
    for (let depth = p.depth ?? 0; depth > 0; depth--) {
      const item = into.at(-1)?.type?.endsWith('List') ? into.at(-1)?.content?.at(-1) : undefined
      if (!item?.content) break
      into = item.content
    }
    const item: JSONContent = { type: 'listItem', content: [paragraph] }
    const before = into.at(-1)
    if (before?.type === type) before.content?.push(item)
    else into.push({ type, content: [item] })
  }
  if (!content.length) content.push({ type: 'paragraph' })
  return { type: 'doc', content }
}

function itemsOf(list: JSONContent, depth: number): Paragraph[] {
  const kind = list.type === 'bulletList' ? 'bullet' : 'number'
  return (list.content ?? []).flatMap((item) =>
    (item.content ?? []).flatMap((n) =>
      n.type === 'paragraph'
        ? [{ ...paragraphOf(n), list: kind, ...(depth ? { depth } : {}) } satisfies Paragraph]
        : itemsOf(n, depth + 1),
    ),
  )
}

function paragraphOf(n: JSONContent): Paragraph {
  const align = n.attrs?.align as Paragraph['align'] | ''
  return { spans: spansOf(n.content), ...(align ? { align } : {}) }
}

export function fromEditor(doc: JSONContent): Paragraph[] {
  const out = (doc.content ?? []).flatMap((n) => (n.type === 'paragraph' ? [paragraphOf(n)] : itemsOf(n, 0)))
  while (out.length && !out.at(-1)!.spans.length) out.pop()
  return out
}
