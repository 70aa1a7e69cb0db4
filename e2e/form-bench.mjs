// The form's part of `make bench`: checking a large form in core, typing in the script of a form of 200 fields, and a
// respondent's first field on a throttled phone. Ends with one line for machines.
import { chromium } from '@playwright/test'
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { options } from './chromium.mjs'

const root = join(import.meta.dirname, '..')
const check = execFileSync('go', ['test', './core/form', '-run', '^$', '-bench', 'Check', '-benchtime', '2s'], {
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
  const label = page.getByRole('textbox', { name: 'Label', exact: true })
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

/** From following the link to the first field that can be typed into: a slow 4G and a processor four times slower. */
async function firstField() {
  const times = []
  for (let i = 0; i < 5; i++) {
    const context = await browser.newContext({ viewport: { width: 360, height: 740 } })
    const page = await context.newPage()
    const cdp = await context.newCDPSession(page)
    await cdp.send('Network.enable')
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
const first = await firstField()
await browser.close()
program.kill()
rmSync(data, { recursive: true, force: true })
console.log(
  `form check_ms=${checkMs.toFixed(2)} proof_p95_ms=${proof.toFixed(0)} first_field_ms=${first.toFixed(0)} public_kb=${publicKb().toFixed(1)}`,
)
