// Every unit of the table against a figure published elsewhere, typed here by hand: NIST SP 811 (2008), Appendix B, the
// SI brochure, and for reference conditions the ideal gas law with the pressures and temperatures that they name.
import { describe, expect, it } from 'vitest'
import { convertUnit, parseQuantity, QUANTITIES, unitOf, unitsOf } from './index.ts'

type Row = readonly [value: number, from: string, to: string, published: number, digits: number]
const ROWS: readonly Row[] = [
  // Length: the international inch and foot are exact.
  [1, 'in', 'mm', 25.4, 12],
  [1, 'ft', 'm', 0.3048, 12],
  [1, 'ft', 'in', 12, 12],
  [1, 'km', 'm', 1000, 12],
  [1, 'cm', 'mm', 10, 12],
  [1, 'm', 'ft', 3.28084, 6],
  // Area and volume.
  [1, 'm2', 'mm2', 1e6, 12],
  [1, 'gal', 'l', 3.785412, 7],
  [1, 'ft3', 'm3', 0.02831685, 7],
  [1, 'm3', 'gal', 264.172, 6],
  [1, 'ft3', 'gal', 7.48052, 6],
  [1, 'm/s', 'mm/s', 1000, 12],
  // Mass.
  [1, 'lb', 'kg', 0.45359237, 12],
  [1, 't', 'kg', 1000, 12],
  [1, 't', 'lb', 2204.623, 7],
  // Pressure.
  [1, 'bar', 'kPa', 100, 12],
  [1, 'mbar', 'Pa', 100, 12],
  [1, 'MPa', 'bar', 10, 12],
  [1, 'psi', 'kPa', 6.894757, 7],
  [1, 'bar', 'psi', 14.50377, 7],
  [1, 'atm', 'kPa', 101.325, 12],
  [1, 'atm', 'psi', 14.69595, 7],
  [760, 'Torr', 'atm', 1, 12],
  [1, 'Torr', 'Pa', 133.3224, 7],
  [1, 'mmHg', 'Pa', 133.3224, 7],
  [1, 'inHg', 'kPa', 3.386389, 7],
  [1, 'kgf/cm2', 'kPa', 98.0665, 12],
  [1, 'mmH2O', 'Pa', 9.80665, 7],
  [1, 'inH2O', 'Pa', 249.0889, 7],
  [1, 'inH2O@60F', 'Pa', 248.84, 5],
  [1, 'inH2O@20C', 'Pa', 248.64, 5],
  [27.68, 'inH2O', 'psi', 1, 4],
  [1, 'barg', 'kPag', 100, 12],
  [1, 'bara', 'psia', 14.50377, 7],
  [1, 'kPaa', 'bara', 0.01, 12],
  [1, 'psig', 'kPag', 6.894757, 7],
  // Temperature: points that both scales name.
  [0, 'degC', 'degF', 32, 12],
  [100, 'degC', 'degF', 212, 12],
  [-40, 'degF', 'degC', -40, 12],
  [0, 'degC', 'K', 273.15, 12],
  [0.01, 'degC', 'K', 273.16, 12],
  [-459.67, 'degF', 'K', 0, 9],
  [98.6, 'degF', 'degC', 37, 9],
  [1, 'delta_degF', 'delta_K', 0.5555556, 7],
  [100, 'delta_degC', 'delta_degF', 180, 12],
  // Volume flow.
  [1, 'm3/s', 'm3/h', 3600, 12],
  [1, 'm3/h', 'l/min', 16.66667, 7],
  [1, 'l/s', 'm3/h', 3.6, 12],
  [1, 'l/min', 'l/h', 60, 12],
  [1, 'm3/min', 'm3/h', 60, 12],
  [1, 'gpm', 'l/min', 3.785412, 7],
  [1, 'gpm', 'm3/h', 0.2271247, 7],
  [1, 'ft3/min', 'm3/s', 4.719474e-4, 7],
  [1, 'ft3/min', 'ft3/h', 60, 12],
  [1, 'ft3/h', 'm3/s', 7.865791e-6, 7],
  // Mass flow.
  [1, 'kg/s', 'kg/h', 3600, 12],
  [1, 't/h', 'kg/h', 1000, 12],
  [1, 'g/s', 'kg/h', 3.6, 12],
  [1, 'lb/h', 'kg/s', 1.259979e-4, 7],
  [1, 'lb/min', 'kg/s', 7.559873e-3, 7],
  [1, 'kg/h', 'lb/h', 2.204623, 7],
  // Velocity, density, viscosity.
  [1, 'ft/s', 'm/s', 0.3048, 12],
  [1, 'g/cm3', 'kg/m3', 1000, 12],
  [1, 'lb/ft3', 'kg/m3', 16.01846, 7],
  [1, 'SG', 'kg/m3', 999.01, 5],
  [1, 'Pa.s', 'cP', 1000, 12],
  [1, 'cP', 'mPa.s', 1, 12],
  [1, 'm2/s', 'cSt', 1e6, 12],
  // Electricity.
  [20, 'mA', 'A', 0.02, 12],
  [1, 'mA', 'uA', 1000, 12],
  [24, 'V', 'mV', 24_000, 12],
  [1, 'kOhm', 'Ohm', 1000, 12],
  [1, 'MOhm', 'kOhm', 1000, 12],
  [1, 'W', 'mW', 1000, 12],
  // Time, frequency, angle, ratio.
  [1, 'h', 'min', 60, 12],
  [1, 'min', 's', 60, 12],
  [1, 's', 'ms', 1000, 12],
  [1, 'ms', 'us', 1000, 12],
  [1, 'us', 'ns', 1000, 12],
  [1, 'kHz', 'Hz', 1000, 12],
  [1, 'MHz', 'kHz', 1000, 12],
  [180, 'deg', 'rad', 3.141593, 7],
  [50, '%', '1', 0.5, 12],
  [1, 'g/kg', '%', 0.1, 12],
  // Reference volume flow at 101.325 kPa: volumes at two temperatures stand as those.
  [1, 'Nm3/h@20C', 'Nm3/h@0C', 273.15 / 293.15, 9],
  [1, 'Sm3/h@15C', 'Nm3/h@0C', 273.15 / 288.15, 9],
  [1, 'Sm3/h@20C', 'Nm3/h@20C', 1, 12],
  [1, 'SCFM@60F', 'Sm3/h@15C', (1.699011 * 288.15) / 288.7056, 6],
  [1, 'SCFM@68F', 'Sm3/h@20C', 1.699011, 6],
]

