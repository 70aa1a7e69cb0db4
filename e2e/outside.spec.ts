import Ajv2020 from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { createRequire } from 'node:module'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PDFDocument } from 'pdf-lib'
import { expect, test, intakeOf } from './house'

// Checks against programs and standards that are not ours; each test names them.

const program = process.env.AMBERSEAL ?? join(import.meta.dirname, '../bin/amberseal')
const demo = join(import.meta.dirname, '../demo')
const run = (...args: string[]) => execFileSync(program, args, { encoding: 'utf8' })
const intakes = ['repair-drop-off', 'hire-agreement', 'condition-report', 'practice-room', 'gift', 'parts-order']

test('the JSON Schema of every form is valid 2020-12, takes its answers and refuses wrong ones (ajv)', () => {
  for (const slug of intakes) {
    const schema = JSON.parse(run('schema', '--intake', `${demo}/intakes/${slug}.json`)) as object
    const ajv = new Ajv2020({ strict: true, strictTypes: false, allErrors: true })
    addFormats(ajv)
    expect(ajv.validateSchema(schema), JSON.stringify(ajv.errors)).toBe(true)
    const validate = ajv.compile(schema)
    const answers = JSON.parse(readFileSync(`${demo}/answers/${slug}.json`, 'utf8')) as Record<string, unknown>
    expect(validate(answers), `${slug}: ${JSON.stringify(validate.errors)}`).toBe(true)
    // What is kept is valid too, calculated values among it.
    const kept = JSON.parse(
      run('check', '--intake', `${demo}/intakes/${slug}.json`, '--answers', `${demo}/answers/${slug}.json`),
    ) as { answers: object; findings: unknown[] }
    expect(kept.findings).toEqual([])
    expect(validate(kept.answers), `${slug}: ${JSON.stringify(validate.errors)}`).toBe(true)
    for (const wrong of [
      { ...answers, email: 'nobody' },
      { ...answers, extra: 1 },
      { ...answers, name: undefined, player: undefined, shelf: undefined },
    ]) {
      expect(validate(JSON.parse(JSON.stringify(wrong))), `${slug} took ${JSON.stringify(wrong).slice(0, 80)}`).toBe(
        false,
      )
    }
  }
})

test('a form made of its own JSON Schema asks the same', async ({ desk: page }) => {
  const schema = run('schema', '--intake', `${demo}/intakes/parts-order.json`)
  const r = await page.request.post('/api/questions/schema', {
    data: Buffer.from(schema),
    headers: { 'Content-Type': 'application/octet-stream' },
  })
  const { fields } = (await r.json()) as {
    fields: { key: string; kind: string; required?: boolean; rows?: { fields: { key: string; kind: string }[] } }[]
  }
  const asked = JSON.parse(readFileSync(`${demo}/intakes/parts-order.json`, 'utf8')) as {
    form: { fields: { key: string; kind: string; required?: boolean }[] }
  }
  const plain = (list: { key: string; kind: string; required?: boolean }[]) =>
    list.filter((f) => f.kind !== 'section').map((f) => `${f.key} ${f.kind} ${f.required ?? false}`)
  expect(plain(fields)).toEqual(plain(asked.form.fields))
  expect(fields.find((f) => f.key === 'lines')!.rows!.fields.map((f) => f.key)).toEqual([
    'part',
    'quantity',
    'price',
    'amount',
  ])
})

