import type { Page, Route } from '@playwright/test'
import { expect, intakeOf, test } from './house'

/** Two things happen at once: what is lost is lost there. */

const photo = (name: string) => ({ name, mimeType: 'image/png', buffer: picture })
// The smallest PNG there is, of one pixel.
const picture = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)

/** An open form of one's own. */
async function form(page: Page, name: string, fields: object[], opening: object = {}) {
  const made = (await (await page.request.post('/api/intakes', { data: { name, questions: 'Your name' } })).json()) as {
    id: number
    revision: number
    design: { slug: string; form: object }
  }
  const design = { ...made.design, form: { fields }, opening, documents: [], notices: [], filings: [] }
  const kept = await page.request.put(`/api/intakes/${made.id}/design`, { data: { revision: made.revision, design } })
  expect(kept.ok(), await kept.text()).toBe(true)
  const opened = await page.request.put(`/api/intakes/${made.id}/opening`, { data: { open: true } })
  expect(opened.ok(), await opened.text()).toBe(true)
  return made.design.slug
}

/** Uploads take a while, as on a slow line. */
async function slow(page: Page, ms = 1200) {
  await page.route('**/uploads/**', async (r) => {
    await new Promise((done) => setTimeout(done, ms))
    await r.continue()
  })
}
const received = async (page: Page, slug: string) => {
  const { id } = await intakeOf(page, slug)
  const got = (await (await page.request.get(`/api/submissions?intake=${id}`)).json()) as { entries: unknown[] }
  return got.entries.length
}
/** Takes the request to the house and loses its answer. */
const lost = async (r: Route) => {
  await r.fetch()
  await r.abort()
}

test('a photo stays with its row, whatever becomes of the others meanwhile', async ({ desk: page }) => {
  const inner = [
    { key: 'what', kind: 'short_text', label: 'What' },
    { key: 'photo', kind: 'photo', label: 'Photo' },
  ]
  const slug = await form(page, 'Fruit', [{ key: 'items', kind: 'rows', label: 'Items', rows: { fields: inner } }])
  await page.goto(`/f/${slug}`)
  const row = (n: number) => page.getByRole('group', { name: `Items ${n}`, exact: true })
  for (const [i, name] of ['apple', 'pear', 'plum', 'fig'].entries()) {
    await page.getByRole('button', { name: 'Add a row' }).click()
    await row(i + 1)
      .getByLabel('What')
      .fill(name)
  }
  await slow(page)
  await row(2).getByLabel('Photo').setInputFiles(photo('pear.png'))
  await row(4).getByLabel('Photo').setInputFiles(photo('fig.png'))
  await row(1).getByRole('button', { name: 'Remove Row 1' }).click()
  await row(3).getByRole('button', { name: 'Move up' }).click()
  // The hand goes along: pressed once more it is the same row that moves.
  await page.keyboard.press('Enter')
  await expect(row(1).getByLabel('What')).toHaveValue('fig')
  await expect(row(1).getByRole('button', { name: 'Remove fig.png' })).toBeVisible()
  await expect(row(2).getByLabel('What')).toHaveValue('pear')
  await expect(row(2).getByRole('button', { name: 'Remove pear.png' })).toBeVisible()
  await expect(row(3).getByLabel('What')).toHaveValue('plum')
  await expect(row(3).getByText('.png')).toHaveCount(0)
})

test('the next page waits for all files, those too many are named, and one that failed is not left behind', async ({
  desk: page,
}) => {
  const slug = await form(page, 'Arrivals', [
    { key: 'arrival', kind: 'photo', label: 'Photos', photo: { most: 3 } },
    { key: 'more', kind: 'page', label: 'More' },
    { key: 'who', kind: 'short_text', label: 'Who' },
  ])
  await page.goto(`/f/${slug}`)
  await slow(page, 500)
  await page.getByLabel('Photos').setInputFiles(['a', 'b', 'c', 'd', 'e'].map((n) => photo(`${n}.png`)))
  for (const n of ['d', 'e'])
    await expect(page.getByRole('listitem').filter({ hasText: `${n}.png` })).toContainText('at most 3 files fit')
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByLabel('Who')).toBeVisible()
  await page.getByRole('button', { name: 'Back' }).click()
  for (const n of ['a', 'b', 'c']) await expect(page.getByRole('button', { name: `Remove ${n}.png` })).toBeVisible()

  await page.getByRole('button', { name: 'Remove b.png' }).click()
  await page.unroute('**/uploads/**')
  await page.route('**/uploads/**', (r) => r.abort())
  await page.getByLabel('Photos').setInputFiles(photo('f.png'))
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByText('“f.png” was not sent. Send it again, or remove it.').first()).toBeVisible()
  await expect(page.getByLabel('Who')).toHaveCount(0)
  await page.unroute('**/uploads/**')
  await page.getByRole('button', { name: 'Try again f.png' }).click()
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByLabel('Who')).toBeVisible()
})

