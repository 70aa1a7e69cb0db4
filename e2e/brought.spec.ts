import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { accessible, expect, intakeOf, kept, mailTo, openIntake, test } from './house'

type Design = { slug: string; documents: { key: string; name: string; file?: string; matches?: object }[] }

const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' })

test('a document that the house has already is brought, matched and set', async ({ desk: page, house }) => {
  await openIntake(page, 'Hire agreement', 'Documents')
  await page.getByLabel('Bring a document').setInputFiles(join(import.meta.dirname, 'files', 'agreement.docx'))
  const list = page.getByRole('list', { name: 'What is to be filled' })
  await expect(list.getByRole('listitem').first()).toContainText('deposit in words')
  await expect(list.getByRole('listitem').filter({ hasText: 'First Day' })).toContainText('same name')
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Nothing is called “deposit in words”')

  await list.getByRole('button', { name: /^deposit in words/ }).click()
  const choice = list.getByRole('combobox', { name: 'What stands for deposit in words' })
  await choice.fill('Depos')
  await page.keyboard.press('Enter')
  await expect(list.getByRole('listitem').filter({ hasText: 'deposit in words' })).toContainText('chosen')
  await expect(page.getByRole('region', { name: 'Findings' })).not.toContainText('deposit in words')
  await accessible(page)
  await kept(page)
  const [notes] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download it with notes at each fault' }).click(),
  ])
  expect(notes.suggestedFilename()).toBe('agreement, notes.docx')
  const [beginning] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download the whole form laid out' }).click(),
  ])
  const read = 'import sys, zipfile; print(zipfile.ZipFile(sys.argv[1]).read("word/document.xml").decode())'
  expect(run('python3', '-c', read, await beginning.path())).toContain('{{player}}')

  const { design } = await intakeOf<Design>(page, 'hire-agreement')
  const own = design.documents.at(-1)!
  // Matches that names give by themselves are kept, so that they hold when a question is called otherwise.
  expect(own.matches).toMatchObject({
    which: { words: [{ field: 'which' }] },
    'First Day': { words: [{ field: 'first_day' }] },
  })
  expect(own.file).toMatch(/^agreement-[0-9a-f]{16}\.docx$/)
  const proof = await page.request.post('/api/proofs/document', { data: { design, key: own.key, answers: 'made-up' } })
  const file = join(house.data, 'proof.pdf')
  writeFileSync(file, Buffer.from(((await proof.json()) as { pdf: string }).pdf, 'base64'))
  const words = run('pdftotext', '-layout', file, '-')
  expect(words).toMatch(/Agreement of hire HA-\d+-\d+/)
  expect(words).not.toContain('{{')
  expect(run('pdfinfo', '-struct', file)).toMatch(/H1/)

  // It becomes a designed document beside the file, which stays.
  await page.getByRole('button', { name: 'Turn it into a designed document' }).click()
  await expect(page.getByRole('button', { name: /^Agreement \d, designed$/ })).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: 'become blocks' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: /^Agreement \d$/ }).click()

  // A file that is none says why, and nothing is lost.
  await page.getByLabel('Bring a document').setInputFiles({
    name: 'old.docx',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from('{\\rtf1 old}'),
  })
  await expect(page.getByRole('alert')).toContainText('no .docx file')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(list.getByRole('listitem').filter({ hasText: 'deposit in words' })).toContainText('choose')
})

test('its PDF is in an inbox within a minute', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Documents')
  await page.getByLabel('Bring a document').setInputFiles(join(import.meta.dirname, 'files', 'thanks.docx'))
  await expect(page.getByRole('list', { name: 'What is to be filled' })).toContainText('@number')
  await kept(page)
  type Carries = { document?: string; as?: string }[]
  const kept1 = await intakeOf<Design & { notices: { attach: Carries }[]; filings: { what: Carries }[] }>(page, 'gift')
  const design = kept1.design
  const key = design.documents.at(-1)!.key
  // It goes out as a PDF and as it is, and is filed as it is.
  for (const n of design.notices) n.attach = [{ document: key }, { document: key, as: 'docx' }]
  for (const f of design.filings) f.what = [{ document: key, as: 'docx' }]
  const at = `/api/intakes/${kept1.id}`
  const put = await page.request.put(`${at}/design`, { data: { revision: kept1.revision, design } })
  expect(put.ok()).toBeTruthy()
  expect((await page.request.put(`${at}/opening`, { data: { open: true } })).ok()).toBeTruthy()
  const answers = {
    name: 'Wanda Brought',
    email: 'wanda@brought.example',
    instrument: 'flute',
    named: true,
    story: 'Old.',
    address: { street: '1 Weir Lane', postcode: 'UT1 4AW', city: 'Upper Tarn' },
    value: '20.00',
  }
  const sent = await page.request.post('/api/public/intakes/gift/submissions', { data: { answers } })
  expect(sent.ok(), await sent.text()).toBeTruthy()
  await expect(async () => {
    const mails = await mailTo(page, 'wanda@brought.example')
    expect(mails[0]?.attachments.map((a) => a.name.replace(/ .*\./, ' *.'))).toEqual(['Thanks *.pdf', 'Thanks *.docx'])
  }).toPass({ timeout: 60_000 })
  const { entries } = (await (await page.request.get('/api/submissions?q=Wanda')).json()) as {
    entries: { id: number }[]
  }
  await page.goto(`/register/${entries[0]!.id}`)
  const [word] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'as .docx' }).click(),
  ])
  const read = 'import sys, zipfile; print(zipfile.ZipFile(sys.argv[1]).read("word/document.xml").decode())'
  expect(run('python3', '-c', read, await word.path())).toMatch(/Thank you for GI-\d/)
  const filings = (await (await page.request.get('/api/filings')).json()) as { entries: { path: string }[] }
  expect(filings.entries.some((f) => f.path.endsWith('.docx'))).toBeTruthy()
})

test('an intake begins with a document, and its PDF is in an inbox after a few actions', async ({ desk: page }) => {
  const begun = Date.now()
  await page.goto('/intakes')
  await page.getByRole('button', { name: 'New intake' }).click()
  await page.getByLabel('Choose a file').setInputFiles(join(import.meta.dirname, 'files', 'agreement.docx'))
  await page.getByRole('heading', { name: 'Agreement', level: 1 }).waitFor()
  await expect(page.getByRole('region', { name: 'Script' })).toContainText('Deposit in words')
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Opening' }).click()
  await page.getByRole('button', { name: 'Open the intake' }).click()
  await expect(page.getByText(/Open since/)).toBeVisible()

  const answers = {
    players_name: { given: 'Wanda', family: 'Brought' },
    first_day: '2027-01-04',
    last_day: '2027-06-30',
    deposit: '60',
    deposit_in_words: '60',
    guardian: 'Linh Tran',
    the_instrument: [{ which: 'Violin', size: 'half', monthly: '14.50' }],
    signature: { strokes: [[1, 1, 40, 20]], width: 100, height: 40 },
  }
  const sent = await page.request.post('/api/public/intakes/agreement/submissions', { data: { answers } })
  expect(sent.ok(), await sent.text()).toBeTruthy()
  await expect(async () => {
    const mails = await mailTo(page, 'workshop@tarnhollow.example')
    expect(mails.some((m) => m.attachments.some((a) => /^Agreement A-.*\.pdf$/.test(a.name)))).toBeTruthy()
  }).toPass({ timeout: 60_000 })
  expect(Date.now() - begun).toBeLessThan(3 * 60_000) // five actions, where twelve and three minutes were asked
})
