import { readFileSync, writeFileSync } from 'node:fs'
import { accessible, expect, test } from './house'

test('anybody can ask whether a document is genuine: by its code, and by the file itself', async ({
  desk: page,
  house,
  browser,
}) => {
  await page.goto('/register')
  await page.getByRole('link', { name: /^HA-/ }).first().click()
  const check = page.getByRole('link', { name: /^Check .*greement/ })
  const address = (await check.getAttribute('href'))!
  const pdf = await page.request.get(
    (await page
      .getByRole('link', { name: /greement.*\.pdf$/ })
      .first()
      .getAttribute('href'))!,
  )
  const file = `${house.data}/agreement.pdf`
  writeFileSync(file, await pdf.body())

  const stranger = await browser.newContext({ baseURL: house.url, locale: 'en-GB' })
  const seen = await stranger.newPage()
  await seen.goto(address)
  await expect(seen.locator('[data-found=code]')).toContainText('was made here')
  await expect(seen.getByText(/^HA-/)).toBeVisible()
  await seen.getByLabel('Choose the PDF').setInputFiles(file)
  await expect(seen.locator('[data-found=file]')).toContainText('exactly as it was made')
  await accessible(seen)

  const bytes = readFileSync(file)
  bytes[bytes.length - 20] = bytes[bytes.length - 20]! ^ 1
  writeFileSync(file, bytes)
  await seen.getByLabel('Choose the PDF').setInputFiles(file)
  await expect(seen.locator('[data-found=changed]')).toContainText('not made here in this form')

  await seen.getByLabel('Code').fill('7K3M 9QXD 2HVF 8TWN')
  await seen.keyboard.press('Enter')
  await expect(seen.locator('[data-found=unknown]')).toBeVisible()
  await seen.goto('/check/%FF')
  await expect(seen.locator('[data-found=unknown]')).toBeVisible()
  await seen.goto('/check/TRIAL')
  await expect(seen.locator('[data-found=trial]')).toBeVisible()
  await accessible(seen)
  await seen.setViewportSize({ width: 360, height: 740 })
  expect(await seen.evaluate(() => document.documentElement.scrollWidth > innerWidth)).toBe(false)
  await stranger.close()
})