test('the fillable copy is filled by pdf-lib, listed by qpdf, and read back', async ({ desk: page }) => {
  const dir = mkdtempSync(join(tmpdir(), 'amberseal-fill-'))
  const blank = join(dir, 'blank.pdf')
  run(
    'blank',
    '--intake',
    `${demo}/intakes/repair-drop-off.json`,
    '--house',
    `${demo}/house.json`,
    '--fillable',
    '--out',
    blank,
  )
  execFileSync('qpdf', ['--check', blank])
  const listed = JSON.parse(execFileSync('qpdf', ['--json', '--json-key=acroform', blank], { encoding: 'utf8' })) as {
    acroform: { fields: { fullname: string; alternativename: string }[] }
  }
  const names = listed.acroform.fields.map((f) => f.fullname)
  for (const want of [
    'name',
    'email',
    'address.city',
    'instrument',
    'accessories.bow',
    'lines.0.hours',
    'lines.5.note',
    'agree',
  ]) {
    expect(names, `qpdf lists no ${want}`).toContain(want)
  }
  const pdf = await PDFDocument.load(readFileSync(blank))
  const form = pdf.getForm()
  form.getTextField('name').setText('Ada O’Marsh')
  form.getTextField('email').setText('ada@paper.example')
  form.getTextField('address.city').setText('Tarn Hollow')
  form.getTextField('address.street').setText('4 Weir Lane')
  form.getRadioGroup('instrument').select('viola')
  form.getCheckBox('accessories.bow').check()
  form.getTextField('fault').setText('The bridge leans.\nIt buzzes.')
  form.getDropdown('lines.0.work').select('new_bridge')
  form.getTextField('lines.0.hours').setText('2.5')
  form.getTextField('lines.0.rate').setText('1,048.00')
  form.getTextField('needed_on').setText('24/12/2026')
  form.getTextField('phone').setText('020 7946 0123')
  form.getCheckBox('agree').check()
  form.getRadioGroup('reminder').select('no')
  const filled = join(dir, 'filled.pdf')
  writeFileSync(filled, await pdf.save())
  const answers = JSON.parse(
    run('read', '--intake', `${demo}/intakes/repair-drop-off.json`, '--house', `${demo}/house.json`, filled),
  ) as Record<string, unknown>
  expect(answers).toEqual({
    name: 'Ada O’Marsh',
    email: 'ada@paper.example',
    phone: '020 7946 0123',
    address: { street: '4 Weir Lane', city: 'Tarn Hollow' },
    instrument: 'viola',
    accessories: ['bow'],
    fault: 'The bridge leans.\nIt buzzes.',
    lines: [{ work: 'new_bridge', hours: '2.5', rate: '1048.00' }],
    needed_on: '2026-12-24',
    agree: true,
    reminder: false,
  })
  const { id } = await intakeOf(page, 'repair-drop-off')
  const post = (data: Buffer) =>
    page.request.post(`/api/intakes/${id}/copies`, { data, headers: { 'Content-Type': 'application/octet-stream' } })
  const taken = await post(readFileSync(filled))
  expect(taken.status(), await taken.text()).toBe(201)
  const empty = await post(readFileSync(blank))
  expect(empty.status()).toBe(422)
  expect(JSON.stringify(await empty.json())).toContain('"path":"name"')
  for (const hostile of [
    'not a PDF',
    '%PDF-1.7\n1 0 obj<</Type/Catalog>>endobj\n2147483648 0 obj<<>>endobj\ntrailer<</Root 1 0 R/Size 2147483649>>',
  ]) {
    const refused = await post(Buffer.from(hostile))
    expect(refused.status()).toBe(422)
  }
})

test('a photo is turned upright and loses where it was taken (EXIF 2.32 by piexifjs)', async ({ desk: page }) => {
  interface Piexif {
    ImageIFD: { Orientation: number }
    GPSIFD: { GPSLatitudeRef: number; GPSLatitude: number }
    dump(exif: object): string
    insert(exif: string, jpeg: string): string
    load(jpeg: string): { GPS?: object; '0th'?: object }
  }
  const piexif = createRequire(import.meta.url)('piexifjs') as Piexif
  const plain = readFileSync(`${demo}/pictures/bench.jpg`)
  const exif = piexif.dump({
    '0th': { [piexif.ImageIFD.Orientation]: 6 },
    GPS: {
      [piexif.GPSIFD.GPSLatitudeRef]: 'N',
      [piexif.GPSIFD.GPSLatitude]: [
        [54, 1],
        [27, 1],
        [0, 1],
      ],
    },
  })
  const sideways = Buffer.from(piexif.insert(exif, plain.toString('latin1')), 'latin1')
  const up = await page.request.post(
    '/api/public/intakes/repair-drop-off/uploads/arrival?name=..%2Fin%20the%20shed.JPG',
    {
      data: sideways,
      headers: { 'Content-Type': 'application/octet-stream' },
    },
  )
  const file = (await up.json()) as { id: string; name: string; type: string }
  expect(file).toMatchObject({ name: 'in the shed.JPG', type: 'image/jpeg' })
  const kept = await (await page.request.get(`/api/uploads/${file.id}`)).body()
  const left = piexif.load(kept.toString('latin1'))
  expect([Object.keys(left.GPS ?? {}).length, Object.keys(left['0th'] ?? {}).length]).toEqual([0, 0])
  const size = (jpeg: Buffer) =>
    page.evaluate(async (b64) => {
      const img = await createImageBitmap(await (await fetch(`data:image/jpeg;base64,${b64}`)).blob())
      return [img.width, img.height]
    }, jpeg.toString('base64'))
  await page.goto('about:blank')
  const [w, h] = await size(plain)
  expect(await size(kept)).toEqual([h, w])
})

