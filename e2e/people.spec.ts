import { accessible, expect, intakeOf, mailTo, test } from './house'

test('somebody is asked in by a letter, chooses a password, and sees the one intake they work on', async ({
  desk: page,
  house,
  browser,
}) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'House' }).click()
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByRole('button', { name: 'Ask somebody in' }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('Name').fill('Sorrel Finch')
  await sheet.getByLabel('Email').fill('sorrel')
  await sheet.getByRole('button', { name: /^In the house/ }).click()
  await page.getByRole('option', { name: /^guest/ }).click()
  await sheet.getByRole('combobox', { name: 'Add an intake', exact: true }).fill('gift')
  await page.getByRole('option', { name: 'Gift of an instrument' }).click()
  await sheet.getByRole('button', { name: 'Send the letter' }).click()
  await expect(sheet.getByRole('alert')).toContainText('“sorrel” is not an email address')
  await sheet.getByLabel('Email').fill('sorrel@finch.example')
  await accessible(page)
  await sheet.getByRole('button', { name: 'Send the letter' }).click()
  await expect(sheet).toBeHidden()
  const line = page.getByRole('button', { name: /Sorrel Finch/ })
  await expect(line).toContainText('guest on one intake')

  await expect.poll(async () => (await mailTo(page, 'sorrel@finch.example')).length).toBe(1)
  const { id } = (await mailTo(page, 'sorrel@finch.example'))[0]!
  const letter = await (await page.request.get(`/standin/mailbox/messages/${id}`)).text()
  const token = /welcome\/([\w-]{32})/.exec(letter.replace(/=\r?\n/g, ''))![1]!
  const other = await browser.newContext({ baseURL: house.url })
  const theirs = await other.newPage()
  await theirs.goto(`/welcome/${token}`)
  await theirs.getByLabel('Password', { exact: true }).fill('short')
  await theirs.getByRole('button', { name: 'Go in' }).click()
  await expect(theirs.getByRole('alert')).toContainText('at least 12 characters')
  await theirs.getByLabel('Password', { exact: true }).fill('thistle and dock leaves')
  await accessible(theirs)
  await theirs.getByRole('button', { name: 'Go in' }).click()
  await expect(theirs.getByRole('link', { name: 'Sorrel Finch' })).toBeVisible()
  await theirs.goto('/intakes')
  await expect(theirs.locator('tbody tr')).toHaveCount(1)
  await expect(theirs.locator('tbody')).toContainText('Gift of an instrument')
  await expect(theirs.getByRole('link', { name: 'House' })).toBeHidden()
  await theirs.goto('/register')
  await expect(theirs.locator('main')).not.toContainText('Repair drop-off')

  // They change their password; then they are let go, and are out at once.
  await theirs.goto('/account')
  await theirs.getByLabel('The present one').fill('thistle and dock leaves')
  await theirs.getByLabel(/^The new one/).fill('nettle and dock leaves')
  await theirs.getByRole('button', { name: 'Keep the new password' }).click()
  await expect(theirs.getByRole('status').filter({ hasText: 'kept' })).toBeVisible()
  await line.click()
  await page.getByRole('button', { name: 'Let them go' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Let them go' }).click()
  await expect(line).toBeHidden()
  await theirs.goto('/intakes')
  await expect(theirs).toHaveURL(/sign-in/)
  await other.close()
})

test('who may only look finds every setting and can change none', async ({ page }) => {
  await page.request.post('/api/session', { data: { email: 'teodor@lunn.example', password: 'amber-and-paper' } })
  const { id, revision } = await intakeOf(page, 'repair-drop-off')
  for (const station of ['form?line=name', 'documents', 'notices', 'filing', 'opening']) {
    await page.goto(`/intakes/${id}/${station}`)
    await expect(page.locator('[data-looking]')).toBeVisible()
    const script = page.getByRole('region', { name: 'Script' })
    if (station !== 'opening') {
      await expect(script.locator('[data-head]').first()).toBeVisible()
      if ((await script.locator('[data-head][aria-expanded=true]').count()) === 0)
        await script.locator('[data-head]').nth(1).click()
      await expect(script.locator('button:enabled').filter({ hasText: /^\s*(Add|Remove|Move)/ })).toHaveCount(0)
    }
    const open = await page
      .locator('section input, section textarea, section [contenteditable], section fieldset button')
      .evaluateAll((all) =>
        all
          .filter((e) => e.checkVisibility() && !e.closest('[data-proof]'))
          .filter((e) => !e.matches(':disabled') && e.getAttribute('contenteditable') !== 'false')
          .map((e) => e.outerHTML.slice(0, 120)),
      )
    expect(open, station).toEqual([])
    await page.keyboard.press('Delete')
  }
  expect((await intakeOf(page, 'repair-drop-off')).revision).toBe(revision)
  await accessible(page)
})
