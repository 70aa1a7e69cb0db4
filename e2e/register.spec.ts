import { accessible, choose, expect, test } from './house'

const booking = {
  answers: {
    name: 'Mireille Ashdown',
    email: 'mireille@ashdown.example',
    room: 'loft',
    day: '2026-12-26',
    time: 'morning',
    players: 2,
    rules: true,
  },
}

test('the register keeps up by itself and finds what is asked', async ({ desk: page }) => {
  await page.goto('/register')
  await expect(page.getByText('30 submissions in 6 intakes')).toBeVisible()
  const sent = await page.request.post('/api/public/intakes/practice-room/submissions', { data: booking })
  const { number } = (await sent.json()) as { number: string }
  const entry = page.locator(`[data-entry="${number}"]`)
  await expect(entry.locator('[data-kind="document"]')).toHaveText('made')
  await expect(entry.locator('[data-kind="notice"]')).toHaveText('2 of 2 sent')
  await expect(entry.locator('[data-kind="filing"]')).toHaveText('filed')
  await page.getByPlaceholder('Find a name, number, answer').fill('ashdown loft')
  await expect(page.locator('[data-entry]')).toHaveCount(1)
  await page.getByPlaceholder('Find a name, number, answer').fill('"; DROP TABLE')
  await expect(page.getByText('Nothing in the register fits this.')).toBeVisible()
  await page.getByPlaceholder('Find a name, number, answer').fill('')
  await page.getByRole('button', { name: /^Needs a hand/ }).click()
  await expect(page.locator('[data-entry]')).toHaveCount(3)
  await expect(page.locator('[data-entry]', { hasText: 'PO-' })).toContainText('There is no such mailbox')
  await expect(page.locator('[data-entry]', { hasText: 'late.example' })).toContainText('The mailbox is full')
  const guardian = page.locator('[data-entry]', { hasText: 'HA-' })
  await expect(guardian).toContainText('No address in “Guardian email”.')
  await guardian.getByRole('link').first().click()
  await expect(page.locator('[data-step="guardian"]')).toContainText('No address in “Guardian email”.')
  await page.getByRole('button', { name: 'Try again now' }).click()
  await expect(page.getByText('Tried again by hand')).toBeVisible()
})

test('a submission shows its answers, documents and what happened when', async ({ desk: page }) => {
  const sent = await page.request.post('/api/public/intakes/practice-room/submissions', { data: booking })
  const { number, documents } = (await sent.json()) as { number: string; documents: { href: string }[] }
  await page.goto('/register')
  await page.getByRole('link', { name: number }).click()
  await expect(page.getByRole('definition').filter({ hasText: 'Mireille Ashdown' })).toBeVisible()
  await expect(page.getByText(`Filed as Rooms / Loft / 2026-12-26 ${number}.pdf`)).toBeVisible()
  await page.goto('/register')
  await choose(page, 'Intake', 'Practice room booking')
  const sheet = await page.getByRole('link', { name: 'All answers as CSV' }).getAttribute('href')
  const lines = (await (await page.request.get(sheet!)).text()).split('\r\n')
  expect(lines[0]).toMatch(/^\uFEFF"Number","Received",/)
  expect(lines.at(-2)).toMatch(new RegExp(`^"${number}",.*Mireille Ashdown`))
  await page.getByRole('link', { name: number }).click()
  const href = await page.getByRole('link', { name: 'Open the PDF' }).getAttribute('href')
  expect((await page.request.get(href!)).headers()['content-type']).toBe('application/pdf')

  // A link that went to the wrong person is made void.
  const given = documents[0]!.href
  await expect.poll(async () => (await page.request.get(given)).status()).toBe(200)
  await page.getByRole('button', { name: 'Withdraw the links' }).click()
  await page.getByRole('button', { name: 'Withdraw all of them' }).click()
  await expect(page.getByText('Withdrawn. Links in messages that go out from now on are new ones.')).toBeVisible()
  expect((await page.request.get(given)).status()).toBe(404)
})

for (const path of [
  '/',
  '/intakes',
  '/register',
  '/register/15',
  '/post',
  '/cabinet',
  '/house',
  '/house/people',
  '/house/mail',
  '/house/destinations',
  '/account',
  '/intakes/6/form',
  '/intakes/6/documents?of=receipt&line=thanks',
  '/intakes/6/notices',
  '/intakes/6/filing',
  '/intakes/6/opening',
]) {
  test(`accessible: ${path}`, async ({ desk: page }) => {
    await page.goto(path)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await page.waitForLoadState('networkidle', { timeout: 3000 }).catch(() => undefined) // the event stream stays open
    await accessible(page)
    await page.setViewportSize({ width: 360, height: 740 })
    const sideways = () => page.evaluate(() => document.documentElement.scrollWidth > innerWidth)
    await expect.poll(sideways, 'the page scrolls sideways at 360 px').toBe(false)
  })
}

test('accessible: the door', async ({ page }) => {
  await page.goto('/register')
  await page.getByRole('button', { name: 'Sign in' }).waitFor()
  await accessible(page)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page).toHaveURL(/\/register$/)
})
