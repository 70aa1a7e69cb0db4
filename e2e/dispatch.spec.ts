import { rmSync } from 'node:fs'
import { accessible, expect, mailTo, test } from './house'

// What leaves the house: mail accounts, destinations, links, what waits, and what lies where it was filed.

test('a destination is added, tried, and says why it fails; its password is never shown', async ({ desk: page }) => {
  await page.goto('/house/destinations')
  await page.getByRole('button', { name: /Office share/ }).click()
  const address = await page.getByLabel('address', { exact: true }).inputValue()
  await page.getByRole('button', { name: /Office share/ }).click()
  const adding = page.getByRole('combobox', { name: 'Add a destination' })
  await adding.fill('share')
  await page.getByRole('option', { name: /Share/ }).click()
  await page.getByLabel('name', { exact: true }).fill('Archive')
  await page.getByLabel('address', { exact: true }).fill(address)
  await page.getByLabel('user', { exact: true }).fill('demo')
  await page.getByLabel('password', { exact: true }).fill('wrong')
  await page.getByRole('button', { name: 'Keep it and try it' }).click()
  await expect(page.locator('[data-trial]')).toContainText('refuses the user or the password')
  // What failed is no less so when the page is loaded again.
  await page.reload()
  const line = page.getByRole('button', { name: /Archive/ })
  await expect(line).toContainText(/tried .* and failed/)
  await line.click()
  await page.getByLabel('password', { exact: true }).fill('demo-secret')
  await page.getByRole('button', { name: 'Keep it and try it' }).click()
  await expect(page.locator('[data-trial]')).toContainText('filing works')
  await expect(line).toContainText('ready')
  await accessible(page)
  await page.reload()
  await page.getByRole('button', { name: /Archive/ }).click()
  await expect(page.getByText('One is kept. Type another to change it.')).toBeVisible()
  await expect(page.getByLabel('password', { exact: true })).toHaveValue('')
  // Nobody gets the password that was entered for another server.
  await page.getByLabel('address', { exact: true }).fill('https://elsewhere.example/dav')
  await page.getByRole('button', { name: 'Keep it', exact: true }).click()
  await expect(page.getByText('The password was entered for another server.').first()).toBeVisible()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click()
  await expect(page.getByRole('button', { name: /Archive/ })).toHaveCount(0)
})

