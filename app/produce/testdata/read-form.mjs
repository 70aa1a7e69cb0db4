// Prints what a form holds, as a library of JavaScript reads it.
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'
const { PDFDocument } = createRequire(new URL('../../../ui/package.json', import.meta.url))('pdf-lib')
const pdf = await PDFDocument.load(readFileSync(process.argv[2]))
const out = {}
for (const f of pdf.getForm().getFields()) {
  const kind = f.constructor.name
  if (kind === 'PDFTextField') out[f.getName()] = f.getText() ?? ''
  else if (kind === 'PDFCheckBox') out[f.getName()] = String(f.isChecked())
  else if (kind === 'PDFRadioGroup' || kind === 'PDFDropdown') out[f.getName()] = String(f.getSelected() ?? '')
}
console.log(JSON.stringify(out))
