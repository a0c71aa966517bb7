import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  compareDigits,
  constantValue,
  insertionDepth,
  lostDecimal,
  orificeDp,
  orificeFlow,
  thermalDifference,
  thermalFlow,
  type OrificeInput,
} from './index.ts'

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('an orifice either way', () => {
  const plate = (compressible: boolean): Omit<OrificeInput, 'dp_kPa'> => ({
    pipe_mm: 102.26,
    bore_mm: 61.5,
    taps: 'flange',
    density_kgm3: compressible ? 4.466 : 998,
    viscosity_mPas: compressible ? 0.0155 : 1,
    ...(compressible ? { compressible: { pressure_kPa: 901.3, isentropicExponent: 1.3 } } : {}),
  })
  it.each([true, false])('compressible %s: the differential pressure comes back', (compressible) => {
    fc.assert(
      fc.property(
        number(0.01, compressible ? 200 : 900),
        fc.constantFrom('corner', 'flange', 'D-D/2'),
        (dp_kPa, taps) => {
          const p = { ...plate(compressible), taps } as Omit<OrificeInput, 'dp_kPa'>
          const { massFlow_kgps } = orificeFlow({ ...p, dp_kPa })
          expect(Math.abs(orificeDp(p, massFlow_kgps).dp_kPa / dp_kPa - 1)).toBeLessThan(1e-9)
        },
      ),
    )
  })
  it('refuses a flow that the standard does not cover', () => {
    expect(() => orificeDp(plate(true), 50)).toThrowError(expect.objectContaining({ code: 'out-of-range' }))
    expect(() => orificeDp({ ...plate(false), bore_mm: 95 }, 1)).toThrowError(
      expect.objectContaining({ code: 'out-of-range' }),
    )
  })
})

describe('a constant as printed', () => {
  it.each([
    ['72.3841', 72.3841],
    ['72,3841', 72.3841],
    [' 9 105.431', 9105.431],
    ['1.20E-3', 0.0012],
    ['', undefined],
  ] as const)('%j is %j', (text, value) => expect(constantValue(text)).toBe(value))
  it.each(['7.2.3', 'abc', '72.38 g', '--3'])('%j is none', (text) =>
    expect(() => constantValue(text)).toThrowError(expect.objectContaining({ code: 'not-a-number' })),
  )
  it('is compared digit by digit under its decimal point', () => {
    const d = compareDigits('72.3841', '172.384')
    expect(d.same).toBe(false)
    expect(d.columns.map((c) => c.a + c.b)).toEqual([' 1', '77', '22', '..', '33', '88', '44', '1 '])
    expect(compareDigits('4.40', '4.4')).toMatchObject({ same: false, equalValue: true })
    expect(compareDigits('72,3841', '72.3841').same).toBe(true)
  })
  it('differs wherever one digit is another', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1000, max: 999_999 }), fc.nat(5), fc.integer({ min: 1, max: 9 }), (n, at, by) => {
        const text = (n / 100).toFixed(2)
        const i = [...text].map((ch, k) => (ch === '.' ? -1 : k)).filter((k) => k >= 0)[at % (text.length - 1)]!
        const other = text.slice(0, i) + String((Number(text[i]) + by) % 10) + text.slice(i + 1)
        expect(compareDigits(text, other).columns.filter((c) => !c.agrees)).toHaveLength(1)
      }),
    )
  })
  it.each([
    [72.38, 'DN 25', { usual: true }],
    [723.8, 'DN 25', { usual: false, factor: 0.1 }],
    [7238, 'DN 25', { usual: false, factor: 0.01 }],
    [0.07238, 'DN 25', { usual: false, factor: 1000 }],
    [3, 'unknown', { usual: true }],
  ])('%d on %s', (value, size, found) => expect(lostDecimal(value, size)).toEqual(found))
})

describe('a thermal meter', () => {
  const law = { dtZero_K: 60, dtFull_K: 18.4, fullFlow: 400 }
  it('goes through both points of its certificate, and back', () => {
    expect(thermalDifference(law, 0)).toBe(60)
    expect(thermalDifference(law, 400)).toBeCloseTo(18.4, 12)
    fc.assert(
      fc.property(number(0, 900), (q) => {
        expect(thermalFlow(law, thermalDifference(law, q))).toBeCloseTo(q, 6)
      }),
    )
    expect(thermalFlow(law, 61)).toBe(0)
  })
  it('reaches the centre line', () => {
    const parts = { od_mm: 219.1, wall_mm: 4, branch_mm: 68, valve_mm: 118, fitting_mm: 92, tip_mm: 15 }
    expect(insertionDepth(parts)).toEqual({
      insert_mm: 92 + 118 + 68 + 109.55 + 15,
      clear_mm: 92,
      travel_mm: 118 + 68 + 109.55 + 15,
    })
  })
})
