import { expect, test } from 'vitest'
import { chance } from './chance'
import { later, monthsLater, pattern, readDay, weeksOf, written } from './dates'

test('every day that is written in a language is read back, and what is no day is not', () => {
  const { below } = chance(28)
  for (const language of ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'pl-PL', 'es-ES', 'ja-JP']) {
    for (let i = 0; i < 200; i++) {
      const day = later('2026-11-24', below(20_000) - 10_000)
      expect(readDay(written(day, language), language)).toBe(day)
      expect(readDay(day, language)).toBe(day)
    }
  }
  expect(pattern('en-GB')).toBe('DD/MM/YYYY')
  expect(pattern('en-US')).toBe('MM/DD/YYYY')
  expect(pattern('de-DE')).toBe('DD.MM.YYYY')
  expect(readDay('1.2.26', 'de-DE')).toBe('2026-02-01')
  for (const none of ['', '31/02/2026', '24/13/2026', 'tomorrow', '24/11', '0/1/2026'])
    expect(readDay(none, 'en-GB')).toBeUndefined()
})

test('months and weeks go on as a calendar does', () => {
  expect(monthsLater('2026-01-31', 1)).toBe('2026-02-28')
  expect(monthsLater('2028-02-29', 12)).toBe('2029-02-28')
  expect(monthsLater('2026-01-15', -1)).toBe('2025-12-15')
  const weeks = weeksOf('2026-11-24', 'en-GB')
  expect(weeks[0]![0]).toBe('2026-10-26')
  expect(weeks.at(-1)!.at(-1)).toBe('2026-12-06')
  expect(weeksOf('2026-11-24', 'en-US')[0]![0]).toBe('2026-11-01')
})
