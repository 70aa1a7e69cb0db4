import type { Page, Route } from '@playwright/test'
import { addBlock, choose, expect, kept, openIntake, test } from './house'

test('the form: typed questions, settings, order, undo, and the proof in step', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Form')
  const proof = page.locator('[data-proof]')
  // Script and proof scroll by themselves; the page stays as high as the window.
  await expect.poll(() => page.evaluate(() => document.documentElement.scrollHeight - innerHeight)).toBe(0)
  const line = page.getByLabel('New question')
  await line.pressSequentially('Your telephone')
  await expect(page.getByRole('status').filter({ hasText: 'telephone' })).toBeVisible()
  await line.press('Enter')
  await expect(proof.getByLabel('Your telephone')).toBeVisible()
  await line.evaluate((e) => {
    const data = new DataTransfer()
    data.setData('text/plain', '1. Which drum kit: small, large\n2. Date of arrival *\n3. Anything else?')
    e.dispatchEvent(
      new ClipboardEvent('paste', {
        clipboardData: data,
        bubbles: true,
        cancelable: true,
      }),
    )
  })
  await expect(proof.getByRole('radiogroup', { name: 'Which drum kit' }).getByLabel('large')).toBeVisible()
  await expect(proof.getByLabel('Date of arrival')).toHaveAttribute('type', 'date')
  await kept(page)

  await proof.getByLabel('Your telephone').click()
  const label = page.getByRole('textbox', { name: 'Question', exact: true })
  await expect(label).toHaveValue('Your telephone')
  await label.fill('Where can we ring you?')
  await page.locator('[data-kind] input').fill('short')
  await page.getByRole('option', { name: 'short text' }).click()
  await page.getByLabel('Help under the question').fill('Day and evening.')
  await expect(proof.getByLabel('Where can we ring you?')).toBeVisible()
  await expect(proof.getByText('Day and evening.')).toBeVisible()
  await label.press('Escape')
  const head = page.locator('[data-head]', {
    hasText: 'Where can we ring you?',
  })
  const before = Number(await head.getAttribute('data-head'))
  await head.focus()
  await head.press('Alt+ArrowUp')
  await expect(page.locator(`[data-head="${before - 1}"]`)).toContainText('Where can we ring you?')
  await kept(page)

  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator(`[data-head="${before}"]`)).toContainText('Where can we ring you?')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.locator(`[data-head="${before - 1}"]`)).toContainText('Where can we ring you?')
  await kept(page)
  await page.reload()
  await expect(page.locator(`[data-head="${before - 1}"]`)).toContainText('Where can we ring you?')
})

test('the document: rich text with chips, the real page beside it, a fault at its place', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Documents')
  const proof = page.locator('[data-document-proof]')
  await expect(proof).toHaveAttribute('data-painted', /\d/)
  await proof.locator('[data-block="show"]').click()
  const text = page.getByRole('textbox', { name: 'Text', exact: true })
  await expect(text).toContainText('Please show this page')
  await expect(proof.locator('[data-block="show"]')).toHaveClass(/border-amber/)
  await text.click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(' For ')
  await page.keyboard.type('{')
  await page.getByLabel('Which placeholder').fill('your na')
  await page.keyboard.press('Enter')
  await expect(text.locator('.chip', { hasText: 'Your name' })).toBeVisible()
  await kept(page)
  const request = page.waitForRequest('**/api/proofs/document')
  await page.keyboard.type(' and {')
  await page.getByLabel('Which placeholder').fill('shoe_size}}')
  await expect(text.locator('.chip-fault')).toContainText('shoe_size · no such field')
  await request
  const foot = page.getByRole('region', { name: 'Findings' })
  await expect(foot).toContainText('The placeholder “shoe_size” has no field.')
  await expect(page.getByRole('navigation', { name: 'Stations' })).toContainText('1 fault')
  // The finding leads to its place from another station.
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Form' }).click()
  await foot.getByRole('button', { name: /shoe_size/ }).click()
  await expect(page.getByRole('textbox', { name: 'Text', exact: true }).locator('.chip-fault')).toBeVisible()
  await page.locator('.chip-fault').last().click()
  await page.keyboard.press('Delete')
  await expect(foot).toContainText('No findings')

  await addBlock(page, 'rule')
  await expect(proof.locator('[data-block="rule"]')).toBeVisible()
  const longest = page.waitForRequest(
    (r) => r.url().endsWith('/proofs/document') && r.postData()!.includes('"answers":"longest"'),
  )
  await choose(page, 'Answers', /^the longest/)
  await longest
})

test('a pictured block prints the chosen picture', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Documents')
  await addBlock(page, 'picture')
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('No picture is chosen.')
  await page.getByLabel('Choose a picture').setInputFiles('../demo/pictures/bench.jpg')
  await page.getByLabel('what it shows').fill('A violin on the bench')
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('No findings')
  await expect(page.locator('[data-document-proof] [data-block="picture"]')).toBeVisible()
})

