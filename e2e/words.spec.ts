import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, intakeOf, test } from './house'

const ui = join(import.meta.dirname, '../ui')
const folder = join(ui, '../bin/pseudo')

// The workshop once more, with every word of its catalogue between marks.
test.beforeAll(() => {
  const args = ['build', '--config', 'vite.admin.ts', '--mode', 'pseudo', '--outDir', folder, '--logLevel', 'error']
  execFileSync(join(ui, 'node_modules/.bin/vite'), args, { cwd: ui })
})

/** What the program itself said, such as names, answers and times: everything else on a screen is a word of the workshop. */
async function marked(page: Page) {
  const said = new Set<string>()
  const gather = (v: unknown): void => {
    if (typeof v === 'string') said.add(v)
    else if (v && typeof v === 'object') for (const part of Object.values(v)) gather(part)
  }
  page.on('response', (r) => {
    if (r.url().includes('/api/') && r.headers()['content-type']?.includes('json'))
      void r.json().then(gather, () => undefined)
  })
  await page.route('**/*', async (route) => {
    const { pathname } = new URL(route.request().url())
    if (pathname.startsWith('/assets/admin/')) {
      const name = join(folder, pathname.replace('/assets/admin/', ''))
      return route.fulfill({ path: name })
    }
    if (route.request().resourceType() !== 'document' || route.request().frame() !== page.mainFrame())
      return route.fallback()
    const response = await route.fetch()
    return route.fulfill({ response, body: readFileSync(join(folder, 'index.html'), 'utf8') })
  })
  return said
}

// What Unicode's CLDR names: it has these in every language.
const currencies = Intl.supportedValuesOf('currency')
const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
const coded = {
  currency: currencies,
  language: ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'es-ES', 'pl-PL', 'ja-JP'],
  region: letters.flatMap((a) => letters.map((b) => a + b)),
}
const named = (type: keyof typeof coded) => {
  const names = new Intl.DisplayNames('en-GB', { type })
  return coded[type].map((c) => names.of(c)!)
}
const zones = Intl.supportedValuesOf('timeZone').flatMap((z) => z.split('/'))
const ofThePlatform = [
  'UTC',
  'GMT',
  ...zones,
  ...zones.map((z) => z.replaceAll('_', ' ')),
  ...currencies,
  ...named('currency'),
  ...named('language'),
  ...named('region').filter((n) => n.length > 2),
].join('\n')
const days = 'Sunday Monday Tuesday Wednesday Thursday Friday Saturday'
const months = 'January February March April May June July August September October November December'
const dates = new RegExp(
  `\\b(${[...days.split(' '), ...months.split(' ')].map((d) => `${d}|${d.slice(0, 3)}`).join('|')}|Sept|at|kB|MB)\\b`,
  'g',
)

/** The words on the screen that stand outside the marks and that the program did not say. */
async function strange(page: Page, said: Set<string>): Promise<string[]> {
  const texts = await page.evaluate(() => {
    const out: string[] = [document.title.replace(' · Amber Seal', '')]
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    for (let n = walk.nextNode(); n; n = walk.nextNode())
      if (!n.parentElement?.closest('script, style, kbd, pre, [data-proof]')) out.push(n.textContent ?? '')
    for (const at of ['aria-label', 'placeholder', 'title', 'alt'])
      for (const e of document.querySelectorAll(`[${at}]`))
        if (!e.closest('[data-proof]')) out.push(e.getAttribute(at) ?? '')
    return out
  })
  const all = [...[...said].filter((s) => !/^[a-z_]+$/.test(s)), ofThePlatform].join('\n')
  return texts.filter((text) => {
    let rest = text
    while (/⟦[^⟦⟧]*⟧/.test(rest)) rest = rest.replaceAll(/⟦[^⟦⟧]*⟧/g, '\n')
    const parts = rest.replaceAll(dates, '\n').split(/[\n,:·“”()|/▸+-]|\d+/)
    return parts.some((p) => /[A-Za-z]{2}/.test(p) && !all.includes(p.trim()))
  })
}

// A font, a size of paper, a pattern, a formula, an example of an address, and a path under its destination are the same in every language.
const names = new RegExp(
  `^(${[
    'https://(s3|cloud)\\.example.*|files\\.example:22|/srv/records|eu-central-1|mail\\.house\\.example|Cabinet (Repairs|Bench)/.*',
    'IBM Plex Sans|STARTTLS|TLS|Legal|Tabloid|AA-####|DD/MM/YYYY|= true|deposit > 0 and kind is hire',
  ].join('|')})$`,
)

test('every word of the workshop stands in its catalogue', async ({ desk: page }) => {
  test.setTimeout(240_000)
  const { id } = await intakeOf(page, 'repair-drop-off')
  const report = (await intakeOf(page, 'condition-report')).id
  const said = await marked(page)
  const found: Record<string, string[]> = {}
  const look = async (where: string) => {
    let odd: string[] = []
    for (const pause of [250, 1000, 2000]) {
      await page.waitForTimeout(pause)
      odd = (await strange(page, said)).map((s) => s.trim()).filter((s) => !names.test(s))
      if (!odd.length) return // else an answer of the program may show before it is gathered here
    }
    found[where] = [...new Set(odd)]
  }
  const house = ['/house', '/house/people', '/house/mail', '/house/destinations']
  const places = ['/', '/intakes', '/register', '/post', '/cabinet', ...house, '/account', '/nowhere']
  const stations = ['form?line=lines.amount', 'documents', 'notices', 'filing', 'opening'].map(
    (s) => `/intakes/${id}/${s}`,
  )
  for (const path of [...places, ...stations, `/intakes/${report}/documents?of=report&line=chart`, '/register/1']) {
    await page.goto(path)
    await expect(page.locator('h1').first()).toBeVisible()
    await look(path)
    for (const more of await page.locator('button[aria-expanded=false]:visible').all()) {
      if (!(await more.isVisible())) continue
      await more.click({ timeout: 2000 }).catch(() => undefined)
      await look(`${path}, opened`)
      await page.keyboard.press('Escape')
    }
  }
  expect(found).toEqual({})
})
