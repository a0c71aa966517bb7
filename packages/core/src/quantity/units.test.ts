import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  convertUnit,
  findUnit,
  formatNumber,
  formatQuantity,
  fromSi,
  toSi,
  unitsOf,
  type QuantityName,
} from './index.ts'

describe('conversion', () => {
  it('holds against published equivalents', () => {
    // NIST SP 811, Appendix B
    expect(convertUnit(1, 'psi', 'kPa')).toBeCloseTo(6.894757, 6)
    expect(convertUnit(1, 'ft3/h', 'm3/h')).toBeCloseTo(0.0283168, 7)
    expect(convertUnit(1, 'lb/ft3', 'kg/m3')).toBeCloseTo(16.01846, 5)
    expect(convertUnit(1, 'mmHg', 'Pa')).toBeCloseTo(133.322, 3)
    expect(convertUnit(-40, 'degC', 'degF')).toBeCloseTo(-40, 10)
    expect(convertUnit(0, 'K', 'degC')).toBeCloseTo(-273.15, 10)
    expect(convertUnit(1, 'inH2O@60F', 'Pa')).toBeCloseTo(248.843, 3)
    expect(convertUnit(1, 'inH2O@20C', 'Pa')).toBeCloseTo(248.642, 3)
  })
  it('comes back to where it started, for every pair of units', () => {
    const quantities: QuantityName[] = [
      'length',
      'pressure',
      'temperature',
      'volume-flow',
      'mass-flow',
      'density',
      'volume',
      'resistance',
    ]
    fc.assert(
      fc.property(
        fc.constantFrom(...quantities),
        fc.nat(),
        fc.nat(),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (q, i, j, value) => {
          const units = unitsOf(q).filter((u) => u.reference !== 'absolute')
          const [a, b] = [units[i % units.length]!, units[j % units.length]!]
          const back = convertUnit(convertUnit(value, a.symbol, b.symbol), b.symbol, a.symbol)
          return Math.abs(back - value) <= 1e-9 * Math.max(1, Math.abs(value), Math.abs(a.offset) + 300)
        },
      ),
    )
  })
  it('refuses what cannot be compared or is not known', () => {
    expect(() => convertUnit(1, 'kg/h', 'm3/h')).toThrowError(expect.objectContaining({ code: 'incommensurable' }))
    expect(() => convertUnit(1, 'zork', 'm')).toThrowError(expect.objectContaining({ code: 'unknown-unit' }))
  })
  it('agrees with its SI form', () => {
    expect(toSi(25, 'degC')).toBeCloseTo(298.15, 10)
    expect(fromSi(toSi(14, 'psi'), 'psi')).toBeCloseTo(14, 12)
  })
})

it('forgives letter case only where it cannot mean two units', () => {
  expect(findUnit('KPA')?.symbol).toBe('kPa')
  expect(findUnit('mPa.s')?.symbol).toBe('mPa.s')
  expect(findUnit('MPA')?.symbol).toBe('MPa')
  expect(findUnit('ma')?.symbol).toBe('mA')
})

describe('printing', () => {
  it('uses a true minus and never writes minus zero', () => {
    expect(formatNumber(-1.5, { decimals: 1 })).toBe('−1.5')
    expect(formatNumber(-0.0001, { decimals: 2 })).toBe('0.00')
    expect(formatNumber(0.25, { decimals: 2, sign: true, decimalMark: ',' })).toBe('+0,25')
    expect(formatNumber(3200, { decimals: 3, trim: true })).toBe('3200')
  })
  it('carries the unit', () => {
    expect(formatQuantity(13.79, 'mA')).toBe('13.790 mA')
    expect(formatQuantity(250, 'Ohm', { trim: true })).toBe('250 Ω')
  })
  it('refuses a figure that is none', () => {
    expect(() => formatNumber(Number.NaN)).toThrow(RangeError)
  })
})
