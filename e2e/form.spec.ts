import { accessible, choose, expect, intakeOf, kept, mailTo, openIntake, test } from './house'

test('a rule said as a sentence hides a field, the trial tells why, and sends nothing', async ({ desk: page }) => {
  await openIntake(page, 'Practice room booking', 'Form')
  await page.locator('[data-head]', { hasText: 'How many players' }).click()
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await choose(page, 'shown always or when', 'when')
  const clause = page.locator('[data-clause]')
  await choose(clause, 'Field', 'Room')
  await choose(clause, 'Value', 'Boathouse')
  const proof = page.locator('[data-proof]')
  await expect(proof.getByLabel('How many players')).toHaveCount(0)
  await page.getByRole('button', { name: /hidden by rules/ }).click()
  await expect(page.locator('[data-rules]')).toContainText(
    '“How many players” is hidden: room = "boathouse" does not hold.',
  )
  await proof.getByLabel('Boathouse').check()
  await expect(proof.getByLabel('How many players')).toBeVisible()
  await page.getByRole('button', { name: 'Try sending it' }).click()
  await expect(page.getByText('✕ Your email: Please answer this question.')).toBeVisible()
  await kept(page)
  // The sentence is read back from the formula, and what cannot be said as one stays a formula.
  await page.reload()
  await page.locator('[data-head]', { hasText: 'How many players' }).click()
  await expect(clause.getByRole('button', { name: 'Value: Boathouse' })).toBeVisible()
  await page.getByRole('button', { name: 'as a formula' }).click()
  await page.getByRole('combobox', { name: 'shown when' }).fill('rom is boathouse')
  await expect(page.getByText('there is no field “rom”').first()).toBeVisible()
  await expect(page.getByText('Did you mean room?').first()).toBeVisible()
  await accessible(page)
  const all = (await (await page.request.get('/api/submissions')).json()) as { all: number }
  expect(all.all).toBe(30)
})

test('a formula is completed while typed, and shows its value and its fault', async ({ desk: page }) => {
  await openIntake(page, 'Parts order', 'Form')
  await page.locator('[data-head]', { hasText: 'Tax' }).click()
  const line = page.getByRole('combobox', { name: 'Formula' })
  await line.fill('')
  await line.pressSequentially('rou')
  await page.keyboard.press('Enter')
  await page.keyboard.type('sum(lines.am')
  await page.keyboard.press('Enter')
  await page.keyboard.type(') * tax_rate, 2')
  await expect(line).toHaveValue('round(sum(lines.amount) * tax_rate, 2)')
  await expect(page.locator('[data-formula-value]')).toContainText('=')
  await line.press('End')
  await page.keyboard.type(' / 0')
  await expect(page.getByText(/Column \d+: this divides by zero/).first()).toBeVisible()
})

test('a used field is removed place by place, and undone in one step', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Form')
  await page.getByRole('button', { name: 'whereabouts' }).click()
  await expect(page.getByText('● Every name has its field')).toBeVisible()
  await page.locator('[data-head]', { hasText: 'Deposit paid' }).click()
  await page.getByRole('button', { name: 'Remove this field' }).click()
  await expect(page.getByRole('heading', { name: 'Remove “Deposit paid”' })).toBeVisible()
  await accessible(page)
  await choose(page, 'Receipt, line 5: what to do', 'put fixed words there')
  await page.getByLabel('Receipt, line 5: words').fill('fifty euros')
  await page.getByRole('button', { name: 'Remove it and mend these places' }).click()
  await expect(page.locator('[data-head]', { hasText: 'Deposit paid' })).toHaveCount(0)
  await kept(page)
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('No findings')
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await expect(page.locator('[data-head]', { hasText: 'Deposit paid' })).toBeVisible()
})

test('a line goes into rows and out again, and every formula follows', async ({ desk: page }) => {
  await openIntake(page, 'Repair drop-off', 'Form')
  const head = page.locator('[data-head]', { hasText: 'Rate' }).first()
  await head.focus()
  await head.press('Alt+ArrowLeft')
  await page.locator('[data-line]', { hasText: 'Rate' }).getByRole('button', { name: 'More', exact: true }).click()
  await expect(page.locator('[data-line]', { hasText: 'Rate' }).getByLabel('key', { exact: true })).toHaveValue('rate')
  await kept(page)
  const formulas = async () => {
    const { design } = await intakeOf(page, 'repair-drop-off')
    const form = design.form as { fields: { key: string; rows?: { fields: { key: string; formula?: string }[] } }[] }
    const lines = form.fields.find((f) => f.key === 'lines')!
    return lines.rows!.fields.map((f) => f.formula ?? f.key)
  }
  await expect.poll(formulas).toEqual(['work', 'note', 'hours', 'round(hours * rate, 2)'])
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('“Rate” is printed nowhere')
})

