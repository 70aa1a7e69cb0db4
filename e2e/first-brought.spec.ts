import { join } from 'node:path'
import { expect, mailTo, test } from './house'

test.use({ empty: true })

test('from an empty house to the PDF of a letter with 15 blanks in an inbox: at most 12 actions and three minutes', async ({
  page,
  context,
}) => {
  let actions = 0
  const act = async (what: Promise<unknown>) => {
    actions++
    await what
  }
  const start = Date.now()
  await page.goto('/')
  await act(page.getByRole('button', { name: 'Sign in' }).click())
  // files/letter.docx was made with python-docx.
  await act(page.getByLabel('Choose a file').setInputFiles(join(import.meta.dirname, 'files', 'letter.docx')))
  await page.getByRole('heading', { name: 'Letter', level: 1 }).waitFor()
  await act(page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Opening' }).click())
  await act(page.getByRole('button', { name: 'Open the intake' }).click())
  const opened = context.waitForEvent('page')
  await act(page.getByRole('link', { name: 'See it as a respondent' }).click())
  const form = await opened
  await act(form.getByLabel('Your name').fill('Łucja Brzęk'))
  await act(form.getByLabel('Your email').fill('lucja@brzek.example'))
  await act(form.getByLabel('Instrument').fill('Viola d’amore'))
  await act(form.getByLabel('Deposit').fill('60'))
  await act(form.getByLabel('Deposit').press('Enter')) // reads it through
  await act(form.getByRole('button', { name: 'Send it' }).click())
  const number = await form.locator('[data-number]').innerText()
  await expect.poll(async () => (await mailTo(page, 'lucja@brzek.example')).length, { timeout: 30_000 }).toBe(1)
  const [mail] = await mailTo(page, 'lucja@brzek.example')
  expect(mail!.attachments[0]!.name).toBe(`Letter ${number}.pdf`)
  expect(mail!.attachments[0]!.size).toBeGreaterThan(5000)
  expect(Date.now() - start).toBeLessThan(3 * 60_000)
  expect(actions).toBeLessThanOrEqual(12)
})
