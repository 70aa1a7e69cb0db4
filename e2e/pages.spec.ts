import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { accessible, expect, intakeOf, kept, openIntake, test } from './house'

type Mark = { kind: string; page: number; left: number; top: number; width: number; cells?: number }
type Design = {
  documents: { key: string; file?: string; marks?: Mark[]; matches?: object }[]
  form: { fields: { key: string }[] }
}

const forms = join(import.meta.dirname, '../core/foreign/ground/testdata')
const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' })

test('a PDF form is brought, matched and filled', async ({ desk: page, house }) => {
  await openIntake(page, 'Repair drop-off', 'Documents')
  await page.getByLabel('Bring a document').setInputFiles(join(forms, 'reportlab.pdf'))
  const list = page.getByRole('list', { name: 'What is to be filled' })
  const line = (name: string) => list.getByRole('listitem').filter({ hasText: name })
  await expect(line('address_street')).toContainText('same name')
  await expect(page.getByText('14 fields, 9 to match')).toBeVisible()
  await expect(line('notes')).toContainText('did you mean it?') // “Note” is near, and not it

  // A field by typing its name.
  await list.getByRole('button', { name: /^holder/ }).click()
  await list.getByRole('combobox', { name: 'What stands for holder' }).fill('Your name')
  await page.keyboard.press('Enter')
  await expect(line('holder')).toContainText('chosen')
  // Words with fields in them.
  await list.getByRole('button', { name: /^worth/ }).click()
  await line('worth').getByRole('textbox', { name: 'or words with fields in them' }).click()
  await page.keyboard.type('about {{insured')
  await page.keyboard.press('Enter')
  await expect(line('worth')).toContainText('about Insured value')
  // A question that is made of it.
  await list.getByRole('button', { name: /^born/ }).click()
  await line('born').getByRole('button', { name: 'Make a question of it' }).click()
  await expect(line('born')).toContainText('Born')
  await accessible(page)
  await kept(page)

  const { design } = await intakeOf<Design>(page, 'repair-drop-off')
  const own = design.documents.at(-1)!
  expect(own.file).toMatch(/^reportlab-[0-9a-f]{16}\.pdf$/)
  expect(design.form.fields.at(-1)).toMatchObject({ key: 'born', kind: 'date' })
  expect(own.matches).toMatchObject({ holder: { words: [{ field: 'name' }] }, born: { words: [{ field: 'born' }] } })
  const proof = await page.request.post('/api/proofs/document', { data: { design, key: own.key, answers: 'made-up' } })
  const file = join(house.data, 'form.pdf')
  writeFileSync(file, Buffer.from(((await proof.json()) as { pdf: string }).pdf, 'base64'))
  expect(run('pdftotext', '-layout', file, '-')).toMatch(/Worth\s+about €/)

  // What cannot be filled says why, and nothing is lost.
  await page.getByLabel('Bring a document').setInputFiles(join(forms, 'signed.pdf'))
  await expect(page.getByRole('alert')).toContainText('The PDF is signed')
})

test('words are put on the pages of a PDF without fields', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Documents')
  await page.getByLabel('Bring a document').setInputFiles(join(forms, 'flat.pdf'))
  await expect(page.getByText('The file has no fields')).toBeVisible()
  await page.getByRole('button', { name: 'Words', exact: true }).click()
  await page.keyboard.type('{{Your na')
  await page.keyboard.press('Enter')
  const sheet = page.locator('[data-document-proof] > div').first()
  const box = (await sheet.boundingBox())!
  const millimetre = box.width / 210
  // Just over the line behind “Name”: it stands on that line, as wide as it is.
  await sheet.click({ position: { x: 80 * millimetre, y: 38 * millimetre } })
  const mark = async () => (await intakeOf<Design>(page, 'repair-drop-off')).design.documents.at(-1)!.marks?.[0]
  await kept(page)
  await expect(async () =>
    expect(await mark()).toMatchObject({ kind: 'words', page: 1, left: 49.4, width: 98.8 }),
  ).toPass()
  const before = (await mark())!
  await sheet.focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Shift+ArrowRight')
  await kept(page)
  await expect(async () => {
    expect(await mark()).toMatchObject({ left: before.left + 5, top: Math.round((before.top + 0.5) * 10) / 10 })
  }).toPass()
  // Printed boxes take a letter each.
  await sheet.click({ position: { x: 80 * millimetre, y: 77 * millimetre } })
  await kept(page)
  await expect(async () => expect(await mark()).toMatchObject({ cells: 8 })).toPass()
  await accessible(page)
  await page.getByRole('button', { name: 'Remove this mark' }).click()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('button', { name: /Your name .* from the left/ })).toBeVisible()
})

test('an intake begins with a PDF form', async ({ desk: page }) => {
  await page.goto('/intakes')
  await page.getByRole('button', { name: 'New intake' }).click()
  await page.getByLabel('Choose a file').setInputFiles(join(forms, 'hand.pdf'))
  await page.getByRole('heading', { name: 'Hand', level: 1 }).waitFor()
  await expect(page.getByRole('region', { name: 'Script' })).toContainText('Holder')
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Documents' }).click()
  await expect(page.getByText('23 fields')).toBeVisible()
  await expect(page.getByText('to match')).toHaveCount(0)
})