test('a respondent meets rows, sums, a photo, a signature and another language', async ({ desk: page }) => {
  await page.goto('/f/repair-drop-off')
  await page.getByLabel('Your name').fill('Ada Marsh')
  await page.getByLabel('Your email').fill('ada@rows.example')
  await page.getByRole('button', { name: 'Go on' }).click()
  await page.getByLabel('Viola').check()
  await page.getByLabel('Photo on arrival').setInputFiles('../demo/pictures/bench.jpg')
  await expect(page.getByRole('button', { name: 'Remove bench.jpg' })).toBeVisible()
  await page.getByRole('button', { name: 'Go on' }).click()
  await page.getByLabel('What is wrong').fill('The bridge leans.')
  for (const [work, hours] of [
    ['New bridge', '2.5'],
    ['Sound post', '4.25'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a row' }).click()
    const row = page.locator('[data-row]').last()
    await row.getByLabel(work).check()
    await row.getByLabel('Hours').fill(hours)
  }
  await expect(page.getByRole('status', { name: '' }).or(page.locator('output', { hasText: '€356.40' }))).toContainText(
    ['€356.40'],
  )
  await accessible(page)
  await page.getByRole('button', { name: 'Go on' }).click()
  // Above 300 the telephone is needed: it stands on the first page, where the summary leads.
  await page.getByLabel('I agree').check()
  await page.getByRole('button', { name: 'Read it through' }).click()
  await expect(page.getByRole('alert')).toContainText('Telephone: Please answer this question.')
  await page.getByLabel('Telephone').fill('020 7946 0123')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Go on' }).click()
  const box = (await page.locator('canvas').boundingBox())!
  await page.mouse.move(box.x + 20, box.y + 80)
  await page.mouse.down()
  for (let i = 0; i < 20; i++) await page.mouse.move(box.x + 20 + i * 8, box.y + 80 - 30 * Math.sin(i / 2))
  await page.mouse.up()
  await page.getByLabel('Language').selectOption('pl')
  await expect(page.getByRole('button', { name: 'Przeczytaj jeszcze raz' })).toBeVisible()
  await page.getByRole('button', { name: 'Przeczytaj jeszcze raz' }).click()
  await expect(page.getByText('€356.40')).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Wyślij' }).click()
  const number = await page.locator('[data-number]').innerText()
  await page.goto('/register')
  await page.getByRole('link', { name: number }).click()
  await expect(page.getByRole('definition').filter({ hasText: '020 7946 0123' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'bench.jpg' })).toBeVisible()
  await expect(page.getByRole('definition').filter({ hasText: 'Signed' })).toBeVisible()
})

test('only the fields of what was chosen show, at 360 px and by keyboard', async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 })
  await page.goto('/f/hire-agreement')
  await expect(page.getByLabel('Size')).toHaveCount(0)
  await page.getByLabel('Strings').focus()
  await page.keyboard.press('Space')
  await expect(page.getByRole('radiogroup', { name: 'Size' })).toBeVisible()
  await expect(page.getByRole('radiogroup', { name: 'Reeds' })).toHaveCount(0)
  await page.getByLabel('Date of birth').fill('2016-01-01')
  await page.getByLabel('First day').fill('2026-12-01')
  await expect(page.getByLabel('Guardian’s name')).toBeVisible()
  await page.getByLabel('Last day').fill('2027-02-28')
  await page.getByLabel('Hire for each month').fill('14.50')
  await expect(page.locator('output').filter({ hasText: '€45.24' })).toBeVisible()
  await accessible(page)
})

test('a form keeps its times, its limit and its one answer for each address', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Opening')
  await choose(page, 'one for each', 'Your email')
  await page.getByLabel('takes at most').fill('7')
  await page.getByLabel('takes at most').press('Tab')
  await kept(page)
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await expect(page.getByText('“Your email” ', { exact: false }).or(page.getByText('Version 2')).first()).toBeVisible()
  const send = (email: string) =>
    page.request.post('/api/public/intakes/gift/submissions', {
      data: { answers: { name: 'A', email, instrument: 'Flute' } },
    })
  expect((await send('one@gift.example')).status()).toBe(201)
  const again = await send('One@gift.example')
  expect(again.status()).toBe(422)
  expect(await again.json()).toMatchObject({ findings: [{ path: 'email' }] })
  expect((await send('two@gift.example')).status()).toBe(201)
  expect((await send('three@gift.example')).status()).toBe(201)
  expect((await send('four@gift.example')).status()).toBe(409)
  const opens = page.getByRole('textbox', { name: 'Opens at', exact: true })
  await opens.fill('tomorrow')
  await opens.press('Tab')
  await expect(page.getByText('Write it as DD/MM/YYYY.')).toBeVisible()
  await opens.fill('1.1.2099')
  await opens.press('Tab')
  await page.getByRole('textbox', { name: 'Opens at, time' }).fill('9:00')
  await page.getByRole('textbox', { name: 'Opens at, time' }).press('Tab')
  await kept(page)
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await expect
    .poll(async () => (await page.request.get('/api/public/intakes/gift')).json())
    .toMatchObject({ open: false })
  await page.goto('/f/gift')
  await expect(page.getByText('This form is not open yet.')).toBeVisible()
})

