// Makes the files node-*.docx with the library “docx” of npm. Run by hand: npm i docx, then node make.mjs; the files are kept.
import { createRequire } from 'node:module'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
const d = createRequire(join(process.cwd(), 'x.js'))('docx')

let seed = 11
const random = () => ((seed = (seed * 1103515245 + 12345) % 2147483648), seed / 2147483648)
const words =
  'bow hair violin repair workshop agreement hire instrument player guardian deposit month string bridge varnish receipt invoice number name address delivery condition insurance payment care season damage return letter report because however although between after before under without several another important'.split(
    ' ',
  )
const some = (n) => Array.from({ length: n }, () => words[Math.floor(random() * words.length)]).join(' ')
const sentence = (n = 6 + Math.floor(random() * 16)) => {
  const s = some(n)
  return s[0].toUpperCase() + s.slice(1) + '.'
}
const text = (n = 4) => Array.from({ length: n }, () => sentence()).join(' ')
const p = (x = text(), more = {}) => new d.Paragraph({ children: [new d.TextRun(x)], ...more })
const h = (x, level = 'Heading1') => new d.Paragraph({ text: x, heading: level })
const many = (n, make) => Array.from({ length: n }, (_, i) => make(i))
const cell = (x, more = {}) => new d.TableCell({ children: [p(x)], ...more })
const row = (...cells) => new d.TableRow({ children: cells })

