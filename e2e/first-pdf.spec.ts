import { expect, mailTo, test } from './house'

test.use({ empty: true })

test('from an empty house to the first PDF in an inbox: at most 8 actions and one minute', async ({
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
  await act(page.getByLabel('Questions').fill('Your name *\nYour email *\nWhat can we do for you?'))
  await act(page.getByRole('button', { name: 'Make it and open it' }).click())
  const opened = context.waitForEvent('page')
  await act(page.getByRole('link', { name: 'See it as a respondent' }).click())
  const form = await opened
  await act(form.getByLabel('Your name').fill('Łucja Brzęk'))
  await act(form.getByLabel('Your email').fill('lucja@brzek.example'))
  await act(form.getByLabel('Your email').press('Enter'))
  await act(form.getByRole('button', { name: 'Send it' }).click())
  const number = await form.locator('[data-number]').innerText()
  await expect.poll(async () => (await mailTo(page, 'lucja@brzek.example')).length).toBe(1)
  const [mail] = await mailTo(page, 'lucja@brzek.example')
  expect(mail!.subject).toContain(number)
  expect(mail!.attachments[0]!.name).toBe(`Receipt ${number}.pdf`)
  expect(mail!.attachments[0]!.size).toBeGreaterThan(5000)
  expect(Date.now() - start).toBeLessThan(60_000)
  expect(actions).toBeLessThanOrEqual(8)
})
