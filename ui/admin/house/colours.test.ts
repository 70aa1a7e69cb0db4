import { expect, test } from 'vitest'
import { mainColour, tintOf } from './colours'

const pixels = (...runs: [number, string][]) =>
  new Uint8ClampedArray(
    runs.flatMap(([n, hex]) => {
      const v = [1, 3, 5, 7].map((at) => Number.parseInt(hex.slice(at, at + 2) || 'ff', 16))
      return Array.from({ length: n }, () => v).flat()
    }),
  )

test('a logo is remembered by the commonest of its strong colours', () => {
  expect(mainColour(pixels([900, '#ffffff'], [300, '#1a1a1a'], [90, '#1f4f4a'], [20, '#d08c1f']))).toBe('#1F4F4A')
  expect(mainColour(pixels([500, '#b5443b00'], [20, '#33475b']))).toBe('#33475B')
  expect(mainColour(pixels([50, '#222222'], [900, '#fefefe']))).toBe('#222222')
  expect(mainColour(pixels([10, '#ffffff']))).toBeUndefined()
})

test('a tint is a tenth of its colour in white, as the server mixes it', () => {
  expect(tintOf('#1F4F4A')).toBe('#E9EDED')
  expect(tintOf('#000000')).toBe('#E6E6E6')
})
