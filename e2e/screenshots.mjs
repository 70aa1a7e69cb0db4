// Makes docs/screenshots anew from the demo data: `node e2e/screenshots.mjs URL` against a fresh demo house.
import { chromium } from '@playwright/test'
import { join } from 'node:path'

const url = process.argv[2] ?? 'http://127.0.0.1:8080'
const folder = join(import.meta.dirname, '../docs/screenshots')
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.request.post(`${url}/api/session`, {
  data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
})
const intakes = await (await page.request.get(`${url}/api/intakes`)).json()
const repair = intakes.find((i) => i.design.slug === 'repair-drop-off').id
const failed = (await (await page.request.get(`${url}/api/submissions?state=failed`)).json()).entries[0].id

const views = {
  desk: '/',
  intakes: '/intakes',
  form: `/intakes/${repair}/form?line=instrument`,
  documents: `/intakes/${repair}/documents?of=receipt&line=thanks`,
  notices: `/intakes/${repair}/notices`,
  filing: `/intakes/${repair}/filing`,
  opening: `/intakes/${repair}/opening`,
  register: '/register',
  submission: `/register/${failed}`,
  post: '/post',
  cabinet: '/cabinet',
  house: '/house',
  mailbox: '/standin/mailbox',
}
for (const [name, path] of Object.entries(views)) {
  await page.goto(url + path)
  await page.waitForTimeout(1200)
  if (name === 'post') await page.locator('li button').first().click()
  await page.waitForTimeout(200)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
await page.setViewportSize({ width: 400, height: 800 })
await page.goto(`${url}/f/repair-drop-off`)
await page.waitForTimeout(800)
await page.screenshot({ path: join(folder, 'respondent.png') })
await browser.close()