test('an intake begins with a table’s header row', async ({ desk: page }) => {
  await page.goto('/intakes')
  await page.getByRole('button', { name: 'New intake' }).click()
  await page.locator('input[type=file]').setInputFiles({
    name: 'players.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      [
        'Name;Mail;Born;Fee;Band',
        'Ada;ada@a.example;1990-01-02;12,50 €;brass',
        'Bo;bo@b.example;1991-03-04;9,00 €;brass',
        'Cy;cy@c.example;1992-05-06;7,25 €;wind',
        'Di;di@d.example;1993-05-06;7,25 €;wind',
        'Ed;ed@e.example;1994-05-06;7,25 €;wind',
        'Fy;fy@f.example;1995-05-06;7,25 €;brass',
      ].join('\n'),
    ),
  })
  await expect(page.getByRole('status')).toContainText('Mail (email), Born (date), Fee (money), Band (one of several)')
  await page.getByRole('button', { name: 'Make the intake' }).click()
  await expect(page.getByRole('heading', { name: 'players', level: 1 })).toBeVisible()
  await expect(page.locator('[data-head]')).toHaveCount(5)
})

test('invited people answer once, each by a link of their own', async ({ desk: page }) => {
  await openIntake(page, 'Gift of an instrument', 'Opening')
  await page.getByLabel('only by invitation').check()
  await kept(page)
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await page.getByPlaceholder('ada@place.example').fill('Ada <ada@invited.example>; bo@invited.example\nnobody@nowhere')
  await page.getByRole('button', { name: 'Invite them' }).click()
  await expect(page.getByText('2 invited', { exact: true })).toBeVisible()
  await expect(page.getByText('Not an address, and not invited: nobody@nowhere')).toBeVisible()
  await expect.poll(async () => (await mailTo(page, 'ada@invited.example')).length).toBe(1)
  const [mail] = await mailTo(page, 'ada@invited.example')
  const raw = await (await page.request.get(`/standin/mailbox/messages/${mail!.id}`)).text()
  const link = /\/f\/gift\?invitation=3?D?([\w-]+)/.exec(raw.replace(/=\r\n/g, ''))![1]!
  const path = `/f/gift?invitation=${link.replace(/^3D/, '')}`
  await page.goto('/f/gift')
  await expect(page.getByText('This form is answered by personal invitation')).toBeVisible()
  await page.goto(path)
  await page.getByLabel('Your name').fill('Ada')
  await expect(page.getByLabel('Your email')).toHaveValue('ada@invited.example')
  await page.getByLabel('The instrument').fill('Flute')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-number]')).toBeVisible()
  await page.goto(path)
  await expect(page.getByText('This invitation was used already')).toBeVisible()
  await openIntake(page, 'Gift of an instrument', 'Opening')
  await expect(page.getByRole('link', { name: /answered/ })).toBeVisible()
  const refused = await page.request.post('/api/public/intakes/gift/submissions', {
    data: { answers: { name: 'A', email: 'a@b.example', instrument: 'Flute' } },
  })
  expect(refused.status()).toBe(409)
  await accessible(page)
  await page.goto('/post')
  await page.getByRole('tab', { name: 'Invitations' }).click()
  await expect(page.getByText('ada@invited.example')).toBeVisible()
  await expect(page.getByRole('link', { name: /answered/ })).toBeVisible()
})

test('answers are taken up on another device by a personal link', async ({ page, browser, house }) => {
  await page.goto('/f/gift')
  await page.getByLabel('Your name').fill('Zoë')
  await page.getByLabel('Its story').fill('Found in a barn.')
  await page.getByRole('button', { name: 'Continue on another device' }).click()
  const link = await page.locator('[data-go-on]').inputValue()
  const other = await (await browser.newContext({ baseURL: house.url })).newPage()
  await other.goto(link)
  await expect(other.getByLabel('Your name')).toHaveValue('Zoë')
  await expect(other.getByLabel('Its story')).toHaveValue('Found in a barn.')
})