test('the form stands in a page of another origin that is listed, and in no other', async ({ desk: page, house }) => {
  const site = createServer((_, res) => {
    res.setHeader('Content-Type', 'text/html')
    res.end(
      `<!doctype html><html lang="en"><title>Site</title><h1>Site</h1><div data-amberseal="${house.url}/f/gift"></div>
<script src="${house.url}/embed.js" defer></script>`,
    )
  })
  await new Promise<void>((done) => site.listen(0, '127.0.0.1', done))
  const origin = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
  try {
    const framed = await page.context().newPage()
    const refused = framed.waitForEvent('console', (m) => m.text().includes('frame-ancestors'))
    await framed.goto(origin)
    await refused
    await expect(framed.frameLocator('iframe').getByLabel('Your name')).toHaveCount(0)
    // Instead of the browser's empty place there is a way to the form.
    const link = framed.getByRole('link', { name: 'Open the form in a page of its own' })
    await expect(link).toHaveAttribute('href', `${house.url}/f/gift`)
    await expect(framed.locator('iframe')).toBeHidden()
    const gift = await intakeOf(page, 'gift')
    gift.design.opening = { sites: [origin] }
    await page.request.put(`/api/intakes/${gift.id}/design`, { data: { revision: gift.revision, design: gift.design } })
    await page.request.put(`/api/intakes/${gift.id}/opening`, { data: { open: true } })
    await framed.reload()
    const form = framed.frameLocator('iframe')
    await form.getByLabel('Your name').fill('Íñigo')
    await form.getByLabel('Your email').fill('inigo@framed.example')
    await form.getByLabel('The instrument').fill('Clarinet')
    await expect(link).toHaveCount(0)
    await expect.poll(async () => framed.locator('iframe').evaluate((e) => e.clientHeight)).toBeGreaterThan(700)
    await form.getByRole('button', { name: 'Read it through' }).click()
    await form.getByRole('button', { name: 'Send it' }).click()
    await expect(form.locator('[data-number]')).toBeVisible()
  } finally {
    site.close()
  }
})

test('the code of the form’s address is read by zbarimg, as PNG and as SVG', async ({ desk: page, house }) => {
  const gift = await intakeOf(page, 'gift')
  const dir = mkdtempSync(join(tmpdir(), 'amberseal-code-'))
  const png = join(dir, 'code.png')
  writeFileSync(png, await (await page.request.get(`/api/intakes/${gift.id}/code.png`)).body())
  await page.goto(`/api/intakes/${gift.id}/code.svg`)
  const drawn = join(dir, 'drawn.png')
  await page.screenshot({ path: drawn })
  for (const file of [png, drawn]) {
    expect(execFileSync('zbarimg', ['--raw', '-q', file], { encoding: 'utf8' }).trim()).toBe(`${house.url}/f/gift`)
  }
})

