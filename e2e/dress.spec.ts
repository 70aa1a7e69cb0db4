import { readFileSync } from 'node:fs'
import { accessible, expect, mailTo, test } from './house'

/** The HTML part of a message (RFC 2045, 6.7: quoted-printable). */
function htmlOf(raw: string): string {
  const part = /Content-Type: text\/html[^]*?\r?\n\r?\n([^]*?)\r?\n--/i.exec(raw)![1]!
  const bytes = part.replace(/=\r?\n/g, '').replace(/=([0-9A-F]{2})/g, (_, hex: string) => `%${hex}`)
  return decodeURIComponent(bytes.replace(/%(?![0-9A-F]{2})/g, '%25'))
}

test('the form, its thanks and its mail wear the house, whatever its colour', async ({ desk: page, browser }) => {
  const house = (await (await page.request.get('/api/house')).json()) as { logo: string }
  for (const accent of ['#FFD400', '#E9EEEA', '#B4004E']) {
    const put = await page.request.put('/api/house', { data: { ...house, accent } })
    expect(put.ok()).toBe(true)
    await page.goto('/f/repair-drop-off')
    await expect(page.locator('[data-minutes]')).toHaveText(/^About \d+ minutes$/)
    await expect(page.getByRole('img', { name: 'Tarn Hollow Instrument Works' })).toBeVisible()
    await accessible(page)
  }
  const band = await page.locator('.button-main').evaluate((b) => getComputedStyle(b).backgroundColor)
  expect(band).toBe('rgb(180, 0, 78)')
  await page.goto('/f/practice-room')
  const cover = page.locator('main > img')
  await expect(cover).toBeVisible()
  expect(await cover.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(0)

  await page.goto('/f/gift')
  await page.getByLabel('Your name').fill('Ada Marsh')
  await page.getByLabel('Your email').fill('ada@dress.example')
  await page.getByLabel('The instrument').fill('small harp')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  const first = page.locator('[data-first-page] canvas')
  await expect(first).toBeVisible({ timeout: 20_000 })
  const dark = await first.evaluate((c: HTMLCanvasElement) => {
    const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height)
    let n = 0
    for (let i = 0; i < data.length; i += 4) if (data[i]! < 128) n++
    return n
  })
  expect(dark, 'the page is painted').toBeGreaterThan(100)
  await accessible(page)

  await expect.poll(async () => (await mailTo(page, 'ada@dress.example')).length, { timeout: 20_000 }).toBe(1)
  const [mail] = await mailTo(page, 'ada@dress.example')
  const raw = await (await page.request.get(`/standin/mailbox/messages/${mail!.id}`)).text()
  expect(raw).toMatch(/Content-Type: text\/plain/i)
  const html = htmlOf(raw)
  expect(html).toContain('background:#B4004E')
  for (const how of [{}, { colorScheme: 'dark' as const }, { viewport: { width: 320, height: 600 } }]) {
    const reader = await (await browser.newContext(how)).newPage()
    await reader.setContent(html)
    const wide = await reader.evaluate(() => [document.documentElement.scrollWidth, innerWidth])
    expect(wide[0], 'the letter is wider than its reader').toBeLessThanOrEqual(wide[1]!)
    await accessible(reader)
    await reader.context().close()
  }
})

test('the house’s own font is on its pages where its licence lets anybody have it', async ({ desk: page }) => {
  const house = (await (await page.request.get('/api/house')).json()) as object
  const font = readFileSync('../core/print/typeface/files/Caladea-Regular.ttf')
  const at = font.readUInt32BE(font.indexOf('OS/2') + 8) + 8
  for (const [licence, faces] of [
    [0, 1],
    [4, 0], // documents may be printed with it, and no more
  ] as const) {
    font.writeUInt16BE(licence, at)
    const added = await page.request.post('/api/fonts', {
      data: font,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    expect(added.ok()).toBe(true)
    const { name } = (await added.json()) as { name: string }
    const fonts = [{ family: 'Own', regular: name }]
    expect((await page.request.put('/api/house', { data: { ...house, font: 'Own', fonts } })).ok()).toBe(true)
    await page.goto('/f/gift')
    await page.evaluate(() => document.fonts.ready)
    expect((await page.request.get('/house-font/regular')).status()).toBe(faces ? 200 : 404)
    const loaded = await page.evaluate(
      () => [...document.fonts].filter((f) => f.family === 'House' && f.status === 'loaded').length,
    )
    expect(loaded, `licence ${licence}`).toBe(faces)
  }
})
