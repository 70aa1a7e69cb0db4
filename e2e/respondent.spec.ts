import { accessible, expect, mailTo, test } from './house'

test.describe('on a phone', () => {
  test.use({ viewport: { width: 360, height: 740 }, hasTouch: true })

  test('errors are clear, nothing typed is lost, and the document can be had', async ({ page }) => {
    await page.goto('/f/practice-room')
    await accessible(page)
    const sideways = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth)
    expect(sideways, 'the page scrolls sideways').toBe(false)
    await page.getByLabel('Your name').fill('Ελένη Μαυρίδη')
    await page.getByRole('button', { name: 'Read it through' }).click()
    const summary = page.getByRole('alert')
    await expect(summary).toBeFocused()
    await expect(summary).toContainText('6 answers need another look')
    await accessible(page)
    await summary.getByRole('link', { name: 'Your email' }).click()
    await expect(page.getByLabel('Your email')).toBeFocused()
    await page.keyboard.type('not an address')
    await page.getByLabel('Loft').check()
    await page.getByLabel('Day').fill('2026-12-24')
    await page.getByLabel('Evening').check()
    await page.getByLabel('How many players').fill('3')
    await page.getByLabel('I have read the house rules').check()
    await page.reload()
    await expect(page.getByLabel('Your name')).toHaveValue('Ελένη Μαυρίδη')
    await expect(page.getByLabel('Loft')).toBeChecked()
    await page.getByRole('button', { name: 'Read it through' }).click()
    await expect(page.getByText('✕ This is not an email address.')).toBeVisible()
    await page.getByLabel('Your email').fill('eleni@phone.example')
    await page.getByRole('button', { name: 'Read it through' }).click()
    await expect(page.getByRole('heading', { name: 'Read it through' })).toBeFocused()
    await expect(page.getByText('24 December 2026')).toBeVisible()
    await accessible(page)
    await page.getByRole('button', { name: 'Send it' }).click()
    await expect(page.locator('[data-number]')).toHaveText(/^PR-2026-\d{4}$/)
    await accessible(page)
    const href = await page.getByRole('link', { name: 'Open: Confirmation (PDF)' }).getAttribute('href')
    const pdf = await page.request.get(href!)
    expect(pdf.headers()['content-type']).toBe('application/pdf')
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
    await expect.poll(async () => (await mailTo(page, 'eleni@phone.example')).length).toBe(1)
  })

  test('a lost connection loses nothing and sends nothing twice', async ({ page }) => {
    await page.goto('/f/practice-room')
    await page.getByLabel('Your name').fill('Bao Tran')
    await page.getByLabel('Your email').fill('bao@lost.example')
    await page.getByLabel('Weir room').check()
    await page.getByLabel('Day').fill('2026-12-25')
    await page.getByLabel('Morning').check()
    await page.getByLabel('How many players').fill('1')
    await page.getByLabel('I have read the house rules').check()
    await page.getByRole('button', { name: 'Read it through' }).click()
    // The submission arrives, its answer does not.
    await page.route('**/submissions', async (route) => {
      await route.fetch()
      await route.abort()
    })
    await page.getByRole('button', { name: 'Send it' }).click()
    await expect(page.getByRole('alert')).toContainText('The connection was lost')
    await page.unroute('**/submissions')
    await page.getByRole('button', { name: 'Send it' }).click()
    const number = await page.locator('[data-number]').innerText()
    await expect.poll(async () => (await mailTo(page, 'bao@lost.example')).length).toBe(1)
    // All that the submission leads to is done, and there is one letter.
    await page.request.post('/api/session', {
      data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
    })
    const state = async () => {
      const found = await (await page.request.get(`/api/submissions?words=${number}`)).json()
      return (found as { entries: { state: string }[] }).entries.map((e) => e.state)
    }
    await expect.poll(state).toEqual(['done'])
    const mail = await mailTo(page, 'bao@lost.example')
    expect(mail.map((m) => m.subject)).toEqual([expect.stringContaining(number)])
  })
})

test('the keyboard is enough, and a number may be typed in one’s own language', async ({ page }) => {
  await page.goto('/f/repair-drop-off')
  await page.getByLabel('Your name').focus()
  await page.keyboard.type('Jürgen Größ')
  await page.keyboard.press('Tab')
  await page.keyboard.type('juergen@groess.example')
  await page.keyboard.press('Enter')
  await page.getByLabel('Violin').focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByLabel('Viola')).toBeChecked()
  await page.getByLabel('Insured value').fill('1,234.50')
  await page.getByLabel('Insured value').press('Enter')
  await page.getByLabel('What is wrong with it?').fill('It buzzes.')
  await page.getByRole('button', { name: 'Go on' }).press('Enter')
  await page.getByLabel('I agree that work').press('Space')
  await page.getByRole('button', { name: 'Read it through' }).press('Enter')
  await page.getByRole('button', { name: 'Send it' }).press('Enter')
  await expect(page.locator('[data-number]')).toHaveText(/^TH-2026-\d{5}$/)
})

test('an address without a form and a closed form say so', async ({ desk }) => {
  await desk.goto('/f/nowhere')
  await expect(desk.getByRole('heading', { name: 'There is no form at this address' })).toBeVisible()
  const intakes = (await (await desk.request.get('/api/intakes')).json()) as {
    id: number
    design: { slug: string }
  }[]
  await desk.request.put(`/api/intakes/${intakes.find((i) => i.design.slug === 'gift')!.id}/opening`, {
    data: { open: false },
  })
  await desk.goto('/f/gift')
  await expect(desk.getByText('This form is closed')).toBeVisible()
})