describe('published equivalents', () => {
  it.each(ROWS)('%s %s in %s is %s', (value, from, to, published, digits) => {
    const got = convertUnit(value, from, to)
    if (published === 0) expect(Math.abs(got)).toBeLessThan(10 ** -digits)
    else expect(Math.abs(got / published - 1)).toBeLessThan(0.6 * 10 ** (1 - digits))
    // And back.
    expect(convertUnit(got, to, from)).toBeCloseTo(value, 9)
  })
  it('reach every unit of the table but those that have none beside them', () => {
    const reached = new Set(ROWS.flatMap(([, from, to]) => [from, to]))
    const alone = QUANTITIES.filter((q) => unitsOf(q).length === 1)
    const missed = QUANTITIES.filter((q) => !alone.includes(q)).flatMap((q) =>
      unitsOf(q).flatMap((u) => (reached.has(u.symbol) ? [] : [u.symbol])),
    )
    expect(missed).toEqual([])
  })
  it.each(ROWS.filter(([, from]) => unitOf(from).label))('%s %s is read again as it is printed', (value, from) => {
    const { label, quantity } = unitOf(from)
    const read = parseQuantity(`${value} ${label}`, { quantity, unit: from })
    expect(read).toMatchObject({ ok: true, value, unit: from })
  })
})

describe('gauge, absolute and neither', () => {
  // A range given in one reference must not be silently read as the other.
  it.each([
    ['barg', 'gauge'],
    ['psig', 'gauge'],
    ['kPag', 'gauge'],
    ['bara', 'absolute'],
    ['psia', 'absolute'],
    ['kPaa', 'absolute'],
    ['bar', undefined],
    ['psi', undefined],
    ['atm', undefined],
  ] as const)('%s says %s', (symbol, reference) => expect(unitOf(symbol).reference).toBe(reference))
  it('keep their symbol when they are read', () => {
    for (const typed of ['3 barg', '3 bara', '3 psig', '3 psia'])
      expect(parseQuantity(typed, { quantity: 'pressure', unit: 'bar' })).toMatchObject({
        ok: true,
        value: 3,
        unit: typed.split(' ')[1],
      })
  })
})
