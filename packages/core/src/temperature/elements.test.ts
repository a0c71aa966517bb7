// Elements of resistance thermometers against published figures, and back again.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { byTable, IEC_60751, nickel120, nickelDin, platinum, readElementTable, rtdResistance } from './index.ts'

const PT = platinum(100)
const ALL = [
  ['Pt100', PT],
  ['Pt1000', platinum(1000)],
  ['platinum by its own constants', platinum(100.04, { a: 3.9082e-3, b: -5.7741e-7, c: -4.19e-12 })],
  ['Ni100', nickelDin(100)],
  ['Ni120', nickel120()],
  ['own table', byTable(readElementTable('−20 92.16; 0 100; 50,0 119,40\n100: 138.51'))],
] as const

describe.each(ALL)('%s', (_, curve) => {
  const inside = fc.double({ min: curve.low_C, max: curve.high_C, noNaN: true })
  it('comes back from resistance to temperature, and rises', () => {
    fc.assert(
      fc.property(inside, (t) => {
        expect(curve.temp(curve.ohm(t))).toBeCloseTo(t, 5)
        if (t + 0.5 <= curve.high_C) expect(curve.ohm(t + 0.5)).toBeGreaterThan(curve.ohm(t))
      }),
    )
  })
  it('refuses what it is not known for', () => {
    for (const t of [curve.low_C - 0.1, curve.high_C + 0.1, Number.NaN])
      expect(() => curve.ohm(t)).toThrowError(/from .* to .* °C/)
    for (const ohm of [0.01, 1e7, Number.NaN]) expect(() => curve.temp(ohm)).toThrowError(/from .* to .* °C/)
  })
})

describe('published resistances', () => {
  // DIN 43760, table of Ni100.
  it.each([
    [-60, 69.5],
    [0, 100],
    [50, 129.1],
    [100, 161.8],
    [180, 223.2],
  ])('Ni100 at %d °C has %d Ω', (t, ohm) => expect(nickelDin(100).ohm(t)).toBeCloseTo(ohm, 1))
  it('Ni120 has the steepness that it is named after, between its rows too', () => {
    const curve = nickel120()
    expect((curve.ohm(100) - curve.ohm(0)) / (100 * curve.ohm(0))).toBeCloseTo(0.00672, 5)
    // A smooth curve: what a row would be by those beside it lies within the rounding of the table and a little.
    for (let t = -60; t <= 240; t += 10) {
      const [a, b, c, d] = [-20, -10, 10, 20].map((step) => curve.ohm(t + step)) as [number, number, number, number]
      expect(Math.abs(curve.ohm(t) - (-a + 4 * b + 4 * c - d) / 6), `${t} °C`).toBeLessThan(0.05)
    }
  })
  it('platinum with the constants of the standard is the standard', () => {
    for (const t of [-150, -10, 0, 200, 800]) expect(platinum(100, IEC_60751).ohm(t)).toBe(rtdResistance(t))
  })
})

describe('a table of one’s own', () => {
  it.each([
    ['', /two rows/],
    ['0 100', /two rows/],
    ['0 100; 50', /not a temperature and a resistance/],
    ['0 100; 50 -3', /not a temperature and a resistance/],
    ['0 100; 50 119.4; 40 115', /Row 3/],
    ['0 100; 50 99', /Row 2/],
    ['0 100; 50 119.4 Ohm', /not a temperature and a resistance/],
  ])('“%s” is refused in words', (text, words) => expect(() => readElementTable(text)).toThrowError(words))
  it('goes on by its last rows where rounding lies beyond them', () => {
    const steep = byTable(readElementTable('0 100; 1 200; 100 201'))
    expect(steep.ohm(100 + 1e-8)).toBeCloseTo(201, 6)
  })
})
