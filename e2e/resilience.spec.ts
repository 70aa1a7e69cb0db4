import { join } from 'node:path'
import { expect, intakeOf, kept, mailTo, openIntake, test } from './house'

test('what is typed before the script has come is taken over, with the focus and the caret', async ({ page }) => {
  let release = () => {}
  const held = new Promise<void>((resolve) => (release = resolve))
  await page.route('**/assets/public/*.js', async (route) => {
    await held
    await route.continue()
  })
  await page.goto('/f/gift', { waitUntil: 'commit' })
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLLinkElement>('link[rel=stylesheet]')].every((l) => l.sheet),
  )
  await page.locator('#served').getByLabel('Your email').fill('early@bird.example')
  const name = page.locator('#served').getByLabel('Your name')
  await name.fill('Åsa')
  await name.press('Home')
  const before = (await name.boundingBox())!.y
  release()
  await expect(page.locator('#served')).toHaveCount(0)
  await expect(page.getByLabel('Your name')).toBeFocused()
  const after = (await page.getByLabel('Your name').boundingBox())!.y
  expect(Math.abs(after - before), 'the question moves').toBeLessThan(1)
  await page.keyboard.type('Dr ')
  await expect(page.getByLabel('Your name')).toHaveValue('Dr Åsa')
  await expect(page.getByLabel('Your email')).toHaveValue('early@bird.example')
  await page.reload()
  await expect(page.getByLabel('Your name')).toHaveValue('Dr Åsa')
})

test('a form is filled and sent where the browser keeps nothing', async ({ page }) => {
  await page.addInitScript(() => {
    for (const name of ['localStorage', 'sessionStorage', 'indexedDB']) {
      Object.defineProperty(window, name, {
        get() {
          throw new DOMException('denied', 'SecurityError')
        },
      })
    }
  })
  await page.goto('/f/gift')
  await page.getByLabel('Your name').fill('Mara')
  await page.getByLabel('Your email').fill('mara@denied.example')
  await page.getByLabel('The instrument').fill('Oboe')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-number]')).toHaveText(/^GI-/)
})

test('no form scrolls sideways on a phone, in Arabic either', async ({ desk: page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  const all = (await (await page.request.get('/api/intakes')).json()).entries as { slug: string }[]
  for (const { slug } of all) {
    for (const language of ['en', 'de', 'ar']) {
      await page.goto(`/f/${slug}?language=${language}`)
      await page.locator('form[novalidate]').waitFor()
      const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)
      expect(over, `${slug} in ${language}`).toBeLessThanOrEqual(0)
    }
  }
})

test('behind a proxy that answers 502 while the program is away the register lives on', async ({ desk: page }) => {
  let away = true
  let refused = 0
  await page.route('**/api/events', async (route) => {
    if (!away) return route.continue()
    refused++
    await route.fulfill({ status: 502, body: 'Bad gateway' })
  })
  await page.goto('/register')
  await expect(page.getByText('◐ Not connected')).toBeVisible()
  await expect.poll(() => refused).toBeGreaterThan(1)
  away = false
  await expect(page.getByText('◐ Not connected')).toHaveCount(0)
  await page.request.post('/api/public/intakes/gift/submissions', {
    data: { answers: { name: 'Late', email: 'late@proxy.example', instrument: 'Viola' } },
  })
  await expect(page.locator('[data-entry]', { hasText: 'Late' })).toBeVisible()
})

test('a question that is typed as the session ends is there again after signing in', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Form')
  const line = page.getByLabel('New question')
  await line.fill('Who played it last?')
  await page.request.delete('/api/session')
  // Whoever asks first finds that the session has ended: the key, or a change in the house; then the line has gone already.
  await line.press('Enter', { timeout: 3000 }).catch(() => {})
  await expect(page.getByText('Your session has ended.')).toBeVisible()
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(line).toHaveValue('Who played it last?')
  await line.press('Enter')
  await expect(page.locator('[data-proof]').getByLabel('Who played it last?')).toBeVisible()
})

test('a line that is deleted comes back where it was, and the focus with it', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Form')
  const line = page.getByLabel('New question')
  await line.fill('Which bow belongs to it?')
  await line.press('Enter')
  const head = page.locator('[data-head]', { hasText: 'Which bow belongs to it?' })
  await head.press('Alt+ArrowUp')
  const at = await head.getAttribute('data-head')
  await kept(page)
  await head.focus()
  await page.keyboard.press('Delete')
  await expect(head).toHaveCount(0)
  await expect(page.getByRole('status').filter({ hasText: 'Which bow belongs to it?' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.locator(`[data-head="${at}"]`)).toContainText('Which bow belongs to it?')
  await expect(page.locator(`[data-head="${at}"]`)).toBeFocused()
})

test('letters typed right after a placeholder was chosen all arrive', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Documents')
  const proof = page.locator('[data-document-proof]')
  await expect(proof).toHaveAttribute('data-painted', /\d/)
  await proof.locator('[data-block="show"]').click()
  const text = page.getByRole('textbox', { name: 'Text', exact: true })
  await text.click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(' {your na', { delay: 20 })
  await page.keyboard.press('Enter')
  await page.keyboard.type(' and abcdefghij', { delay: 5 })
  await expect(text).toContainText(' and abcdefghij')
  await expect(text.locator('.chip', { hasText: 'Your name' })).toBeVisible()
})

test('a submission with a photo is corrected and keeps the photo', async ({ desk: page }) => {
  const made = (await (
    await page.request.post('/api/intakes', {
      data: { name: 'Claim', questions: 'Your name\nYour email\nPhoto of the damage' },
    })
  ).json()) as { id: number; revision: number; design: { slug: string; opening?: object } }
  const changed = await page.request.put(`/api/intakes/${made.id}/design`, {
    data: { revision: made.revision, design: { ...made.design, opening: { correct: true } } },
  })
  expect(changed.ok(), await changed.text()).toBe(true)
  await page.request.put(`/api/intakes/${made.id}/opening`, { data: { open: true } })
  const { design } = await intakeOf(page, made.design.slug)
  await page.goto(`/f/${design.slug}`)
  await page.getByLabel('Your name').fill('Ada')
  await page.getByLabel('Your email').fill('ada@claim.example')
  await page.locator('input[type=file]').setInputFiles(join(import.meta.dirname, '../demo/pictures/bench.jpg'))
  await expect(page.getByRole('button', { name: 'Remove bench.jpg' })).toBeVisible()
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await page.locator('[data-correct]').click()
  await expect(page.getByRole('button', { name: 'Remove bench.jpg' })).toBeVisible()
  await page.getByLabel('Your name').fill('Ada Marsh')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-number]')).toBeVisible()
  await expect
    .poll(async () => (await mailTo(page, 'ada@claim.example')).map((m) => m.subject).join())
    .toContain('revision 2')
})
