import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { entryFrom, entryIn, parseQuantity, type QuantityName } from './index.ts'

const read = (text: string, quantity: QuantityName, unit: string) => parseQuantity(text, { quantity, unit })

describe('a typed quantity is understood', () => {
  it.each([
    ['3200', 'length', 'mm', 3200, 'mm'],
    ['3,2 m', 'length', 'mm', 3.2, 'm'],
    ['3.2m', 'length', 'mm', 3.2, 'm'],
    ['1 200 mm', 'length', 'mm', 1200, 'mm'],
    ["1'200 mm", 'length', 'mm', 1200, 'mm'],
    ['1.234,5 mm', 'length', 'mm', 1234.5, 'mm'],
    ['1,234.5 mm', 'length', 'mm', 1234.5, 'mm'],
    ['1 1/2 in', 'length', 'mm', 1.5, 'in'],
    ['3/4"', 'length', 'mm', 0.75, 'in'],
    ['−40 °F', 'temperature', 'degC', -40, 'degF'],
    ['12 inH2O', 'pressure', 'mbar', 12, 'inH2O'],
    ['.5 bar', 'pressure', 'mbar', 0.5, 'bar'],
    ['250 Ω', 'resistance', 'Ohm', 250, 'Ohm'],
    ['1.2 kΩ', 'resistance', 'Ohm', 1.2, 'kOhm'],
    ['250 gpm', 'volume-flow', 'm3/h', 250, 'gpm'],
    ['1e3 mm', 'length', 'mm', 1000, 'mm'],
    ['5 MPA', 'pressure', 'bar', 5, 'MPa'],
  ] as const)('%s', (text, quantity, unit, value, symbol) => {
    expect(read(text, quantity, unit)).toMatchObject({ ok: true, value, unit: symbol })
  })
  it('reads feet and inches as one length', () => {
    expect(read('10 ft 4 in', 'length', 'mm')).toMatchObject({ ok: true, unit: 'ft', value: 10 + 4 / 12 })
  })
  it('says how it read a comma that could group thousands', () => {
    expect(read('1,200 mm', 'length', 'mm')).toMatchObject({
      ok: true,
      value: 1.2,
      note: expect.stringContaining('1200'),
    })
    expect(read('0,250 m', 'length', 'mm')).not.toHaveProperty('note')
  })
})

describe('nonsense is refused in words and kept', () => {
  it.each([
    ['', 'length', 'mm', 'empty'],
    ['abc', 'length', 'mm', 'not-a-number'],
    ['1.2.3', 'length', 'mm', 'not-a-number'],
    ['1 2 3 mm', 'length', 'mm', 'not-a-number'],
    ['3 kg/h', 'length', 'mm', 'wrong-quantity'],
    ['3 zork', 'length', 'mm', 'unknown-unit'],
    ['123456789012345678901234567890', 'length', 'mm', 'too-many-digits'],
    ['1e300 m', 'length', 'mm', 'too-large'],
    ['-500 degC', 'temperature', 'degC', 'not-physical'],
  ] as const)('%s', (text, quantity, unit, code) => {
    expect(read(text, quantity, unit)).toMatchObject({ ok: false, code })
    expect(entryFrom(text, { quantity, unit })).toEqual({ typed: text })
  })
  it('never throws and never gives a figure that is not finite', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[-+0-9., eE/a-zA-Z°]{0,24}$/)), (text) => {
        const parsed = read(text, 'length', 'mm')
        return parsed.ok ? Number.isFinite(parsed.value) && Number.isFinite(parsed.si) : parsed.says.length > 0
      }),
    )
  })
})

it('reads back what it writes, with either decimal mark', () => {
  fc.assert(
    fc.property(fc.integer({ min: -99_999_999, max: 99_999_999 }), fc.boolean(), (n, comma) => {
      const text = (n / 1000).toFixed(3)
      const parsed = read(`${comma ? text.replace('.', ',') : text} m`, 'length', 'mm')
      return parsed.ok && parsed.value === n / 1000 && parsed.unit === 'm'
    }),
  )
})

it('gives an entry in another unit', () => {
  const entry = entryFrom('3,2 m', { quantity: 'length', unit: 'mm' })
  expect(entryIn(entry, 'mm')).toBeCloseTo(3200, 9)
  expect(entryIn(entry, 'm')).toBe(3.2)
  expect(entryIn({ typed: 'x' }, 'm')).toBeUndefined()
})
