import { rmSync } from 'node:fs'
import { accessible, expect, mailTo, test } from './house'

// Notices that are collected, running registers, and the comparison of what was filed.

type Entry = { id: number; slug: string }
async function intake(page: import('@playwright/test').Page, slug: string) {
  const { entries } = (await (await page.request.get('/api/intakes')).json()) as { entries: Entry[] }
  return entries.find((i) => i.slug === slug)!.id
}

test('a notice is collected each day, and its proof comes to who looks at it', async ({ desk: page }) => {
  await page.goto(`/intakes/${await intake(page, 'gift')}/notices`)
  await page.locator('[data-line="1"] [data-head]').click()
  await page.getByRole('button', { name: 'When it goes' }).click()
  await page.getByRole('button', { name: /at once/i }).click()
  await page.getByRole('option', { name: 'Collected, each day at an hour' }).click()
  await page.getByLabel('at the hour').fill('16:30')
  await page.getByLabel('at the hour').press('Enter')
  await expect(page.locator('[data-line="1"]')).toContainText('collected, each day at 16:30')
  // A subject that speaks of one submission is told at its place.
  await expect(page.getByText('is about one submission, and this notice tells of many').first()).toBeVisible()
  await expect(page.getByText(/It would go on .*16:30/)).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Send it to me' }).click()
  await expect(page.getByText('Sent to owner@tarnhollow.example, marked as a trial.')).toBeVisible()
  const mine = async () =>
    (await mailTo(page, 'owner@tarnhollow.example')).filter((m) => m.subject.startsWith('TRIAL: '))
  await expect.poll(async () => (await mine()).length).toBe(1)
})

test('a running register is made, and has a line for what comes in', async ({ desk: page }) => {
  const id = await intake(page, 'practice-room')
  await page.goto(`/intakes/${id}/filing`)
  await page.getByRole('button', { name: 'Add a running register' }).click()
  await page.getByLabel('name', { exact: true }).last().fill('Bookings')
  const columns = page.getByRole('group', { name: 'Columns, in their order' })
  await expect(columns.getByRole('listitem')).toHaveCount(7)
  await columns.getByLabel('head').nth(2).fill('Who')
  await columns.getByLabel('head').nth(2).press('Enter')
  await columns.getByRole('button', { name: 'Take away' }).nth(1).click()
  await columns.getByRole('button', { name: 'Up' }).nth(1).click()
  const proof = page.locator('[data-register-proof]')
  await expect(proof.getByRole('columnheader').first()).toHaveText('Who')
  await expect(proof.getByRole('columnheader')).toHaveCount(6)
  await expect(proof).toContainText('Not written yet')
  await accessible(page)
  await expect(page.getByText('All kept')).toBeVisible()
  await page.request.put(`/api/intakes/${id}/opening`, { data: { open: true } })
  const answers = {
    name: 'Mireille Ashdown',
    email: 'mireille@ashdown.example',
    room: 'loft',
    day: '2027-03-04',
    time: 'morning',
    players: 2,
    rules: true,
  }
  const sent = await page.request.post('/api/public/intakes/practice-room/submissions', { data: { answers } })
  expect(sent.status()).toBe(201)
  const files = async () =>
    (await (await page.request.get(`/api/intakes/${id}/registers`)).json()) as { lines: number }[]
  await expect.poll(async () => (await files())[0]?.lines ?? 0, { timeout: 20_000 }).toBeGreaterThan(0)
  await page.reload()
  await expect(proof).toContainText(/\d+ lines? · written/)
})

test('what is not as it was filed is found when all is compared', async ({ desk: page, house }) => {
  await page.goto('/cabinet')
  await page.getByRole('link', { name: /^Cabinet \d+ files/ }).click()
  await expect(page.getByRole('link', { name: /^Repairs / })).toBeVisible()
  await page.goBack()
  await expect(page.locator('section ul button').first()).toBeVisible()
  // What is still being filed would come back.
  const open = async () =>
    ((await (await page.request.get('/api/submissions')).json()) as { unfinished: number }).unfinished
  await expect.poll(open, { timeout: 60_000 }).toBeLessThanOrEqual(1)
  for (const folder of ['Gift of an instrument', 'Repair drop-off', 'Repairs', 'Invoices']) {
    rmSync(`${house.data}/cabinet/${folder}`, { recursive: true, force: true })
  }
  await page.getByRole('button', { name: 'Compare all of them' }).click()
  await expect(page.getByText('All that was filed is compared')).toBeVisible()
  const amiss = async () => ((await (await page.request.get('/api/desk')).json()) as { amiss: number }).amiss
  await expect.poll(amiss, { timeout: 30_000 }).toBeGreaterThan(0)
  await page.goto('/cabinet?at=cabinet')
  await expect(page.getByRole('link', { name: /^Repairs ✕ \d+ not as they were filed/ })).toBeVisible()
  await page.goto('/')
  await page.getByRole('link', { name: /not as (it was|they were) filed/ }).click()
  await expect(page.locator('section ul button').first()).toContainText('lost')
  await accessible(page)
})
