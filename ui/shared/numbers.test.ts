import { expect, test } from 'vitest'
import { plainNumber } from './numbers'

const languages = ['en-GB', 'de-DE', 'fr-FR', 'es-ES', 'pl-PL']

// The judge is Intl.NumberFormat (CLDR): what it writes for people is read back as the number it came from.
test('numbers as people of a language write them are read back', () => {
  for (const language of languages) {
    for (const digits of [0, 1, 2, 3]) {
      const write = new Intl.NumberFormat(language, { minimumFractionDigits: digits, maximumFractionDigits: digits })
      for (let n = 0.25; n < 1e9; n = n * 7.3 + 1.37) {
        for (const v of [n, -n]) {
          expect(plainNumber(write.format(v), language), `${language} ${write.format(v)}`).toBe(
            Number(v.toFixed(digits)) === 0 ? plainNumber(write.format(v), language) : v.toFixed(digits),
          )
        }
      }
    }
  }
})

test('a sign of another language is taken where it can mean nothing else', () => {
  expect(plainNumber('12,50', 'en-GB')).toBe('12.50')
  expect(plainNumber('12.5', 'de-DE')).toBe('12.5')
  expect(plainNumber('1,250.50', 'en-GB')).toBe('1250.50')
  expect(plainNumber('1.250,50', 'de-DE')).toBe('1250.50')
  expect(plainNumber("1'250.50", 'en-GB')).toBe('1250.50')
  expect(plainNumber('1 250,50', 'pl-PL')).toBe('1250.50')
})

test('what is no number is passed on as it was typed', () => {
  for (const typed of ['', 'ten', '1,25,0.5', '1..5', '12 a', '--4', '0,123.5']) {
    for (const language of languages) expect(plainNumber(typed, language)).toBe(typed)
  }
})