test('what is typed on the second device is there after a reload, and on the first one too', async ({
  desk: page,
  browser,
  baseURL,
}) => {
  const slug = await form(page, 'Slow thoughts', [
    { key: 'name', kind: 'short_text', label: 'Your name' },
    { key: 'town', kind: 'short_text', label: 'Town' },
  ])
  const kept = await page.request.post(`/api/public/intakes/${slug}/drafts`, {
    data: { answers: { name: 'First device', town: 'Tarn' } },
  })
  const { token } = (await kept.json()) as { token: string }
  const device = await (await browser.newContext({ baseURL: baseURL! })).newPage()
  const at = `/f/${slug}?go-on=${token}`
  await device.goto(at)
  await expect(device.getByLabel('Your name')).toHaveValue('First device')
  // Nothing reaches the house: this device alone knows it.
  await device.route('**/drafts', (r) => r.abort())
  await device.getByLabel('Your name').fill('Second device')
  await device.waitForTimeout(300)
  await device.reload()
  await expect(device.getByLabel('Your name')).toHaveValue('Second device')
  await expect(device.getByLabel('Town')).toHaveValue('Tarn')
  await device.unroute('**/drafts')
  await device.getByLabel('Town').fill('Weir')
  const other = await (await browser.newContext({ baseURL: baseURL! })).newPage()
  await expect(async () => {
    await other.goto(at)
    await expect(other.getByLabel('Your name')).toHaveValue('Second device', { timeout: 1000 })
    await expect(other.getByLabel('Town')).toHaveValue('Weir', { timeout: 1000 })
  }).toPass()
})

test('a sending whose answer was lost is one submission, after a reload and after a change', async ({ desk: page }) => {
  const fields = [
    { key: 'name', kind: 'short_text', label: 'Your name' },
    { key: 'age', kind: 'short_text', label: 'Years' },
  ]
  const slug = await form(page, 'Lost answers', fields, { correct: true })
  const fill = async (age: string) => {
    await page.goto(`/f/${slug}`)
    await page.getByLabel('Your name').fill('Ada')
    await page.getByLabel('Years').fill(age)
    await page.getByRole('button', { name: 'Read it through' }).click()
    await page.route('**/submissions', lost)
    await page.getByRole('button', { name: 'Send it' }).click()
    await expect(page.getByText('The connection was lost.')).toBeVisible()
    await page.unroute('**/submissions')
  }
  await fill('35')
  await page.goto(`/f/${slug}`)
  await expect(page.getByText('It had arrived before the connection was lost.')).toBeVisible()
  const number = await page.locator('[data-number]').innerText()
  expect(await received(page, slug)).toBe(1)
  // The receipt is still there when the page is loaded again.
  await page.reload()
  await expect(page.locator('[data-number]')).toHaveText(number)

  await fill('36')
  await page.getByRole('button', { name: 'Change something' }).click()
  await page.getByLabel('Years').fill('37')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.getByText('What you sent before had arrived.')).toBeVisible()
  expect(await received(page, slug)).toBe(2)
  // What was changed waits behind the link to correct it.
  await page.locator('[data-correct]').click()
  await expect(page.getByLabel('Years')).toHaveValue('37')
})

test('a part that does not come says so', async ({ desk: page }) => {
  const slug = await form(page, 'Signed', [{ key: 'mark', kind: 'signature', label: 'Signature' }])
  await page.route(/SignatureControl|ReadThrough/, (r) => r.abort())
  await page.goto(`/f/${slug}`)
  const alert = page.getByRole('alert').filter({ hasText: 'A part of this page could not be loaded.' })
  await expect(alert).toBeVisible()
  await page.getByRole('button', { name: 'Read it through' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Read it through' })).toBeVisible()
  await expect(alert).toBeVisible()
  await page.unroute(/SignatureControl|ReadThrough/)
  await alert.getByRole('button', { name: 'Load the page anew' }).click()
  await expect(page.getByRole('img', { name: 'Draw your signature here' })).toBeVisible()

  await page.route(/DocumentsStation|RegisterView/, (r) => r.abort())
  await page.goto('/intakes')
  await page.getByRole('link', { name: 'Signed', exact: true }).click()
  const renewed = page.getByRole('alert').filter({ hasText: 'could not be loaded' }).first()
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Documents' }).click()
  await expect(renewed).toBeVisible()
  await page.getByRole('link', { name: 'Register', exact: true }).click()
  await expect(renewed).toBeVisible()
  await page.unroute(/DocumentsStation|RegisterView/)
  await renewed.getByRole('button', { name: 'Load the page anew' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Register' })).toBeVisible()
})

test('names and addresses are read through in their order, in whichever they were filled in', async ({
  desk: page,
}) => {
  const slug = await form(
    page,
    'Names',
    [
      { key: 'who', kind: 'name', label: 'Who' },
      { key: 'at', kind: 'address', label: 'Where' },
      { key: 'email', kind: 'email', label: 'Email' },
    ],
    { correct: true },
  )
  await page.goto(`/f/${slug}`)
  await page.getByLabel('Family name').fill('Quill')
  await page.getByLabel('Given name').fill('Odile')
  await page.getByLabel('Town').fill('Osier Bend')
  await page.getByLabel('Street and number').fill('7 Weir Walk')
  const read = async () => {
    await page.getByRole('button', { name: 'Read it through' }).click()
    await expect(page.getByText('Odile Quill')).toBeVisible()
    await expect(page.getByText(/7 Weir Walk\s+Osier Bend/)).toBeVisible()
  }
  await read()
  await page.getByRole('button', { name: 'Send it' }).click()
  await page.locator('[data-correct]').click()
  await expect(page.getByLabel('Given name')).toHaveValue('Odile')
  await read()
})