test('a mail account is added with its signing key, and a trial tells the part that fails', async ({ desk: page }) => {
  await page.goto('/house/mail')
  await page.getByRole('button', { name: 'Add a mail account' }).click()
  await page.getByLabel('name', { exact: true }).fill('Office')
  await page.getByLabel('mail server').fill('no.such.example')
  await page.getByRole('switch', { name: 'Signed' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-trial]')).toContainText('is not known by this name')
  await expect(page.locator('[data-record]')).toContainText(
    'amberseal._domainkey.tarnhollow.example. TXT "v=DKIM1; k=rsa; p=',
  )
  await accessible(page)
})

test('messages are held, let go, stopped and sent again', async ({ desk: page }) => {
  await page.goto('/post')
  await page.getByRole('tab', { name: 'Waiting' }).click()
  await page.getByRole('button', { name: /Hold messages/ }).click()
  await page.getByRole('option', { name: 'Gift of an instrument' }).click()
  await expect(page.getByText('Held', { exact: false }).first()).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Let them go' }).click()
  await expect(page.getByRole('button', { name: 'Let them go' })).toHaveCount(0)
  const refused = page.locator('li', { hasText: 'bookkeeper@gone.example' })
  await expect(refused).toContainText('There is no such mailbox')
  await refused.getByRole('button', { name: 'Stop it' }).click()
  await expect(refused).toHaveCount(0)
  await page.getByRole('tab', { name: 'Messages' }).click()
  await page.getByPlaceholder('Find a subject, an address or a number').fill('linh@tran.example')
  await expect(page.locator('ul button[aria-pressed]')).toHaveCount(1)
  await page.getByRole('button', { name: /for Bao Tran/ }).click()
  await page.getByRole('button', { name: 'Send again' }).click()
  await page.getByLabel('to', { exact: true }).fill('aunt@tran.example')
  await page.getByRole('button', { name: 'Send again' }).click()
  await expect(page.getByText('It is on its way to aunt@tran.example.')).toBeVisible()
  await expect.poll(async () => (await mailTo(page, 'aunt@tran.example')).length).toBe(1)
})

test('what lies at a destination is seen, and put back where it was lost', async ({ desk: page, house }) => {
  const arrived = async () => ((await (await page.request.get('/standin/share/files')).json()) as unknown[]).length
  await expect.poll(arrived, { timeout: 30_000 }).toBe(9) // the demo's filing goes on after it has begun
  const shareAlone = async () => {
    await page.goto('/cabinet')
    await page.getByRole('link', { name: /^Office share .*8 files/ }).click()
    await page.getByRole('link', { name: /^Gifts/ }).click()
    await page.getByRole('link', { name: /^2026/ }).click()
    await expect(page.locator('section ul button')).toHaveCount(8)
  }
  const pdf = page.locator('section ul button', { hasText: '.pdf' }).first()
  const sheet = page.locator('[data-filed]')
  await shareAlone()
  await page.getByRole('link', { name: 'Gifts', exact: true }).click() // what is looked for is found below, too
  await page.getByPlaceholder('Find a folder, a name or a number').fill('GI-2026-001')
  await expect(page.locator('section ul button')).toHaveCount(2)
  await page.goBack()
  await page.getByPlaceholder('Find a folder, a name or a number').fill('')
  await expect(page.locator('section ul button')).toHaveCount(8)
  await pdf.click()
  await expect(sheet).toContainText('As it was filed, byte for byte.')
  await accessible(page)
  rmSync(`${house.data}/share/Amber Seal`, { recursive: true })
  await shareAlone()
  await pdf.click()
  await expect(sheet).toContainText('It is not there any more.')
  await page.getByRole('button', { name: 'Put it back as it was' }).click()
  await expect(sheet).toContainText('As it was filed, byte for byte.')
})

test('a link is looked at without scripts, and a press gives the file', async ({ desk: page, browser, house }) => {
  const ofGift = async () =>
    (await mailTo(page, 'workshop@tarnhollow.example')).find((m) => m.subject.startsWith('Gift '))
  await expect.poll(ofGift, { timeout: 30_000 }).toBeTruthy() // the demo's mail goes out after it has begun
  const staff = await ofGift()
  expect(staff!.attachments).toEqual([])
  const raw = await (await page.request.get(`/standin/mailbox/messages/${staff!.id}`)).text()
  const link = /\/o\/[A-Za-z0-9_-]+/.exec(raw.replace(/=\r?\n/g, ''))![0]
  const plain = await browser.newContext({ javaScriptEnabled: false })
  const reader = await plain.newPage()
  await reader.goto(house.url + link)
  await expect(reader.getByRole('heading')).toContainText('Letter of thanks')
  const download = reader.waitForEvent('download')
  await reader.getByRole('button', { name: 'Download it' }).click()
  expect((await download).suggestedFilename()).toContain('.pdf')
  await plain.close()
  await page.goto(house.url + link)
  await accessible(page)
})

test('a notice begins as one of another intake, and carries what is there', async ({ desk: page }) => {
  const { entries } = (await (await page.request.get('/api/intakes')).json()) as {
    entries: { id: number; slug: string }[]
  }
  await page.goto(`/intakes/${entries.find((i) => i.slug === 'gift')!.id}/notices`)
  await page.getByRole('button', { name: 'Copy one from another intake' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Before the first day' }).click()
  const line = page.locator('[data-line="2"]')
  await expect(line).toContainText('Before the first day')
  await expect(line).toContainText('3 days before the day at 09:00')
  // What it speaks of and this form does not ask is told at its place.
  await expect(page.getByText('fault', { exact: false }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(line).toHaveCount(0)
})
