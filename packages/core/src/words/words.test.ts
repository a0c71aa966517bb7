import { expect, it } from 'vitest'
import { asSentence, inSentence } from './index.ts'

it.each([
  ['Drive 4 mA', 'drive 4 mA'],
  ['Apply 150 °C', 'apply 150 °C'],
  ['Meter at 20 mA', 'meter at 20 mA'],
  ['pH calibration in buffers', 'pH calibration in buffers'],
  ['DC supply', 'DC supply'],
  ['LRV', 'LRV'],
  ['4–20 mA output', '4–20 mA output'],
  ['Operator’s panel', 'operator’s panel'],
  ['', ''],
])('%s stands inside a sentence as %s', (heading, inside) => expect(inSentence(heading)).toBe(inside))

it('begins a sentence, and leaves symbols', () => {
  expect(asSentence('level of the tank')).toBe('Level of the tank')
  expect(asSentence('mA read')).toBe('mA read')
})
