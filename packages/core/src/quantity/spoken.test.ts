import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  feetInchesText,
  formatQuantity,
  parseQuantity,
  spokenFigure,
  spokenUnit,
  speaking,
  US_CUSTOMARY,
} from './index.ts'

const us = (value: number, unit: string, options = {}) =>
  speaking(US_CUSTOMARY, () => formatQuantity(value, unit, options))

describe('a figure in the units spoken', () => {
  it.each([
    [114.3, 'mm', { decimals: 1, trim: true }, '4.5 in'],
    [7.05, 'mm', { decimals: 2 }, '0.2776 in'],
    [12, 'm', { decimals: 1 }, '39.4 ft'],
    [7, 'bar', { decimals: 1, trim: true }, '102 psi'],
    [30, 'mbar', { trim: true }, '12.044 inH₂O'],
    [60, 'delta_K', { trim: true }, '108 °F'],
    [20, 'degC', { decimals: 0 }, '68 °F'],
    [1, 'm3/h', { decimals: 2 }, '4.40 gpm (US)'],
    [12, 'mA', { decimals: 3 }, '12.000 mA'],
    [0.5, '%', { trim: true }, '0.5 %'],
  ])('%s %s is %s', (value, unit, options, text) => expect(us(value, unit, options)).toBe(text))
  it('stays as given where that is asked for, and where nothing is chosen', () => {
    expect(us(114.3, 'mm', { decimals: 1, asGiven: true })).toBe('114.3 mm')
    expect(formatQuantity(114.3, 'mm', { decimals: 1 })).toBe('114.3 mm')
    expect(spokenUnit('mm')).toBe('mm')
  })
  it('loses nothing: a half of its last digit is no more than it was', () => {
    const units = ['mm', 'm', 'bar', 'kPa', 'mbar', 'm3/h', 'kg/h', 'l', 'm/s', 'kg/m3']
    fc.assert(
      fc.property(
        fc.constantFrom(...units),
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.nat(3),
        (unit, v, d) => {
          const shown = spokenFigure(v, unit, d, US_CUSTOMARY)
          const text = speaking(US_CUSTOMARY, () => formatQuantity(v, unit, { decimals: d }))
          const read = parseQuantity(text, { quantity: 'length', unit: shown.unit })
          const value = read.ok ? read.value : Number(text.replace('−', '-').split(' ')[0])
          expect(Math.abs(value - shown.value)).toBeLessThanOrEqual(0.5001 * 10 ** -(shown.decimals ?? 0))
        },
      ),
    )
  })
})

describe('feet and inches', () => {
  it.each([
    [12.5416667, '12′ 6 1/2″'],
    [0, '0′ 0″'],
    [5.5, '5′ 6″'],
    [-0.03125, '−0′ 3/8″'],
    [0.9999, '1′ 0″'],
    [3 + 1 / 12 / 16, '3′ 1/16″'],
  ])('%s ft is %s', (feet, text) => expect(feetInchesText(feet)).toBe(text))
  it('read back are within half a sixteenth', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), (feet) => {
        const read = parseQuantity(feetInchesText(feet), { quantity: 'length', unit: 'ft' })
        expect(read.ok && Math.abs(read.value - feet)).toBeLessThanOrEqual(1 / 12 / 32 + 1e-9)
      }),
    )
  })
  it('stand where distances are spoken of so, and sizes stay in inches', () => {
    const spoken = { ...US_CUSTOMARY, distance: 'ft-in' }
    expect(speaking(spoken, () => [formatQuantity(3.05, 'm'), formatQuantity(305, 'mm', { decimals: 0 })])).toEqual([
      '10′ 1/16″',
      '12.01 in',
    ])
  })
})
