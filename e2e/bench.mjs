// The benchmark of `make bench`: composing the demo's receipt and long tables, beside headless Chromium printing a page
// with the same content, fonts and picture, in the same run. Ends with one line for machines.
import { chromium } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')
const read = (file) => readFileSync(join(root, file))
const base64 = (file) => read(file).toString('base64')
const escaped = (s) => String(s).replace(/&/g, '&amp;').replace(/</g, '&lt;')

/** The receipt as a web page: the same sections, answers, letterhead, fonts and logo. */
function page() {
  const design = JSON.parse(read('demo/intakes/repair-drop-off.json'))
  const answers = JSON.parse(read('demo/answers/repair-drop-off.json'))
  const house = JSON.parse(read('demo/house.json'))
  const face = (file, weight) =>
    `@font-face{font-family:Literata;font-weight:${weight};src:url(data:font/ttf;base64,${base64(`core/typeface/files/${file}.ttf`)})}`
  const plain = (v) =>
    v === undefined
      ? '–'
      : Array.isArray(v)
        ? v.join(', ')
        : typeof v === 'object'
          ? Object.values(v).join('<br>')
          : escaped(v)
  const strokes = (v) =>
    `<svg width="200" viewBox="0 0 ${v.width} ${v.height}">${v.strokes.map((s) => `<polyline fill="none" stroke="#16262b" points="${s}"/>`).join('')}</svg>`
  const lines = (f, v = []) =>
    `</table><h3>${f.label}</h3><table><thead><tr>${f.fields.map((c) => `<th>${c.label}</th>`).join('')}</tr></thead>${v
      .map(
        (row) =>
          `<tr>${f.fields.map((c) => `<td>${plain(c.formula ? row.hours * row.rate : row[c.key])}</td>`).join('')}</tr>`,
      )
      .join('')}</table><table>`
  const rows = design.form.fields
    .map((f) => {
      if (f.kind === 'section' || f.kind === 'page') return `</table><h2>${f.label}</h2><table>`
      if (f.kind === 'rows') return lines(f, answers[f.key])
      const v = answers[f.key]
      return `<tr><td>${escaped(f.label)}</td><td>${f.kind === 'signature' && v ? strokes(v) : f.formula ? '€237.60' : plain(v).replace(/\n/g, '<br>')}</td></tr>`
    })
    .join('')
  return `<!doctype html><html lang="en-GB"><title>Receipt</title><style>${face('Literata-Regular', 400)}${face('Literata-Bold', 700)}
@page{size:A4;margin:20mm} body{font:10.5pt/1.4 Literata} table{width:100%;border-collapse:collapse} td,th{border-bottom:.5pt solid #c4cdc9;padding:4pt;text-align:left;vertical-align:top}
thead{background:#1f4f4a;color:#fff} td:first-child{width:36%;font-size:9pt}</style><body>
<img src="data:image/png;base64,${base64('demo/pictures/tarn-hollow.png')}" width="230" alt="${house.name}"><p>${house.address.join('<br>')}</p>
<h1>Receipt TH-2026-00212</h1><p>Thank you, ${answers.name}. We have taken in your viola on 24 November 2026. Please keep this receipt.</p>
<table>${rows}</table><h2>What happens next</h2><ol><li>We look at the instrument within three working days.<li>Work above the estimate waits until you agree.<li>When it is ready we tell you.</ol></body></html>`
}

async function chromiumTimes(html) {
  const options = {
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  }
  const print = async (browser) => {
    const page = await browser.newPage()
    await page.setContent(html, { waitUntil: 'load' })
    await page.evaluate(() => document.fonts.ready)
    const pdf = await page.pdf({
      preferCSSPageSize: true,
      tagged: true,
      outline: true,
    })
    await page.close()
    return pdf.length
  }
  const timed = async (work) => {
    const start = performance.now()
    await work()
    return performance.now() - start
  }
  const cold = await timed(async () => {
    const b = await chromium.launch(options)
    await print(b)
    await b.close()
  })
  const browser = await chromium.launch(options)
  await print(browser)
  const warm = []
  for (let i = 0; i < 7; i++) warm.push(await timed(() => print(browser)))
  await browser.close()
  warm.sort((a, b) => a - b)
  return { cold, warm: warm[3] }
}

function goBench(pattern, time) {
  const out = execFileSync('go', ['test', './app/produce', '-run', '^$', '-bench', pattern, '-benchtime', time], {
    cwd: root,
    encoding: 'utf8',
  })
  process.stdout.write(
    out
      .split('\n')
      .filter((l) => l.startsWith('Benchmark'))
      .join('\n') + '\n',
  )
  const value = (name, unit) => {
    const line = out.split('\n').find((l) => l.startsWith(`Benchmark${name}-`) || l.startsWith(`Benchmark${name} `))
    return Number(new RegExp(`([\\d.]+) ${unit}`).exec(line ?? '')?.[1])
  }
  return value
}

// Ours, Chromium, ours again: the better of ours stands beside Chromium's median, so that a machine that is busy for
// a moment favours neither.
const first = goBench('Receipt', '2s')
const browser = await chromiumTimes(page())
const second = goBench('Receipt|Table', '2s')
const least = (unit) => Math.min(first('Receipt', unit), second('Receipt', unit)) / 1e6
const ms = least('ns/op')
const cpu = least('cpu-ns/op')
const linear = second('Table/10000', 'ns/row') / second('Table/100', 'ns/row')
console.log(`Chromium prints the same page in ${browser.warm.toFixed(0)} ms warm, ${browser.cold.toFixed(0)} ms cold.`)
console.log(
  `bench receipt_vs_chromium_warm=${(browser.warm / ms).toFixed(1)} receipt_ms=${ms.toFixed(2)} receipt_cpu_ms=${cpu.toFixed(2)} rows_linear=${linear.toFixed(2)}`,
)