test('a picture with gradients is printed as Chromium paints it', async ({ desk: page }) => {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200" viewBox="0 0 300 200"><defs>
    <linearGradient id="a">
      <stop offset="0" stop-color="#C0673F"/><stop offset="0.5" stop-color="#E2931A"/><stop offset="1" stop-color="#1F4F8A"/>
    </linearGradient>
    <linearGradient id="b" x1="0" y1="0" x2="0" y2="1">
      <stop offset="0.5" stop-color="#17593E"/>
      <stop offset="0.5" stop-color="#FFD080"/><stop offset="1" stop-color="#A3262A"/></linearGradient>
    <radialGradient id="c" cx="0.5" cy="0.5" r="0.5" fx="0.3" fy="0.3">
      <stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#8A4B00" stop-opacity="0.6"/></radialGradient>
    <linearGradient id="e" gradientUnits="userSpaceOnUse" x1="20" y1="120" x2="120" y2="180">
      <stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>
    <linearGradient id="f" gradientTransform="rotate(45)">
      <stop offset="0" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000"/></linearGradient></defs>
    <rect x="10" y="10" width="80" height="60" fill="url(#a)"/><rect x="110" y="10" width="60" height="80" rx="10" fill="url(#b)"/>
    <circle cx="230" cy="50" r="40" fill="url(#c)"/>
    <g transform="translate(150 120) rotate(20) scale(1.2)"><ellipse cx="30" cy="20" rx="40" ry="20" fill="url(#c)"/></g>
    <path d="M20 120 h100 v60 h-100 z" fill="url(#e)"/><rect x="225" y="120" width="60" height="60" fill="url(#f)"/></svg>`
  const kept = await page.request.post('/api/pictures', {
    data: Buffer.from(svg),
    headers: { 'Content-Type': 'application/octet-stream' },
  })
  const { name } = (await kept.json()) as { name: string }
  const side = (pixels: number) => (pixels / 96) * 25.4 // millimetres at 96 pixels an inch
  const none = { top: 0, right: 0, bottom: 0, left: 0 }
  const design = {
    ...{ amberseal: 1, slug: 'g', name: 'G', number: 'G-{n}', form: { fields: [] }, notices: [], filings: [] },
    documents: [
      {
        ...{ key: 'd', name: 'D', title: 'D', fileName: 'D', footer: [], archival: 'a-1b' },
        page: { width: side(300), height: side(220), margins: none },
        blocks: [{ id: 'p', kind: 'picture', picture: name, alt: 'Gradients', width: side(300), height: side(200) }],
      },
    ],
  }
  const proof = await page.request.post('/api/proofs/document', { data: { design, key: 'd', answers: 'made-up' } })
  const dir = mkdtempSync(join(tmpdir(), 'amberseal-gradients-'))
  writeFileSync(join(dir, 'g.pdf'), Buffer.from(((await proof.json()) as { pdf: string }).pdf, 'base64'))
  execFileSync('gs', ['-q', '-dBATCH', '-dNOPAUSE', '-dPDFSTOPONERROR', '-sDEVICE=nullpage', join(dir, 'g.pdf')])
  execFileSync('pdftoppm', ['-r', '96', '-png', '-singlefile', join(dir, 'g.pdf'), join(dir, 'g')])
  const shown = `data:image/png;base64,${readFileSync(join(dir, 'g.png')).toString('base64')}`
  await page.goto('about:blank')
  const apart = await page.evaluate(
    async ([theirs, ours]) => {
      const pixels = async (address: string) => {
        const img = new Image()
        img.src = address
        await img.decode()
        const canvas = Object.assign(document.createElement('canvas'), { width: 300, height: 200 })
        const paint = canvas.getContext('2d')!
        paint.fillStyle = '#fff'
        paint.fillRect(0, 0, 300, 200)
        paint.drawImage(img, 0, 0)
        return paint.getImageData(0, 0, 300, 200).data
      }
      const [a, b] = [await pixels(theirs!), await pixels(ours!)]
      let sum = 0
      let far = 0
      for (let i = 0; i < a.length; i++) {
        const d = Math.abs(a[i]! - b[i]!)
        sum += d
        if (d > 40) far++
      }
      return { mean: sum / a.length, far: far / a.length }
    },
    [`data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`, shown],
  )
  expect(apart.mean).toBeLessThan(3) // of 255; flat colours are some 20 apart
  expect(apart.far).toBeLessThan(0.02) // at the edges, which poppler does not smooth
})