test('notices and filing: each seen as it will be', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Notices')
  const message = page.locator('[data-notice-proof]')
  await expect(message).toContainText('lucja@brzek.example')
  await page.getByRole('textbox', { name: 'Subject' }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(' – welcome')
  await expect(message).toContainText('– welcome')
  await choose(page, 'Answers', /^the emptest/)
  await page.getByRole('checkbox', { name: 'Confirmation' }).uncheck()
  await expect(message.getByLabel('Attached')).toHaveCount(0)

  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Filing' }).click()
  const paths = page.locator('[data-filing-proof]')
  await expect(paths.getByRole('button')).toHaveAttribute(
    'aria-label',
    /^Cabinet Rooms\/.+\/2026-\d\d-\d\d PR-2026-0001\.pdf$/,
  )
  await page.getByRole('textbox', { name: 'Path' }).click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.type('Mill/')
  await expect(paths.getByRole('button')).toHaveAttribute('aria-label', /^Cabinet Mill\/Rooms\//)
  await kept(page)
})

test('an intake made step by step is opened from the workspace, and closed again', async ({ desk: page }) => {
  await page.goto('/intakes')
  await page.getByRole('button', { name: 'New intake' }).click()
  await page.getByRole('button', { name: 'Make the intake' }).click()
  await expect(page.getByRole('alert')).toContainText('Type or paste at least one question.')
  await page.getByLabel('Questions').fill('Your name *\nYour email *\nColour: red, green')
  await page.getByLabel('Name (optional)').fill('Colour card')
  await page.getByRole('button', { name: 'Make the intake' }).click()
  await expect(page.getByRole('heading', { name: 'Colour card', level: 1 })).toBeVisible()
  expect((await page.request.get('/api/public/intakes/colour-card')).status()).toBe(404)
  await page.getByRole('button', { name: 'Open the intake' }).click()
  await expect(page.getByText(/^Open since/)).toBeVisible()
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Opening' }).click()
  await expect(page.locator('[data-public-link]')).toHaveText(/\/f\/colour-card$/)
  // A change is a draft until it is published.
  await page.getByLabel('Name of the intake').fill('Colours')
  await kept(page)
  const shown = async () =>
    ((await (await page.request.get('/api/public/intakes/colour-card')).json()) as { name: string }).name
  expect(await shown()).toBe('Colour card')
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await expect.poll(shown).toBe('Colours')
  await page.getByRole('button', { name: 'Close the intake' }).click()
  await expect(page.getByRole('heading', { name: 'The intake is closed' })).toBeVisible()
})

test('a renamed key is renamed wherever it is used', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Form')
  await page.locator('[data-head]', { hasText: 'Deposit paid' }).click()
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await page.getByLabel('key', { exact: true }).fill('paid_in')
  await page.getByLabel('key', { exact: true }).press('Tab')
  await kept(page)
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('No findings')
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Documents' }).click()
  await expect(page.locator('[data-head]', { hasText: 'when paid_in > 0' })).toBeVisible()
})

test('what could not be kept is there again after a reload', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Form')
  await page.route('**/design', (route) => route.abort())
  await page.locator('[data-head]', { hasText: 'Your name' }).click()
  await page.getByRole('textbox', { name: 'Question', exact: true }).fill('Your full name')
  await expect(page.getByRole('alert')).toContainText('cannot be reached')
  await page.unroute('**/design')
  await page.reload()
  await expect(page.locator('[data-head]', { hasText: 'Your full name' })).toBeVisible()
  await kept(page)
})

test('changes of two people are joined, and where both changed the same it is asked whose stays', async ({
  desk: page,
  context,
}) => {
  await openIntake(page, 'Gift of an instrument', 'Form')
  const other = await context.newPage()
  await other.goto(page.url())
  const label = (of: Page) => of.getByRole('textbox', { name: 'Question', exact: true })
  const line = (of: Page, words: string) => of.locator('[data-head]', { hasText: words })
  await line(other, 'Your name').click()
  // The first page does not hear of it, as with a lost connection.
  const deaf = (route: Route) => (route.request().method() === 'GET' ? route.abort() : route.fallback())
  await page.route('**/api/intakes/*', deaf)
  await label(other).fill('Their name')
  await kept(other)
  await line(page, 'Its story').click()
  await label(page).fill('My story')
  await page.unroute('**/api/intakes/*')
  await expect(page.getByText('Somebody else changed other places meanwhile; both are kept.')).toBeVisible()
  await expect(line(page, 'Their name')).toBeVisible()
  await expect(line(other, 'My story')).toBeVisible()
  // Who undoes takes back what they did, and nothing of the other.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(line(page, 'Its story')).toBeVisible()
  await kept(page)
  await expect(line(page, 'Their name')).toBeVisible()
  await expect(line(other, 'Its story')).toBeVisible()
  await expect(line(other, 'Their name')).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(line(other, 'My story')).toBeVisible()
  await kept(page)

  await page.route('**/api/intakes/*', deaf)
  await line(other, 'My story').click()
  await label(other).fill('Their story')
  await kept(other)
  await label(page).fill('A story of mine')
  await page.unroute('**/api/intakes/*')
  const alert = page.getByRole('alert').filter({ hasText: 'Somebody else has changed the same places' })
  await expect(alert).toBeVisible()
  await alert.getByRole('button', { name: 'Take theirs' }).click()
  await expect(line(page, 'Their story')).toBeVisible()
})
