import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { accessible, choose, expect, intakeOf, kept, openIntake, test, type House } from './house'

type Design = { slug: string; documents: { key: string; name: string }[] }

/** The intake as the program keeps it. */
async function stored(page: Page, slug: string) {
  return intakeOf<Design>(page, slug)
}

/** The document as the proof has it, as a file that Debian's programs read. */
async function proofOf(page: Page, house: House, slug: string, key: string, answers = 'made-up') {
  const { design } = await stored(page, slug)
  const r = await page.request.post('/api/proofs/document', { data: { design, key, answers } })
  const file = join(house.data, 'proof.pdf')
  writeFileSync(file, Buffer.from(((await r.json()) as { pdf: string }).pdf, 'base64'))
  return file
}
const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' })

test('a document that is renamed says so in its title; one that goes leaves what is filed with it', async ({
  desk: page,
}) => {
  await openIntake(page, 'Repair drop-off', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const before = (await stored(page, 'repair-drop-off')).design as unknown as {
    documents: { key: string; name: string; title: { text?: string }[] }[]
    filings: { key: string; what: { document?: string }[] }[]
  }
  await script.getByRole('button', { name: /page$/ }).click()
  const name = script.getByLabel('name', { exact: true })
  const was = await name.inputValue()
  expect(before.documents[0]!.title[0]!.text?.trim()).toBe(was)
  await name.fill('Bench paper')
  const title = script.getByRole('textbox', { name: 'Title', exact: true })
  await expect(title).toContainText('Bench paper')
  await title.click()
  await page.keyboard.press('End')
  await page.keyboard.type('!')
  await kept(page)
  const after = (await stored(page, 'repair-drop-off')).design as unknown as typeof before
  expect(after.documents[0]!.title[0]!.text).toContain('Bench paper')
  expect(JSON.stringify(after.documents[0]!.title)).not.toContain(was)

  await script.getByRole('button', { name: 'Remove this document' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/The filing “.*”/)
  await accessible(page)
  await dialog.getByRole('button', { name: 'Remove it there too' }).click()
  await kept(page)
  const left = (await stored(page, 'repair-drop-off')).design as unknown as typeof before
  const gone = before.documents[0]!.key
  expect(JSON.stringify([left.documents.map((d) => d.key), left.filings])).not.toContain(`"${gone}"`)
  for (const f of before.filings) {
    const rest = f.what.filter((w) => w.document !== gone)
    expect(left.filings.find((x) => x.key === f.key)?.what ?? []).toEqual(rest)
  }
  await page.getByRole('button', { name: 'Take it back' }).click()
  await kept(page)
  expect(((await stored(page, 'repair-drop-off')).design as unknown as typeof before).filings).toEqual(before.filings)
})

test('the page: a size of its own, margins, words across it, another header on the first', async ({
  desk: page,
  house,
}) => {
  await openIntake(page, 'Gift of an instrument', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const head = script.getByRole('button', { name: /page$/ })
  await head.click()
  await choose(script, 'paper', 'a size of its own')
  await script.getByLabel('page width, mm').fill('120,5')
  await script.getByLabel('page width, mm').press('Tab')
  await script.getByLabel('page height, mm').fill('tall')
  await script.getByLabel('page height, mm').press('Tab')
  await expect(script.getByLabel('page height, mm')).toHaveValue('105')
  await script.getByRole('button', { name: 'More', exact: true }).click()
  await script.getByLabel('margin: left, mm').fill('31')
  await script.getByLabel('margin: left, mm').press('Tab')
  await script.getByLabel('across the page').fill('SPECIMEN')
  await script.getByLabel('across the page').press('Tab')
  await script.getByRole('textbox', { name: 'Header', exact: true }).click()
  await page.keyboard.type('Every page but the first, {')
  await page.getByLabel('Which placeholder').fill('pages')
  await page.keyboard.press('Enter')
  await script.getByLabel('The first page has a header and footer of its own').check()
  await script.getByRole('textbox', { name: 'Header of the first page' }).click()
  await page.keyboard.type('Only the first')
  await script.getByLabel('ground').fill('green')
  await script.getByLabel('ground').press('Tab')
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('#RRGGBB')
  await script.getByLabel('ground').fill('#F4F1E6')
  await script.getByLabel('ground').press('Tab')
  await expect(page.getByRole('region', { name: 'Findings' })).not.toContainText('#RRGGBB')
  await kept(page)
  await accessible(page)
  const file = await proofOf(page, house, 'gift', 'letter', 'longest')
  const info = run('pdfinfo', file)
  expect(info).toMatch(/Page size: +341\.5\d* x 297\.6\d* pts/) // 120.5 and 105 mm
  const pages = Number(/Pages: +(\d+)/.exec(info)![1])
  expect(pages).toBeGreaterThan(1)
  const text = run('pdftotext', '-layout', file, '-').split('\f')
  expect(text[0]).toContain('Only the first')
  expect(text[0]).not.toContain('Every page but')
  expect(text[1]).toContain(`Every page but the first, ${pages}`)
  const drawn = run('pdftotext', '-raw', file, '-').split('\f').slice(0, pages)
  for (const t of drawn) expect(t.replace(/\s/g, '')).toContain('SPECIMEN')
  const words = run('pdftotext', '-bbox', '-f', '2', '-l', '2', file, '-').matchAll(/xMin="([\d.]+)"[^>]*>\w{2,}</g)
  expect(Math.min(...[...words].map((m) => Number(m[1])))).toBeGreaterThan((31 / 25.4) * 72 - 0.1)
})

test('what is too wide is found in the proof and leads to its block', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  await script.getByRole('button', { name: /page$/ }).click()
  await choose(script, 'paper', 'A8')
  await choose(page, 'Answers', /^the longest/)
  const found = page.getByRole('list', { name: 'Findings with these answers' })
  await expect(found).toBeVisible()
  const first = found.getByRole('button').first()
  await first.click()
  await expect(script.locator('[data-head][aria-expanded=true]')).toHaveCount(1)
  await expect(page.locator('[data-document-proof] .border-amber').first()).toBeVisible()
  await choose(page, 'Answers', 'made-up answers')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(found).toHaveCount(0)
})

test('a document is added, made on a condition, removed with all that carried it, and taken back', async ({
  desk: page,
}) => {
  await openIntake(page, 'Practice room booking', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const foot = page.getByRole('region', { name: 'Findings' })
  await script.getByRole('button', { name: 'Add a document' }).click()
  await expect(foot).toContainText('Nobody')
  await script.getByRole('button', { name: /page$/ }).click()
  await script.getByLabel('name', { exact: true }).fill('Door card')
  await choose(script, 'look', 'Ticket')
  await choose(script, 'made always or when', 'when')
  await choose(script.locator('[data-clause]'), 'Field', 'How many players')
  await choose(script.locator('[data-clause]'), 'Comparison', 'is more than')
  await script.locator('[data-clause]').getByLabel('Value').fill('2')
  await expect(script.getByRole('button', { name: 'Door card', exact: true })).toBeVisible()
  await kept(page)
  const { design } = await stored(page, 'practice-room')
  expect(design.documents.at(-1)).toMatchObject({ name: 'Door card', look: 'ticket', when: 'players > 2' })

  await script.getByRole('button', { name: 'Confirmation', exact: true }).click()
  await script.getByRole('button', { name: /page$/ }).click()
  await script.getByRole('button', { name: 'Remove this document' }).click()
  const named = page.getByRole('dialog', { name: 'Remove “Confirmation”' })
  await expect(
    named
      .getByRole('listitem')
      .filter({ hasText: /^The notice .* goes without it\.$/ })
      .first(),
  ).toBeVisible()
  await expect(
    named.getByRole('listitem').filter({ hasText: 'files nothing else, and goes too' }).first(),
  ).toBeVisible()
  await named.getByRole('button', { name: 'Leave it' }).click()
  await expect(script.getByRole('button', { name: 'Confirmation', exact: true })).toBeVisible()
  await script.getByRole('button', { name: 'Remove this document' }).click()
  await named.getByRole('button', { name: 'Remove it there too' }).click()
  await kept(page)
  const without = (await stored(page, 'practice-room')).design as unknown as {
    notices: { attach: string[] }[]
    filings: unknown[]
  }
  expect(without.notices.flatMap((n) => n.attach)).toEqual([])
  expect(without.filings).toEqual([])
  await page.getByRole('button', { name: 'Undo' }).click()
  await kept(page)
  const again = (await stored(page, 'practice-room')).design as unknown as {
    notices: { attach: string[] }[]
    filings: unknown[]
  }
  expect(again.notices.flatMap((n) => n.attach).length).toBeGreaterThan(0)
  expect(again.filings.length).toBeGreaterThan(0)
  await expect(script.getByRole('button', { name: 'Confirmation', exact: true })).toBeVisible()
})

test('the script of a document by keyboard alone', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  const heads = script.locator('[data-head]')
  await expect(heads.first()).toBeVisible()
  const before = await heads.count()
  await heads.first().focus()
  await page.keyboard.press('ArrowDown')
  await expect(heads.nth(1)).toBeFocused()
  await page.keyboard.press('Enter') // unfolds
  await expect(heads.nth(1)).toHaveAttribute('aria-expanded', 'true')
  await heads.nth(1).focus()
  await page.keyboard.press('Enter') // adds behind it
  await expect(heads).toHaveCount(before + 1)
  await expect(heads.nth(2)).toHaveAttribute('aria-expanded', 'true')
  await expect(script.locator('[data-line="2"]').getByRole('textbox', { name: 'Text', exact: true })).toBeFocused()
  await page.keyboard.type('Written at once. ')
  await page.keyboard.press('Control+.')
  await expect(script.locator('[data-line="2"] [data-kind] input')).toBeFocused()
  await page.keyboard.type('rule')
  await page.keyboard.press('Enter')
  await expect(script.locator('[data-line="2"]')).toContainText('rule')
  await page.keyboard.press('Alt+ArrowUp')
  await expect(script.locator('[data-line="1"]')).toContainText('rule')
  await expect(heads.nth(1)).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(heads.nth(1)).toHaveAttribute('aria-expanded', 'false')
  await page.keyboard.press('Delete')
  await expect(heads).toHaveCount(before)
  await page.keyboard.press('Control+z')
  await expect(heads).toHaveCount(before + 1)
  await kept(page)
})

test('a document is locked by an answer, and another carries its answers as data', async ({ desk: page, house }) => {
  await openIntake(page, 'Practice room booking', 'Documents')
  const script = page.getByRole('region', { name: 'Script' })
  await script.getByRole('button', { name: /page$/ }).click()
  await script.getByRole('button', { name: 'More', exact: true }).click()
  await choose(script, 'the PDF', 'protected')
  await script.getByRole('textbox', { name: 'Password' }).click()
  await page.keyboard.type('{')
  await page.getByLabel('Which placeholder').fill('room')
  await page.keyboard.press('Enter')
  await script.getByLabel('no copying').check()
  await script.getByRole('textbox', { name: 'Author of the PDF' }).click()
  await page.keyboard.type('Ottoline Marsh')
  await script.getByRole('textbox', { name: 'Subject of the PDF' }).click()
  await page.keyboard.type('A subject of its own')
  await kept(page)
  const stations = page.getByRole('navigation', { name: 'Stations' })
  await stations.getByRole('link', { name: 'Opening' }).click()
  await page.getByRole('region', { name: 'Opening' }).getByRole('button', { name: 'Publish the changes' }).click()
  await expect(page.getByRole('button', { name: 'Publish the changes' })).toHaveCount(0)
  const answers = {
    name: 'Zoë',
    email: 'zoe@locked.example',
    room: 'loft',
    day: '2026-12-24',
    time: 'evening',
    players: 3,
    needs: ['piano'],
    rules: true,
  }
  const sent = await page.request.post('/api/public/intakes/practice-room/submissions', { data: { answers } })
  expect(sent.status()).toBe(201)
  const receipt = (await sent.json()) as { documents: { href: string }[] }
  const file = join(house.data, 'locked.pdf')
  writeFileSync(file, await (await page.request.get(receipt.documents[0]!.href)).body())
  expect(() => run('qpdf', '--check', file)).toThrow(/invalid password/)
  run('qpdf', '--password=Loft', '--check', file)
  expect(run('pdfinfo', '-upw', 'Loft', file)).toMatch(
    /Subject: +A subject of its own[\s\S]*Author: +Ottoline Marsh[\s\S]*copy:no/,
  )

  await stations.getByRole('link', { name: 'Documents' }).click()
  await script.getByRole('button', { name: /page$/ }).click()
  await script.getByRole('button', { name: 'More', exact: true }).click()
  await choose(script, 'the PDF', 0)
  await script.getByLabel('It carries the answers as data').check()
  await kept(page)
  const data = await proofOf(page, house, 'practice-room', 'confirmation')
  expect(run('pdfdetach', '-list', data)).toMatch(/answers\.json[\s\S]*answers\.schema\.json/)
})

test('letter paper lies behind a document, and one without its fonts is refused at its place', async ({
  desk: page,
}) => {
  await openIntake(page, 'Gift of an instrument', 'Documents')
  const proof = page.locator('[data-document-proof]')
  await expect(proof.locator('[data-block="heading"]')).toBeVisible()
  const script = page.getByRole('region', { name: 'Script' })
  await script.getByRole('button', { name: /page$/ }).click()
  await choose(script, 'look', 'Plain')
  await script.getByRole('button', { name: 'More', exact: true }).click()
  const first = page.getByLabel('Letter paper behind the first page: choose a PDF')
  await first.setInputFiles('../core/foreign/ground/testdata/hand.pdf')
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('does not hold its fonts')
  await first.setInputFiles('../demo/files/letter-paper.pdf')
  await expect(script.getByText('letter-paper.pdf')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Findings' })).not.toContainText('does not hold its fonts')
  await kept(page)
  await accessible(page)
})
