import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { extname, join } from 'node:path'
import { accessible, choose } from './house'

const ui = join(import.meta.dirname, '../ui')
const types: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.woff2': 'font/woff2',
  '.svg': 'image/svg+xml',
}
// The program's own policy: nothing of the parts may need a style or a script in the page.
const policy = "default-src 'self'; style-src 'self'; script-src 'self'; img-src 'self' blob:"

test.beforeAll(() => {
  execFileSync(join(ui, 'node_modules/.bin/vite'), ['build', '--config', 'vite.gallery.ts', '--logLevel', 'error'], {
    cwd: ui,
  })
})

async function parts(page: Page) {
  await page.route('http://parts.example/**', (route) => {
    const path = new URL(route.request().url()).pathname.replace('/parts/', '')
    const file = path && path !== '/' ? path : 'index.html'
    return route.fulfill({
      body: readFileSync(join(ui, '../bin/parts', file)),
      contentType: types[extname(file)] ?? 'application/octet-stream',
      headers: { 'Content-Security-Policy': policy },
    })
  })
  const refused: string[] = []
  page.on('console', (m) => m.type() === 'error' && refused.push(m.text()))
  await page.goto('http://parts.example/parts/')
  await page.getByRole('heading', { name: 'Parts' }).waitFor()
  return refused
}

test('every part is accessible and used by keyboard alone', async ({ page }) => {
  const refused = await parts(page)
  await accessible(page)
  const said = page.locator('[data-said]')

  // A list: opened, gone through and chosen by keys; what is disabled is passed over.
  const list = page.getByRole('button', { name: 'one of a few: Ledger' })
  await list.focus()
  await page.keyboard.press('Enter')
  await accessible(page)
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'one of a few: Letter' })).toBeFocused()
  await choose(page, 'Look', /^Ledger/)
  await expect(page.getByRole('button', { name: 'one of a few: Ledger' })).toBeVisible()

  // One of many: found by a part of its words.
  await page.getByRole('combobox', { name: 'One of many' }).fill('wars')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('combobox', { name: 'One of many' })).toHaveValue('Warsaw')

  // A day: typed in the house's order, or chosen in a month.
  const day = page.getByRole('textbox', { name: 'Day', exact: true })
  await expect(day).toHaveValue('24/11/2026')
  await day.fill('31/11/2026')
  await day.press('Tab')
  await expect(page.getByText('Write it as DD/MM/YYYY.')).toBeVisible()
  await day.fill('30.11.26')
  await day.press('Tab')
  await expect(day).toHaveValue('30/11/2026')
  await page.getByRole('button', { name: 'Day, choose in a month' }).press('Enter')
  await accessible(page)
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('PageDown')
  await page.keyboard.press('Enter')
  await expect(day).toHaveValue('01/01/2027')

  // A menu, a dialog, tabs, what is folded away, a switch.
  await page.getByRole('button', { name: 'Menu' }).press('Enter')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(said).toHaveText('removed')
  await page.getByRole('button', { name: 'Dialog' }).press('Enter')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(page.getByRole('button', { name: 'Dialog' })).toBeFocused()
  await page.getByRole('tab', { name: 'One' }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByText('The second.')).toBeVisible()
  await page.getByRole('button', { name: 'More' }).press('Enter')
  await expect(page.getByText('Folded away.')).toBeVisible()
  await page.getByRole('switch', { name: 'on or off' }).press('Space')
  await expect(page.getByRole('switch', { name: 'on or off' })).not.toBeChecked()

  // What is added is found by its name or by what it is for; what is removed is taken back.
  await page.getByRole('combobox', { name: 'Add a block' }).fill('tear')
  await page.keyboard.press('Enter')
  await expect(said).toHaveText('added strip')
  await expect(page.getByRole('combobox', { name: 'Add a block' })).toHaveValue('')
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(said).toHaveText('taken back')

  // A list stays inside the window, also at its edge and on a phone.
  await page.setViewportSize({ width: 360, height: 420 })
  const edge = page.getByRole('button', { name: /^Look: / })
  await edge.scrollIntoViewIfNeeded()
  await edge.click()
  const box = (await page.getByRole('listbox').boundingBox())!
  expect(box.x).toBeGreaterThanOrEqual(0)
  expect(box.x + box.width).toBeLessThanOrEqual(360)
  expect(box.y).toBeGreaterThanOrEqual(0)
  expect(box.y + box.height).toBeLessThanOrEqual(420)
  expect(refused).toEqual([])
})
