// Makes pdflib.pdf, a form as a library of JavaScript writes it. Run by hand: node make.mjs, beside ui/node_modules.
import { createRequire } from 'node:module'
import { writeFileSync } from 'node:fs'
const { PDFDocument, StandardFonts } = createRequire(new URL('../../../../ui/package.json', import.meta.url))('pdf-lib')

const pdf = await PDFDocument.create({ updateMetadata: false })
pdf.setTitle('Notice of insurance')
const page = pdf.addPage([595, 842])
const font = await pdf.embedFont(StandardFonts.Helvetica)
page.drawText('Notice of insurance', { x: 60, y: 790, size: 14, font })
const form = pdf.getForm()
let y = 740
for (const name of ['holder', 'Email address', 'Date of birth', 'serial number']) {
  page.drawText(name, { x: 60, y: y + 6, size: 10, font })
  form.createTextField(name).addToPage(page, { x: 180, y, width: 220, height: 20 })
  y -= 30
}
const notes = form.createTextField('notes')
notes.enableMultiline()
notes.setText('as it was')
notes.addToPage(page, { x: 180, y: y - 40, width: 220, height: 60 })
y -= 80
for (const name of ['theft', 'damage', 'travel']) {
  form.createCheckBox(`cover.${name}`).addToPage(page, { x: 180, y, width: 14, height: 14 })
  y -= 20
}
const kind = form.createRadioGroup('kind')
kind.addOptionToPage('A new policy', page, { x: 180, y, width: 14, height: 14 })
kind.addOptionToPage('A renewal', page, { x: 240, y, width: 14, height: 14 })
y -= 30
const paid = form.createDropdown('paid')
paid.addOptions(['Yes', 'No'])
paid.addToPage(page, { x: 180, y, width: 100, height: 18 })
form.createButton('photo').addToPage('Photo', page, { x: 420, y: 700, width: 100, height: 80 })
writeFileSync(new URL('pdflib.pdf', import.meta.url), await pdf.save({ addDefaultPage: false }))