test('what was sent is corrected by a personal link, as a revision that keeps the one before', async ({
  desk: page,
}) => {
  await openIntake(page, 'Gift of an instrument', 'Opening')
  await page.getByLabel('can be corrected by who sent it').check()
  await kept(page)
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await expect(page.getByText('Version 2', { exact: false }).first()).toBeVisible()
  await page.goto('/f/gift')
  await page.getByLabel('Your name').fill('Zoë')
  await page.getByLabel('Your email').fill('zoe@correct.example')
  await page.getByLabel('The instrument').fill('Oboe')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  const number = await page.locator('[data-number]').innerText()
  await expect.poll(async () => (await mailTo(page, 'zoe@correct.example')).length).toBe(1)
  await page.locator('[data-correct]').click()
  await expect(page.getByLabel('The instrument')).toHaveValue('Oboe')
  await page.getByLabel('The instrument').fill('Cor anglais')
  await page.getByRole('button', { name: 'Read it through' }).click()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-number]')).toHaveText(number)
  await expect.poll(async () => (await mailTo(page, 'zoe@correct.example')).length).toBe(2)
  await page.goto('/register')
  await page.getByRole('link', { name: number }).click()
  await expect(page.getByRole('definition').filter({ hasText: 'Cor anglais' })).toBeVisible()
  await expect(page.getByText('revision 2', { exact: true })).toBeVisible()
  await expect(page.getByText('revision 1', { exact: true })).toBeVisible()
  await expect(page.getByText('Corrected by who sent it')).toBeVisible()
})

test('an intake begins with an example, and its language may run from right to left', async ({ desk: page }) => {
  await page.goto('/intakes')
  await page.getByRole('button', { name: 'New intake' }).click()
  await choose(page, 'or begin with an example', 'Practice room booking')
  await expect(page.getByRole('heading', { name: 'Practice room booking', level: 1 })).toBeVisible()
  await page.getByRole('button', { name: 'languages' }).click()
  await choose(page, 'The form’s words in', /^Arabic/)
  await page.getByLabel('Your name in Arabic').fill('اسمك')
  await page.getByLabel('Your name in Arabic').press('Tab')
  await kept(page)
  await page.getByRole('button', { name: 'Open the intake' }).click()
  await expect(page.getByText(/^Open since/)).toBeVisible()
  await page.goto('/f/practice-room-2?language=ar')
  await expect(page.getByLabel('اسمك')).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.dir)).toBe('rtl')
  await accessible(page)
})

test('a strict form asks for work, and shows the document before it is sent', async ({ desk: page, context }) => {
  await openIntake(page, 'Gift of an instrument', 'Opening')
  await choose(page, 'robots', /^must also work/)
  await choose(page, 'shows before sending', 1)
  await page.getByLabel('Where to go after sending').fill('https://www.place.example/thanks')
  await page.getByLabel('Where to go after sending').press('Tab')
  await page.getByRole('button', { name: 'Write your own words of thanks' }).click()
  await page.getByRole('textbox', { name: 'Words of thanks' }).click()
  await page.keyboard.type('We write to you within a week.')
  await kept(page)
  await page.getByRole('button', { name: 'Publish the changes' }).first().click()
  await expect(page.getByText('Version 2', { exact: false }).first()).toBeVisible()
  const answers = { name: 'A', email: 'a@strict.example', instrument: 'Flute' }
  for (const body of [{ answers }, { answers, page: { began: 5000, trap: '', stamp: 'made-up', proof: 'x' } }]) {
    expect((await page.request.post('/api/public/intakes/gift/submissions', { data: body })).status()).toBe(422)
  }
  await page.goto('/f/gift')
  await page.getByLabel('Your name').fill('Ada')
  await page.getByLabel('Your email').fill('ada@strict.example')
  await page.getByLabel('The instrument').fill('Flute')
  await page.getByRole('button', { name: 'Read it through' }).click()
  const made = await page.request.post('/api/public/intakes/gift/preview', { data: { answers } })
  expect((await made.body()).subarray(0, 5).toString()).toBe('%PDF-')
  const preview = page.waitForResponse('**/preview')
  const opened = context.waitForEvent('page')
  await page.getByRole('button', { name: 'The document, as it will be' }).click()
  expect((await preview).headers()['content-type']).toBe('application/pdf')
  await (await opened).close()
  await page.getByRole('button', { name: 'Send it' }).click()
  await expect(page.locator('[data-number]')).toBeVisible()
  await expect(page.getByText('We write to you within a week.')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Go on' })).toHaveAttribute('href', 'https://www.place.example/thanks')
})
