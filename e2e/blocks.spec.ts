import { readFile, writeFile } from 'node:fs/promises'
import { accessible, addBlock, choose, expect, kept, openIntake, test } from './house'

test('blocks beside each other, a table of cells with looks, and a group for each row', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const proof = page.getByRole('region', { name: 'Proof' })
  await expect(proof.locator('[data-painted]')).toBeVisible()
  await addBlock(page, 'columns')
  await expect(script.getByText('2 columns beside each other')).toBeVisible()

  // A block that is added while empty columns are chosen goes into them.
  await addBlock(page, 'table of cells')
  await script.getByRole('button', { name: 'Row 2, cell 1: empty' }).click()
  const cell = script.getByRole('textbox', { name: 'Words of the cell' })
  await cell.click()
  await page.keyboard.type('Hello ')
  await script.getByRole('button', { name: 'small capitals' }).click()
  await expect(cell).toBeFocused()
  await page.keyboard.type('World')
  await script.getByRole('button', { name: 'small capitals' }).click()
  await expect(cell).toBeFocused()
  await page.keyboard.type('{')
  await page.getByLabel('Which placeholder').fill('house')
  await page.keyboard.press('Enter')
  await choose(script, 'borders', 'around cells')
  await script.getByRole('button', { name: 'Add a column' }).click()
  await expect(script.getByRole('button', { name: /^Row 2, cell 3/ })).toBeVisible()
  await expect(proof.locator('[data-block="table"]').first()).toBeVisible()

  // Alt+Left takes it out of the columns, Ctrl+Z puts it back.
  await script.locator('[data-head]').filter({ hasText: 'Table of 2 rows' }).focus()
  await page.keyboard.press('Alt+ArrowLeft')
  await expect(script.getByText('column 1 · table of cells')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(script.getByText('column 1 · table of cells')).toBeVisible()

  // Repetition: the sentence and the counter are offered, and what is typed is printed for each row.
  await addBlock(page, 'text')
  await choose(script, 'repeats', 1)
  await script.getByRole('textbox', { name: 'Text' }).click()
  await page.keyboard.type('Line {')
  await page.getByLabel('Which placeholder').fill('number of the row')
  await page.keyboard.press('Enter')
  await page.keyboard.type(', a sentence')
  await script.getByRole('button', { name: 'condition' }).click()
  await choose(script, 'the chosen words are shown always or when', 'when')
  await choose(script.locator('[data-clause]').last(), 'Field', 1)
  await choose(script.locator('[data-clause]').last(), 'Comparison', 1)
  await expect(script.locator('[data-look="when"]').first()).toBeVisible()
  await kept(page)
  await accessible(page)
  const design = await page.evaluate(
    async () => (await (await fetch('/api/intakes')).json()).entries as { id: number; slug: string }[],
  )
  const id = design.find((i) => i.slug === 'repair-drop-off')!.id
  const stored = await page.evaluate(async (i) => await (await fetch(`/api/intakes/${i}`)).json(), id)
  const blocks = stored.design.documents[0].blocks
  const columns = blocks.find((b: { kind: string }) => b.kind === 'columns')
  expect(columns.columns.sides[0].blocks[0].table.grid.rows[1].cells[0].body[0].spans).toEqual([
    { text: 'Hello ' },
    { text: 'World', smallCaps: true },
    { field: '@house' },
  ])
  expect(columns.columns.sides[0].blocks[0].table.borders).toBe('grid')
  const last = columns.columns.sides[0].blocks.at(-1)
  expect(last.each).toBe('lines')
  expect(last.text.body[0].spans).toMatchObject([{ text: 'Line ' }, { field: '@row' }, { text: ', a sentence' }])
  expect(new Set(last.text.body[0].spans.map((s: { when?: string }) => s.when)).size).toBe(1)
  expect(last.text.body[0].spans[0].when).toBeTruthy()
})

test('a proof beside another look, as an overview, and as it was in an earlier version', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const proof = page.getByRole('region', { name: 'Proof' })
  await expect(proof.locator('[data-painted]')).toHaveCount(1)
  await choose(proof, 'Beside it', 'Ticket')
  await expect(proof.locator('[data-beside][data-painted]')).toBeVisible()
  await expect(proof.getByText('on the right as Ticket')).toBeVisible()
  const wide = async () => (await proof.locator('canvas').first().boundingBox())!.width
  await choose(proof, 'Beside it', 'nothing')
  const full = await wide()
  await choose(proof, 'Size', /^overview/)
  expect(await wide()).toBeLessThan(full / 2)
  await choose(proof, 'Size', '80 %')

  // The published version stands beside the draft, and can be taken back.
  const heading = script.locator('[data-head]').filter({ hasText: 'heading' }).first()
  const before = await heading.innerText()
  await heading.click()
  await script.getByRole('textbox', { name: 'Heading' }).click()
  await page.keyboard.press('End')
  await page.keyboard.type(' changed')
  await kept(page)
  await choose(proof, 'Beside it', /^version 1/)
  await expect(proof.locator('[data-beside][data-painted]')).toBeVisible()
  await proof.getByRole('button', { name: 'Take this document back' }).click()
  await kept(page)
  await expect(script.locator('[data-head]').filter({ hasText: 'heading' }).first()).toHaveText(
    before.replace(/\s+/g, ' '),
    {
      useInnerText: true,
      ignoreCase: true,
    },
  )
})

test('the house is set beside its letter: an SVG as logo, a font of one’s own, a restricted one refused', async ({
  desk: page,
}, info) => {
  await page.goto('/house')
  const letter = page.getByRole('region', { name: 'Proof' })
  await expect(letter.locator('[data-painted]')).toBeVisible()
  const logo = info.outputPath('logo.svg')
  await writeFile(
    logo,
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 20"><circle cx="10" cy="10" r="8" fill="#8A4B00"/>' +
      '<path d="M22 10h34" stroke="#16262B" stroke-width="3"/></svg>',
  )
  const script = page.getByRole('region', { name: 'Script' })
  await script.getByLabel('Choose another').setInputFiles(logo)
  await expect(script.getByAltText('The chosen picture')).toHaveAttribute('src', /\.svg$/)

  const font = await readFile('../core/print/typeface/files/IBMPlexSans-Bold.ttf')
  const file = info.outputPath('own.ttf')
  await writeFile(file, font)
  await script.getByLabel('Add a font').setInputFiles(file)
  await expect(script.locator('[data-font] input').first()).toHaveValue('IBM Plex Sans')
  await script.getByLabel('Name of family 1').fill('Our Sans')
  await choose(script, 'font of documents', 'Our Sans')
  await kept(page)
  await accessible(page)

  // OS/2 fsType 2: documents may not carry the font.
  const at = font.indexOf('OS/2')
  font.writeUInt16BE(2, font.readUInt32BE(at + 8) + 8)
  await writeFile(file, font)
  await script.getByLabel('Add a font').setInputFiles(file)
  await expect(script.getByRole('alert')).toContainText('licence')
  await writeFile(logo, '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>alert(1)</script></svg>')
  await script.getByLabel('Choose another').setInputFiles(logo)
  await expect(script.getByText('it holds a script')).toBeVisible()
})
