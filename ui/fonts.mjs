// Makes the fonts of the respondents' pages of those of the workshop: the letters of western Europe alone, and of Literata the one
// weight that titles have. Run with `npm run fonts` after a new version of a font; what it makes is kept in the repository.
import { readFileSync, writeFileSync } from 'node:fs'
import subset from 'subset-font'

const range = (from, to) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join('')
// English needs the first file alone, with the names of the languages in the menu; the second has what other languages of western
// Europe add.
const parts = {
  basic: range(0x20, 0x7e) + '\u00a0£§©·×–—‘’“”•…€\u2009\u202fçñ',
  western: range(0xa1, 0xff) + 'ŒœŸ‚„‹›™−÷',
}
const file = (name) => new URL(`node_modules/@fontsource-variable/${name}`, import.meta.url)

for (const [from, to, weight] of [
  ['literata/files/literata-latin-wght-normal.woff2', 'literata', 600],
  ['commissioner/files/commissioner-latin-wght-normal.woff2', 'commissioner', { min: 400, max: 600 }],
]) {
  for (const [part, letters] of Object.entries(parts)) {
    const made = await subset(readFileSync(file(from)), letters, {
      targetFormat: 'woff2',
      variationAxes: { wght: weight },
    })
    writeFileSync(new URL(`public/fonts/${to}-${part}.woff2`, import.meta.url), made)
    console.log(to, part, made.length)
  }
}
