import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  convertUnit,
  entryFrom,
  entryIn,
  formatQuantity,
  isAsTyped,
  parseQuantity,
  QUANTITIES,
  unitsOf,
  type QuantityName,
} from './index.ts'

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
  it.each([
    [`10'-4"`, 10 + 4 / 12],
    [`10'4"`, 10 + 4 / 12],
    [`12' 6"`, 12.5],
    [`5'6`, 5.5],
    [`5' 6`, 5.5],
    [`-3'-6"`, -3.5],
    [`10'-4 1/2"`, 10 + 4.5 / 12],
    ['6 ft 3 in', 6.25],
    [`7'`, 7],
    [`2′ 3″`, 2.25],
  ])('%s as feet and inches', (text, feet) => {
    const parsed = read(text, 'length', 'mm')
    if (!parsed.ok) throw new Error(parsed.says)
    expect(parsed).toMatchObject({ unit: 'ft' })
    expect(parsed.value).toBeCloseTo(feet, 12)
  })
  it.each([
    [`1'200`, 1200],
    [`1'200'000`, 1_200_000],
  ])('%s as grouped digits, not as feet', (text, value) => {
    expect(read(text, 'length', 'mm')).toMatchObject({ ok: true, value, unit: 'mm' })
  })
  it.each([
    ['250 l/h', 'volume-flow', 'l/h'],
    ['4 m³/min', 'volume-flow', 'm3/min'],
    ['60 cfm', 'volume-flow', 'ft3/min'],
    ['15 psig', 'pressure', 'psig'],
    ['15 psia', 'pressure', 'psia'],
    ['2 barg', 'pressure', 'barg'],
    ['2 bara', 'pressure', 'bara'],
    ['740 Torr', 'pressure', 'Torr'],
    ['1.2 atm', 'pressure', 'atm'],
    ['29.9 inHg', 'pressure', 'inHg'],
    ['12 µA', 'current', 'uA'],
    ['500 Nm³/h (0 °C)', 'reference-flow', 'Nm3/h@0C'],
  ] as const)('%s in the unit that a technician uses', (text, quantity, unit) => {
    expect(read(text, quantity, unit)).toMatchObject({ ok: true, unit })
  })
  it('converts them as published', () => {
    expect(convertUnit(1, 'ft3/min', 'm3/h')).toBeCloseTo(1.699011, 6)
    expect(convertUnit(1, 'inHg', 'Pa')).toBeCloseTo(3386.39, 1)
    expect(convertUnit(760, 'Torr', 'atm')).toBeCloseTo(1, 12)
    expect(convertUnit(288.15, 'Sm3/h@15C', 'Nm3/h@0C')).toBeCloseTo(273.15, 9)
  })
})

describe('what may be meant in two ways is asked', () => {
  it.each([
    ['1,500 gpm', 'volume-flow', 'm3/h', ['1500 gpm', '1.500 gpm']],
    ['3,600', 'length', 'mm', ['3600 mm', '3.600 mm']],
    ['250 Nm3/h', 'reference-flow', 'Nm3/h@0C', ['250 Nm³/h (0 °C)', '250 Nm³/h (20 °C)']],
    ['80 SCFM', 'reference-flow', 'Nm3/h@0C', ['80 SCFM (60 °F)', '80 SCFM (68 °F)']],
  ] as const)('%s', (text, quantity, unit, choices) => {
    expect(read(text, quantity, unit)).toMatchObject({ ok: false, code: 'which', choices })
    for (const choice of choices) expect(read(choice, quantity, unit)).toMatchObject({ ok: true })
  })
  it.each([
    ['5 mPa', 'pressure', '5 MPa'],
    ['5 Mbar', 'pressure', '5 mbar'],
    ['5 Mm', 'length', '5 mm'],
    ['5 mHz', 'frequency', '5 MHz'],
    ['5 MA', 'current', '5 mA'],
  ] as const)('%s is not folded to another prefix', (text, quantity, meant) => {
    const unit = unitsOf(quantity)[0]!.symbol
    const parsed = read(text, quantity, unit)
    expect(parsed).toMatchObject({ ok: false, code: 'unknown-unit' })
    expect('choices' in parsed && parsed.choices).toContain(meant)
  })
  it('does not ask where a comma can only be the decimal mark', () => {
    expect(read('0,250 m', 'length', 'mm')).toMatchObject({ ok: true, value: 0.25 })
    expect(read('1,50 m', 'length', 'mm')).toMatchObject({ ok: true, value: 1.5 })
  })
})

describe('gauge and absolute', () => {
  const gauge = { quantity: 'pressure', unit: 'bar', reference: 'gauge' } as const
  it('are told apart where the field says which it wants', () => {
    expect(parseQuantity('8 barg', gauge)).toMatchObject({ ok: true, value: 8 })
    const absolute = parseQuantity('8 bara', gauge)
    expect(absolute).toMatchObject({ ok: false, code: 'other-reference', choices: ['6.98675 barg'] })
    expect(parseQuantity('6.9868 barg', gauge)).toMatchObject({ ok: true })
  })
  it('never turn into one another without the atmosphere', () => {
    expect(() => convertUnit(1, 'psig', 'psia')).toThrowError(expect.objectContaining({ code: 'incommensurable' }))
  })
})

describe('a difference of temperatures', () => {
  it.each([
    ['60 °C', 60],
    ['60 K', 60],
    ['108 °F', 60],
    ['-5 °C', -5],
  ])('%s has no zero of its own', (text, kelvin) => {
    const parsed = read(text, 'temperature-difference', 'delta_K')
    expect(parsed.ok && parsed.si).toBeCloseTo(kelvin, 10)
  })
})

describe.each(QUANTITIES)('%s', (quantity) => {
  it('is accepted in every unit just as it is printed', () => {
    for (const unit of unitsOf(quantity))
      fc.assert(
        fc.property(fc.integer({ min: -9_999_999, max: 9_999_999 }), (n) => {
          const value = quantity === 'temperature' ? Math.abs(n) / 1000 : n / 1000
          const printed = formatQuantity(value, unit.symbol, { decimals: 3 })
          const parsed = read(printed, quantity, unit.symbol)
          return parsed.ok && parsed.value === value && parsed.unit === unit.symbol
        }),
        { numRuns: 30 },
      )
  })
})

describe('what an earlier release understood stands', () => {
  const length = { quantity: 'length', unit: 'mm' } as const
  it.each([
    [{ typed: `12'-6"`, value: 12 - 6 / 12, unit: 'ft' }, length],
    [{ typed: '5 mPa', value: 5, unit: 'MPa' }, { quantity: 'pressure', unit: 'bar' } as const],
  ])('%j', (entry, options) => {
    expect([isAsTyped(entry, options), isAsTyped(entry, options, 'ever')]).toEqual([false, true])
  })
  it('but not what nobody ever understood', () => {
    expect(isAsTyped({ typed: '3 mm', value: 4, unit: 'mm' }, length, 'ever')).toBe(false)
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
      const decimalMark = comma ? ',' : '.'
      const typed = `${text.replace('.', decimalMark)} m`
      const parsed = parseQuantity(typed, { quantity: 'length', unit: 'mm', decimalMark })
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
