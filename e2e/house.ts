import AxeBuilder from '@axe-core/playwright'
import { test as base, expect, type Locator, type Page } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const program = process.env.AMBERSEAL ?? join(import.meta.dirname, '../bin/amberseal')

export interface House {
  url: string
  data: string
}

interface Fixtures {
  empty: boolean
  house: House
  desk: Page
}

/** Each test has a demo house of its own; `desk` is a page that is signed in. Any error in the console fails the test. */
export const test = base.extend<Fixtures>({
  empty: [false, { option: true }],
  house: async ({ empty }, use) => {
    const data = mkdtempSync(join(tmpdir(), 'amberseal-e2e-'))
    const args = ['demo', '--listen', '127.0.0.1:0', '--data', data, ...(empty ? ['--empty'] : [])]
    const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'ignore'] })
    const url = await new Promise<string>((resolve, reject) => {
      child.stdout.on('data', (text: Buffer) => {
        const m = /http:\/\/[\d.:]+/.exec(text.toString())
        if (m) resolve(m[0])
      })
      child.on('exit', () => reject(new Error('the program ended before it listened')))
    })
    await use({ url, data })
    child.kill('SIGTERM')
    await new Promise((resolve) => child.on('exit', resolve))
    rmSync(data, { recursive: true, force: true })
    rmSync(`${data}.key`, { force: true }) // of its secrets
  },
  baseURL: async ({ house }, use) => use(house.url),
  page: async ({ page }, use) => {
    const errors: string[] = []
    page.on(
      'console',
      (m) =>
        m.type() === 'error' &&
        !/status of (4\d\d|502)|net::ERR_FAILED|Failed to fetch dynamically/.test(m.text()) &&
        errors.push(m.text()),
    )
    page.on('pageerror', (e) => /Failed to fetch dynamically/.test(e.message) || errors.push(e.message))
    await use(page)
    expect(errors, 'the console must stay clean').toEqual([])
  },
  desk: async ({ page }, use) => {
    const signedIn = await page.request.post('/api/session', {
      data: { email: 'owner@tarnhollow.example', password: 'amber-and-paper' },
    })
    expect(signedIn.ok()).toBe(true)
    await use(page)
  },
})

/** The WCAG 2.2 AA rules that axe can check find nothing on the page. */
export async function accessible(page: Page) {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`)).toEqual([])
}

export interface Mail {
  id: string
  to: string[]
  subject: string
  attachments: { name: string; size: number }[]
}

export async function mailTo(page: Page, address: string): Promise<Mail[]> {
  const all = (await (await page.request.get('/standin/mailbox/messages')).json()) as Mail[]
  return all.filter((m) => m.to.includes(address))
}

/** Opens an intake of the demo in the workspace. */
export async function openIntake(page: Page, name: string, station: string) {
  await page.goto('/intakes')
  await page.getByRole('link', { name, exact: true }).click()
  await page.getByRole('heading', { name, level: 1 }).waitFor()
  if (station !== 'Form')
    await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: station }).click()
}

export async function kept(page: Page) {
  await expect(page.locator('[data-keeping]')).toHaveText('All kept')
}

/** Chooses from a list of the workshop by its label: an option by its words, or by its place. */
export async function choose(scope: Page | Locator, label: string, which: string | RegExp | number) {
  const page = 'page' in scope ? scope.page() : scope
  const plain = label.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  await scope.getByRole('button', { name: new RegExp(`^${plain}: `, 'i') }).click()
  const options = page.getByRole('option')
  const name = typeof which === 'string' ? { name: which, exact: true } : { name: which as RegExp }
  await (typeof which === 'number' ? options.nth(which) : page.getByRole('option', name)).click()
}

/** Adds a block behind the chosen line. */
export async function addBlock(page: Page, words: string) {
  await page.getByRole('combobox', { name: 'Add a block' }).fill(words)
  await page
    .getByRole('option', { name: new RegExp(`^${words}`) })
    .first()
    .click()
}

export { expect }

/** The intake with an address, as the program keeps it. */
export async function intakeOf<D extends object = { slug: string; form: object; opening?: object }>(
  page: Page,
  slug: string,
) {
  const all = (await (await page.request.get('/api/intakes')).json()) as { entries: { id: number; slug: string }[] }
  const { id } = all.entries.find((i) => i.slug === slug)!
  const intake = await (await page.request.get(`/api/intakes/${id}`)).json()
  return intake as { id: number; revision: number; design: D }
}
