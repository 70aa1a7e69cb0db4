import { describe, expect, it } from 'vitest'
import { keyFor } from './keys'

describe('keys of services', () => {
  it('are made of their names, and no two are the same', () => {
    expect(keyFor('Bookkeeper’s Vault', [])).toBe('bookkeeper-s-vault')
    expect(keyFor('  Größe 2 ', ['gro-e-2'])).toBe('gro-e-2-2')
    expect(keyFor('2026 archive', [])).toBe('archive')
    expect(keyFor('発票', ['service'])).toBe('service-2')
    for (const name of ['x'.repeat(90), '---', 'a', 'Ł']) expect(keyFor(name, [])).toMatch(/^[a-z][a-z0-9-]{0,39}$/)
  })
})
