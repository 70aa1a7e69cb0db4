// The form's part of `make bench`: checking a large form in core, typing in the script of forms of 200 and 300 fields, a respondent's
// first field on a throttled phone with all that comes over the wire, and “Show older” in a long register. Ends with one line for
// machines.
import { chromium } from '@playwright/test'
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { options } from './chromium.mjs'

const root = join(import.meta.dirname, '..')
const check = execFileSync('go', ['test', './core/ask/form', '-run', '^$', '-bench', 'Check', '-benchtime', '2s'], {
  cwd: root,
  encoding: 'utf8',
})
const checkMs = Number(/([\d.]+) ns\/op/.exec(check)[1]) / 1e6

const data = mkdtempSync(join(tmpdir(), 'amberseal-bench-'))
const program = spawn(join(root, 'bin/amberseal'), ['demo', '--listen', '127.0.0.1:0', '--data', data], {
  stdio: ['ignore', 'pipe', 'ignore'],
})
const url = await new Promise((resolve) => program.stdout.on('data', (d) => resolve(/http:\/\/[\d.:]+/.exec(d)[0])))
const browser = await chromium.launch(options)
const percentile = (list, p) => list.sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * p))]

/** From each key to the frame in which the proof shows it. */
async function typing() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.request.post(`${url}/api/session`, {
    data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
  })
  const questions = Array.from({ length: 200 }, (_, i) => `Question number ${i + 1} about the instrument`).join('\n')
  const made = await (await page.request.post(`${url}/api/intakes`, { data: { name: 'Large', questions } })).json()
  const key = made.design.form.fields[100].key
  await page.goto(`${url}/intakes/${made.id}/form?line=${key}`)
  const label = page.getByRole('textbox', { name: 'Question', exact: true })
  await label.waitFor()
  await page.waitForTimeout(800)
  await page.evaluate((name) => {
    window.times = []
    const place = document.querySelector(`[data-proof] [data-field="${name}"]`)
    let pressed = 0
    document.addEventListener('keydown', () => (pressed = performance.now()), true)
    new MutationObserver(() =>
      requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - pressed))),
    ).observe(place, {
      subtree: true,
      characterData: true,
      childList: true,
    })
  }, key)
  await label.press('End')
  for (const letter of ' and how it sounds when it is played outside in the cold wind') {
    await label.press(letter === ' ' ? 'Space' : letter)
    await page.waitForTimeout(30)
  }
  await page.waitForTimeout(500)
  const times = await page.evaluate(() => window.times)
  await page.close()
  return percentile(times, 0.95)
}

/** From each key to the next frame, in the script of a form of 300 fields. */
async function keys() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.request.post(`${url}/api/session`, {
    data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
  })
  const questions = Array.from({ length: 300 }, (_, i) => `Question number ${i + 1} about the instrument`).join('\n')
  const made = await (await page.request.post(`${url}/api/intakes`, { data: { name: 'Larger', questions } })).json()
  await page.goto(`${url}/intakes/${made.id}/form?line=${made.design.form.fields[150].key}`)
  const label = page.getByRole('textbox', { name: 'Question', exact: true })
  await label.click()
  await page.waitForTimeout(1500)
  await page.evaluate(() => {
    window.times = []
    const painted = (pressed) =>
      requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - pressed)))
    document.addEventListener('keydown', (e) => painted(e.timeStamp), true)
  })
  await page.keyboard.type('and how it sounds when it is played outside in the cold wind of the north'.repeat(2), {
    delay: 50,
  })
  await page.waitForTimeout(800)
  const times = await page.evaluate(() => window.times)
  await page.close()
  return percentile(times, 0.95)
}

/** A click on “Show older” with 1,500 rows in sight, as many times what it takes with 100. */
async function older() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.request.post(`${url}/api/session`, {
    data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
  })
  for (let i = 0; i < 1700; i++) {
    const answers = { name: `Person ${i}`, email: `p${i}@many.example`, instrument: 'Viola' }
    await page.request.post(`${url}/api/public/intakes/gift/submissions`, { data: { answers } })
  }
  await page.goto(`${url}/register`)
  const button = page.getByRole('button', { name: 'Show older ones' })
  const times = []
  for (let pages = 2; pages <= 32; pages++) {
    const request = page.waitForResponse((r) => /submissions\?.*cursor=/.test(r.url()))
    const start = performance.now()
    await button.click()
    await request
    await page.waitForFunction((n) => document.querySelectorAll('table tbody').length === n, pages)
    await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => setTimeout(r))))
    times.push(performance.now() - start)
  }
  await page.close()
  return percentile(times.slice(-5), 0.5) / percentile(times.slice(0, 5), 0.5)
}

let wire = 0 // kB of the whole page, fonts included
/** From following the link to the first field that can be typed into: a slow 4G and a processor four times slower. */
async function firstField() {
  const times = []
  for (let i = 0; i < 5; i++) {
    const context = await browser.newContext({ viewport: { width: 360, height: 740 } })
    const page = await context.newPage()
    const cdp = await context.newCDPSession(page)
    await cdp.send('Network.enable')
    let bytes = 0
    cdp.on('Network.loadingFinished', (e) => (bytes += e.encodedDataLength))
    await cdp.send('Network.emulateNetworkConditions', {
      offline: false,
      latency: 150,
      downloadThroughput: (1.6 * 1024 * 1024) / 8,
      uploadThroughput: (750 * 1024) / 8,
    })
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: 4 })
    const start = performance.now()
    await page.goto(`${url}/f/repair-drop-off`, { waitUntil: 'commit' })
    await page.locator('#name').waitFor()
    times.push(performance.now() - start)
    await page.waitForTimeout(3000)
    wire = bytes / 1000
    await context.close()
  }
  return percentile(times, 0.5)
}

/** What a plain form loads: the entry's script with what it imports at once, and its style. */
function publicKb() {
  const dist = join(root, 'ui/dist/public')
  const html = readFileSync(join(dist, 'index.html'), 'utf8')
  const names = [...html.matchAll(/assets\/public\/([\w.-]+\.(?:js|css))/g)].map((m) => m[1])
  const bytes = names.reduce((sum, name) => sum + gzipSync(readFileSync(join(dist, name))).length, 0)
  const lazy = readdirSync(dist).filter((f) => /\.js$/.test(f) && !names.includes(f))
  console.log(`A respondent's page loads ${names.join(', ')}; only when needed: ${lazy.join(', ')}.`)
  return bytes / 1024
}

const proof = await typing()
const pressed = await keys()
const first = await firstField()
const flat = await older()
await browser.close()
program.kill()
rmSync(data, { recursive: true, force: true })
console.log(
  `form check_ms=${checkMs.toFixed(2)} proof_p95_ms=${proof.toFixed(0)} key_300_p95_ms=${pressed.toFixed(0)} ` +
    `first_field_ms=${first.toFixed(0)} wire_kb=${wire.toFixed(1)} public_kb=${publicKb().toFixed(1)} older_ratio=${flat.toFixed(2)}`,
)
