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
  form: `/intakes/${repair}/form?line=phone`,
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
await page.goto(`${url}/intakes/${repair}/form?line=lines.amount`)
await page.getByRole('button', { name: 'whereabouts' }).click()
await page.waitForTimeout(900)
await page.screenshot({ path: join(folder, 'whereabouts.png') })
await page.setViewportSize({ width: 400, height: 800 })
await page.goto(`${url}/f/repair-drop-off`)
await page.waitForTimeout(800)
await page.screenshot({ path: join(folder, 'respondent.png') })
await page.getByLabel('Your name').fill('Ada Marsh')
await page.getByLabel('Your email').fill('ada@marsh.example')
await page.getByRole('button', { name: 'Go on' }).click()
await page.getByLabel('Viola').check()
await page.getByRole('button', { name: 'Go on' }).click()
await page.getByLabel('What is wrong').fill('The bridge leans.')
await page.getByRole('button', { name: 'Add a row' }).click()
await page.getByLabel('New bridge').check()
await page.getByLabel('Hours').fill('2.5')
await page.getByText('€132.00').waitFor()
await page.getByLabel('Hours').evaluate((e) => e.scrollIntoView({ block: 'start' }))
await page.screenshot({ path: join(folder, 'rows.png') })
await browser.close()