const files = {
  letter: { sections: [{ children: [p('Tarn Hollow'), p('4 Weir Lane'), p('Dear reader,'), ...many(8, () => p(text(5)))] }] },
  contract: {
    styles: { default: { document: { run: { font: 'Calibri', size: 22 } } } },
    sections: [{ children: many(9, (i) => [h(`${i + 1}. ${sentence(3)}`), p(), p(text(6)), p()]).flat() }],
  },
  spaced: {
    styles: { default: { document: { run: { font: 'Times New Roman', size: 24 }, paragraph: { spacing: { after: 160, line: 276, lineRule: d.LineRuleType.AUTO } } } } },
    sections: [{ children: many(16, () => p(text(6), { alignment: d.AlignmentType.JUSTIFIED })) }],
  },
  lists: {
    numbering: {
      config: [
        {
          reference: 'legal',
          levels: [0, 1, 2].map((level) => ({
            level,
            format: d.LevelFormat.DECIMAL,
            text: ['%1.', '%1.%2', '%1.%2.%3'][level],
            alignment: d.AlignmentType.START,
            style: { paragraph: { indent: { left: 500 + 500 * level, hanging: 400 + 100 * level } } },
          })),
        },
      ],
    },
    sections: [{ children: many(36, (i) => p(sentence(20), { numbering: { reference: 'legal', level: [0, 1, 1, 2][i % 4] } })) }],
  },
  bullets: { sections: [{ children: many(40, (i) => p(sentence(14), { bullet: { level: i % 3 } })) }] },
  table: {
    sections: [
      {
        children: [
          p(),
          new d.Table({
            width: { size: 100, type: d.WidthType.PERCENTAGE },
            rows: [
              new d.TableRow({ tableHeader: true, children: ['Part', 'Words', 'Price'].map((x) => cell(x)) }),
              ...many(40, (i) => row(cell(some(2)), cell(sentence(8)), cell(String(i * 7)))),
            ],
          }),
          p(),
        ],
      },
    ],
  },
  fixed: {
    sections: [
      {
        children: [
          new d.Table({
            columnWidths: [2000, 5000, 1500],
            layout: d.TableLayoutType.FIXED,
            rows: many(24, () => row(cell(some(2)), cell(sentence(12)), cell(some(1)))),
          }),
        ],
      },
    ],
  },
  merged: {
    sections: [
      {
        children: [
          p(),
          new d.Table({
            columnWidths: [2200, 2200, 2200, 2200],
            rows: [
              row(cell('Over two', { columnSpan: 2 }), cell('three'), cell('four')),
              row(cell('Down two', { rowSpan: 2 }), cell(sentence(5)), cell('b'), cell('c')),
              row(cell('x'), cell('y'), cell(sentence(6))),
              ...many(10, () => row(cell(some(1)), cell(some(3)), cell(some(5)), cell(some(2)))),
            ],
          }),
          p(),
        ],
      },
    ],
  },
  headers: {
    sections: [
      {
        headers: { default: new d.Header({ children: [p('Tarn Hollow Instrument Works')] }) },
        footers: {
          default: new d.Footer({
            children: [
              new d.Paragraph({
                alignment: d.AlignmentType.CENTER,
                children: [new d.TextRun({ children: ['Page ', d.PageNumber.CURRENT, ' of ', d.PageNumber.TOTAL_PAGES] })],
              }),
            ],
          }),
        },
        children: many(20, () => p(text(6))),
      },
    ],
  },
  sections: {
    sections: [
      { children: many(6, () => p(text(5))) },
      {
        properties: { page: { size: { orientation: d.PageOrientation.LANDSCAPE, width: 11906, height: 16838 } } },
        children: many(6, () => p(text(5))),
      },
      { properties: { page: { margin: { left: 2800, right: 2800 } } }, children: many(6, () => p(text(5))) },
    ],
  },
  tabs: {
    sections: [
      {
        children: many(30, (i) =>
          new d.Paragraph({
            tabStops: [{ type: d.TabStopType.RIGHT, position: 9000, leader: d.LeaderType.DOT }],
            children: [new d.TextRun(`${sentence(4)}\t${i * 13}`)],
          }),
        ),
      },
    ],
  },
  framed: {
    sections: [
      {
        children: many(12, (i) =>
          p(text(3), {
            border: i % 2 ? { top: { style: 'single', size: 6, space: 4, color: '1F4F4A' }, bottom: { style: 'single', size: 6, space: 4 } } : undefined,
            shading: i % 3 ? undefined : { type: d.ShadingType.CLEAR, fill: 'E8EEEC' },
            indent: { left: (i % 3) * 400, firstLine: 300 },
          }),
        ),
      },
    ],
  },
  columns: { sections: [{ properties: { column: { count: 2, space: 700 } }, children: many(16, () => p(text(5))) }] },
  notes: {
    footnotes: Object.fromEntries(many(6, (i) => [i + 1, { children: [p(sentence(12))] }])),
    sections: [
      {
        children: many(14, (i) =>
          new d.Paragraph({
            children: [new d.TextRun(text(4)), ...(i % 2 ? [] : [new d.FootnoteReferenceRun(Math.min(6, i / 2 + 1))])],
          }),
        ),
      },
    ],
  },
  rightward: {
    sections: [
      {
        children: many(10, () =>
          new d.Paragraph({
            bidirectional: true,
            children: [
              new d.TextRun({
                text: many(40, () => many(2 + Math.floor(random() * 6), () => 'אבגדהוזחטיכלמנסעפצקרשת'[Math.floor(random() * 22)]).join('')).join(' '),
                rightToLeft: true,
              }),
            ],
          }),
        ),
      },
    ],
  },
  invoice: {
    sections: [
      {
        children: [
          p('Tarn Hollow', { alignment: d.AlignmentType.RIGHT }),
          p('4 Weir Lane', { alignment: d.AlignmentType.RIGHT }),
          h('Invoice'),
          new d.Table({
            width: { size: 9000, type: d.WidthType.DXA },
            columnWidths: [1200, 5400, 2400],
            rows: many(12, (i) =>
              row(cell(String(i + 1)), cell(sentence(7)), new d.TableCell({ children: [p(`${i * 17}.00`, { alignment: d.AlignmentType.RIGHT })] })),
            ),
          }),
          p(),
          p('Thank you.'),
        ],
      },
    ],
  },
  breaks: { sections: [{ children: many(8, (i) => p(text(4), { pageBreakBefore: i % 3 === 2, keepNext: i % 2 === 0, keepLines: true })) }] },
}
for (const [name, file] of Object.entries(files)) writeFileSync(`node-${name}.docx`, await d.Packer.toBuffer(new d.Document(file)))
