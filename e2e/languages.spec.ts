import { accessible, expect, mailTo, test } from './house'

// What notices say: in the language of who answered, with pictures; and reminders of answers that were kept.

test('a notice is written in another language, and who answers in it gets that', async ({ desk: page }) => {
  const { entries } = (await (await page.request.get('/api/intakes')).json()) as {
    entries: { id: number; slug: string }[]
  }
  const id = entries.find((i) => i.slug === 'practice-room')!.id
  await page.goto(`/intakes/${id}/notices`)
  const language = page.getByRole('button', { name: /^Language of the words/ })
  const proof = page.locator('[data-notice-proof]')
  await language.click()
  await page.getByRole('option', { name: 'French not written yet' }).click()
  await expect(page.getByText('Who reads the form in French gets the words as they stand.')).toBeVisible()
  await expect(proof).toContainText('Your booking')
  await page.getByRole('button', { name: 'Write it in French' }).click()
  const subject = page.getByRole('textbox', { name: 'Subject' })
  await subject.click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.type('En français : ')
  await expect(proof).toContainText('En français : Your booking')
  await accessible(page)
  await page.getByRole('button', { name: 'Take out the words in French' }).click()
  await expect(proof).not.toContainText('En français')
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(proof).toContainText('En français : Your booking')
  // The words as they stand are as they were, and so are those in German.
  await language.click()
  await page.getByRole('option', { name: /the form’s own language/ }).click()
  await expect(proof).not.toContainText('En français')
  await language.click()
  await page.getByRole('option', { name: 'German written' }).click()
  await expect(proof).toContainText('Ihre Buchung')
  await expect(page.getByText('All kept')).toBeVisible()
  await page.request.put(`/api/intakes/${id}/opening`, { data: { open: true } })

  const answers = { name: 'Ann', room: 'loft', day: '2027-03-05', time: 'morning', players: 2, rules: true }
  for (const [language, begins] of Object.entries({ fr: 'En français : Your', de: 'Ihre', pl: 'Your', '': 'Your' })) {
    const email = `ann-${language || 'none'}@reader.example`
    const data = { answers: { ...answers, email }, ...(language ? { language } : {}) }
    expect((await page.request.post('/api/public/intakes/practice-room/submissions', { data })).status()).toBe(201)
    await expect.poll(async () => (await mailTo(page, email))[0]?.subject).toMatch(new RegExp(`^${begins} `))
  }
})

test('who keeps answers can ask to be reminded of them', async ({ page }) => {
  await page.goto('/f/practice-room')
  await page.getByLabel('Your name').fill('Ann')
  await page.getByLabel('Your email').fill('ann@reader.example')
  await page.getByRole('button', { name: 'Remind me by email' }).click()
  const asked = page.getByRole('group', { name: 'Remind me by email' })
  await expect(asked.getByRole('textbox')).toBeFocused()
  await expect(asked.getByRole('textbox')).toHaveValue('ann@reader.example')
  await asked.getByRole('textbox').fill('ann at reader')
  await asked.getByRole('button', { name: 'Remind me' }).click()
  await expect(asked.getByRole('alert')).toBeVisible()
  await accessible(page)
  await asked.getByRole('textbox').fill('ann@reader.example')
  await asked.getByLabel('in 3 days').check()
  await asked.getByRole('button', { name: 'Remind me' }).click()
  await expect(asked.getByRole('status')).toContainText('ann@reader.example gets one message on')
  await page.goto('/f/parts-order')
  await expect(page.getByRole('button', { name: 'Continue on another device' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Remind me by email' })).toHaveCount(0)
})

test('a picture stands below the words of a message, and goes', async ({ desk: page }) => {
  const { entries } = (await (await page.request.get('/api/intakes')).json()) as {
    entries: { id: number; slug: string }[]
  }
  await page.goto(`/intakes/${entries.find((i) => i.slug === 'gift')!.id}/notices`)
  const proof = page.locator('[data-notice-proof]')
  const picture = proof.getByRole('img', { name: 'Our bench, with a violin on it' })
  await expect(picture).toBeVisible()
  expect(await picture.evaluate((i: HTMLImageElement) => i.complete && i.naturalWidth > 0)).toBeTruthy()
  await page.getByRole('button', { name: 'Pictures' }).click()
  await page.getByLabel('what it shows').fill('Our bench')
  await expect(proof.getByRole('img', { name: 'Our bench', exact: true })).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Remove it', exact: true }).first().click()
  await expect(proof.getByRole('img')).toHaveCount(0)
})
