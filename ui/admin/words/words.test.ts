import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { i18n, mend, t, wrong } from '.'

const admin = join(import.meta.dirname, '..')
const sources = [admin, join(admin, '../gallery')]
  .flatMap((dir) => readdirSync(dir, { recursive: true, encoding: 'utf8' }).map((name) => join(dir, name)))
  .filter((name) => /\.(vue|ts)$/.test(name) && !name.endsWith('.test.ts'))
  .map((name) => readFileSync(name, 'utf8'))

describe('the catalogue', () => {
  const said = new Set(sources.flatMap((s) => [...s.matchAll(/\bt\(\s*'([a-z]+\.\w+)'/g)].map((m) => m[1]!)))
  const rooms = Object.entries(i18n.global.messages.value.en as Record<string, Record<string, unknown>>)
  const kept = new Set(
    rooms.flatMap(([room, words]) => (room === 'finding' ? [] : Object.keys(words).map((w) => `${room}.${w}`))),
  )

  it('has every word that a screen says, and none that no screen says', () => {
    expect([...said].filter((key) => !kept.has(key))).toEqual([])
    expect([...kept].filter((key) => !said.has(key))).toEqual([])
  })
  it('counts', () => {
    expect([t('workspace.faults', 1), t('workspace.faults', 4)]).toEqual(['1 fault', '4 faults'])
  })
})

describe('findings', () => {
  it('say their sentences with their values, whatever signs those have', () => {
    const f = { code: 'phrase.field-unknown', values: { field: '@a|{b}' }, message: 'm', mend: 'n' }
    expect([wrong(f), mend(f)]).toEqual([
      'The placeholder “@a|{b}” has no field.',
      'Choose a field for it, or ask for it in the form.',
    ])
  })
  it('say a literal sign of the sentence itself', () => {
    const f = { code: 'form.bound-not-a-value', values: { which: 'least', name: 'x' }, message: 'm', mend: 'n' }
    expect(mend(f)).toBe('Write it as an answer is kept, such as 10, 2026-11-24 or @today.')
  })
  it('without a code are said as they came', () => {
    expect([wrong({ message: 'Bitte wählen.' }), mend({ mend: undefined })]).toEqual(['Bitte wählen.', undefined])
  })
})
