// Makes docs/screenshots anew from the demo data: `node e2e/screenshots.mjs URL` against a fresh demo house.
import { chromium } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { options } from './chromium.mjs'

const url = process.argv[2] ?? 'http://127.0.0.1:8080'
const folder = join(import.meta.dirname, '../docs/screenshots')
const browser = await chromium.launch(options)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.request.post(`${url}/api/session`, {
  data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
})
const { entries: intakes } = await (await page.request.get(`${url}/api/intakes`)).json()
const repair = intakes.find((i) => i.slug === 'repair-drop-off').id
const report = intakes.find((i) => i.slug === 'condition-report').id
const failed = (await (await page.request.get(`${url}/api/submissions?state=failed`)).json()).entries[0].id

const views = {
  desk: '/',
  intakes: '/intakes',
  form: `/intakes/${repair}/form?line=phone`,
  documents: `/intakes/${report}/documents?of=report&line=chart`,
  notices: `/intakes/${repair}/notices`,
  filing: `/intakes/${repair}/filing`,
  opening: `/intakes/${repair}/opening`,
  register: '/register',
  submission: `/register/${failed}`,
  post: '/post',
  cabinet: '/cabinet',
  house: '/house',
  people: '/house/people',
}
for (const [name, path] of Object.entries(views)) {
  await page.goto(url + path)
  await page.waitForTimeout(1200)
  if (name === 'post') await page.locator('li button').first().click()
  if (name === 'cabinet') {
    await page.locator('section ul button').nth(1).click()
    await page.waitForTimeout(2000)
  }
  await page.waitForTimeout(200)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
const hired = intakes.find((i) => i.slug === 'hire-agreement').id
await page.goto(`${url}/house/destinations`)
await page.getByRole('button', { name: /Bookkeeper/ }).click()
await page.getByRole('button', { name: 'Keep it and try it' }).click()
await page.locator('[data-trial]').waitFor()
await page.screenshot({ path: join(folder, 'destinations.png') })
await page.goto(`${url}/intakes/${hired}/documents`)
await page.getByLabel('Bring a document').setInputFiles(join(import.meta.dirname, 'files/agreement.docx'))
await page.getByRole('button', { name: /^deposit in words paragraph/ }).click()
await page.waitForTimeout(1500)
await page.screenshot({ path: join(folder, 'brought.png') })
await page.getByRole('button', { name: 'Undo' }).click()
await page.waitForTimeout(1500)
await page.goto(`${url}/intakes/${repair}/form?line=lines.amount`)
await page.getByRole('button', { name: 'whereabouts' }).click()
await page.waitForTimeout(900)
await page.screenshot({ path: join(folder, 'whereabouts.png') })
const entries = (await (await page.request.get(`${url}/api/submissions`)).json()).entries
const hire = entries.find((e) => e.number.startsWith('HA-')).id
const agreement = (await (await page.request.get(`${url}/api/submissions/${hire}`)).json()).documents[0]
await page.goto(url + agreement.check)
await page.waitForTimeout(600)
await page.screenshot({ path: join(folder, 'check.png') })
await page.setViewportSize({ width: 400, height: 800 })
await page.goto(`${url}/f/repair-drop-off`)
await page.waitForTimeout(800)
await page.screenshot({ path: join(folder, 'respondent.png') })

// A page of a document in each look, as poppler paints them, beside each other.
const root = join(import.meta.dirname, '..')
const work = mkdtempSync(join(tmpdir(), 'amberseal-pages-'))
const program = join(root, 'bin/amberseal')
const pages = []
for (const [slug, document, number] of [
  ['repair-drop-off', 'receipt', 'TH-2026-00212'],
  ['gift', 'letter', 'GI-2026-004'],
  ['practice-room', 'confirmation', 'PR-2026-0031'],
  ['hire-agreement', 'care-sheet', 'HA-2026-0012'],
]) {
  const out = join(work, `${slug}.pdf`)
  const file = (part) => join(root, 'demo', part, `${slug}.json`)
  execFileSync(program, [
    'compose',
    ...['--intake', file('intakes'), '--answers', file('answers'), '--house', join(root, 'demo/house.json')],
    ...['--document', document, '--number', number, '--at', '2026-11-24T09:41:00Z', '--out', out],
  ])
  execFileSync('pdftoppm', ['-r', '110', '-l', '1', '-singlefile', '-png', out, join(work, slug)])
  pages.push(`<img src="data:image/png;base64,${readFileSync(join(work, `${slug}.png`)).toString('base64')}">`)
}
const sheet = await browser.newPage({ viewport: { width: 1280, height: 420 } })
await sheet.setContent(
  `<style>body{margin:0;padding:24px;background:#c9d4cc;display:grid;grid-template-columns:1fr 1fr 1fr 1.7fr;gap:20px;align-items:start}
  img{width:100%;box-shadow:0 1px 4px #0005}img:nth-child(3){order:4}</style>${pages.join('')}`,
)
await sheet.waitForTimeout(500)
await sheet.screenshot({ path: join(folder, 'looks.png'), fullPage: true })
await browser.close()
