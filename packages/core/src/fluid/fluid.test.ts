import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  dewRisk,
  GAS_COMPONENTS,
  gasProperties,
  saturationTemperature_C,
  seawaterProperties,
  steamProperties,
  waterProperties,
} from './index.ts'
import { saturationPressure_kPa, soundSpeedOf, waterState, waterViscosity_mPas } from './water-equation.ts'

const near = (value: number, expected: number, relative: number): void => {
  expect(Math.abs(value / expected - 1)).toBeLessThan(relative)
}

describe('water', () => {
  // IAPWS R6-95(2018), Table 7.
  it.each([
    [300, 996.556, 0.0992418352, 1501.51914],
    [300, 1005.308, 20.0022515, 1534.92501],
    [500, 838.025, 10.0003858, 1271.28441],
    [500, 0.435, 0.0999679423, 548.31425],
    [500, 4.532, 0.999938125, 535.739001],
  ])('at %d K and %d kg/m³ has the published pressure and sound speed', (T, density, MPa, speed) => {
    const state = waterState(T, MPa * 1e6, density * (density > 500 ? 1.02 : 1))
    near(state.density_kgm3, density, 1e-6)
    near(soundSpeedOf(state, T), speed, 1e-8)
  })
  // IAPWS R12-08, Table 4.
  it.each([
    [298.15, 998, 889.7351],
    [298.15, 1200, 1437.649467],
    [373.15, 1000, 307.883622],
    [433.15, 1, 14.538324],
    [873.15, 600, 77.430195],
  ])('at %d K and %d kg/m³ has the published viscosity', (T, density, microPascalSecond) =>
    near(waterViscosity_mPas(T, density) * 1000, microPascalSecond, 1e-7),
  )

  // Another implementation, with the two non-analytic terms that are left out here.
  it.each([
    [200, 1000, 4.85385885, 517.3795],
    [350, 10000, 44.5639402, 534.440108],
    [374, 10000, 40.8510444, 559.435642],
    [400, 10000, 37.8267218, 582.000188],
  ])('steam at %d °C and %d kPa is that of the whole equation', (t, kPa, density, speed) => {
    const steam = steamProperties(t, kPa)
    near(steam.density_kgm3, density, 1e-8)
    near(steam.soundSpeed_mps, speed, 1e-8)
  })

  it('boils at 100 °C under the pressure that the standard gives, and the temperature comes back', () => {
    near(saturationPressure_kPa(373.15), 101.418, 1e-4)
    fc.assert(
      fc.property(fc.double({ min: 1, max: 20_000, noNaN: true }), (kPa) =>
        near(saturationPressure_kPa(saturationTemperature_C(kPa) + 273.15), kPa, 1e-9),
      ),
    )
  })
  it('grows denser with pressure and has one state on either side of boiling', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 199, noNaN: true }),
        fc.double({ min: 0.001, max: 2, noNaN: true }),
        (t, over) => {
          const boiling = saturationPressure_kPa(t + 273.15)
          const liquid = waterProperties(t, boiling * (1 + over))
          expect(waterProperties(t, boiling * (1 + over) + 100).density_kgm3).toBeGreaterThan(liquid.density_kgm3)
          const steam = steamProperties(t, boiling / (1 + over))
          expect(liquid.density_kgm3).toBeGreaterThan(800)
          expect(steam.density_kgm3).toBeLessThan(9)
          expect(steam.isentropicExponent).toBeGreaterThan(1.1)
          expect(steam.isentropicExponent).toBeLessThan(1.35)
        },
      ),
    )
  })
  it.each([
    [() => waterProperties(120, 101.325), 'not-liquid'],
    [() => waterProperties(0, 101.325), 'out-of-range'],
    [() => waterProperties(20, 0), 'out-of-range'],
    [() => steamProperties(100, 500), 'not-steam'],
    [() => steamProperties(600, 500), 'out-of-range'],
  ])('refuses with a code (%#)', (compute, code) => expect(compute).toThrowError(expect.objectContaining({ code })))
})

describe('seawater', () => {
  it('without salt is water', () => {
    const [sea, water] = [seawaterProperties(0, 20, 500), waterProperties(20, 500)]
    near(sea.density_kgm3, water.density_kgm3, 1e-12)
    near(sea.soundSpeed_mps, water.soundSpeed_mps, 1e-12)
  })
  it('passes smoothly from none to a trace of salt', () => {
    near(seawaterProperties(1e-6, 20, 500).soundSpeed_mps, seawaterProperties(0, 20, 500).soundSpeed_mps, 1e-7)
  })
  // Computed with another implementation of the exact Gibbs function of TEOS-10.
  it('at the cold, salt and deep corner agrees with a second implementation', () => {
    const { density_kgm3, soundSpeed_mps } = seawaterProperties(40, -2, 9101.325)
    near(density_kgm3, 1036.36332554539, 1e-6)
    near(soundSpeed_mps, 1460.75366243741, 1e-5)
  })
  it('grows denser, faster and thicker with salt', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 41, noNaN: true }), fc.double({ min: -2, max: 40, noNaN: true }), (s, t) => {
        const [less, more] = [seawaterProperties(s, t, 300), seawaterProperties(s + 1, t, 300)]
        for (const key of ['density_kgm3', 'soundSpeed_mps', 'viscosity_mPas'] as const)
          expect(more[key]).toBeGreaterThan(less[key])
      }),
    )
  })
})

describe('gas mixtures', () => {
  const pure = (name: string) => ({ [name]: 1 })
  it.each(GAS_COMPONENTS)('%s at low pressure is an ideal gas', (name) => {
    const { z, density_kgm3, molarMass_gmol, soundSpeed_mps, isentropicExponent } = gasProperties(pure(name), 120, 0.1)
    near(z, 1, 1e-4)
    near(density_kgm3, (0.1 * molarMass_gmol) / (8.31451 * 393.15), 1e-4)
    near(soundSpeed_mps, Math.sqrt((isentropicExponent * 8314.51 * 393.15) / molarMass_gmol), 1e-3)
    expect(isentropicExponent).toBeGreaterThan(1.02)
    expect(isentropicExponent).toBeLessThan(1.67)
  })
  // Sound speed by a second way: c² = (∂p/∂ρ)·c_p/c_v, with the isothermal derivative taken numerically.
  it('is stiffer against quick compression than against slow', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: -10, max: 80, noNaN: true }),
        fc.double({ min: 100, max: 8000, noNaN: true }),
        (share, t, kPa) => {
          const gas = { methane: share, nitrogen: 1 - share }
          const [a, b] = [gasProperties(gas, t, kPa * 0.9999), gasProperties(gas, t, kPa * 1.0001)]
          const slow = (kPa * 0.2) / (b.density_kgm3 - a.density_kgm3)
          const ratio = gasProperties(gas, t, kPa).soundSpeed_mps ** 2 / slow
          expect(ratio).toBeGreaterThan(1.2)
          expect(ratio).toBeLessThan(2.6)
        },
      ),
    )
  })
  it('does not hang on the order or on components of which there is none', () => {
    const a = gasProperties({ methane: 0.7, carbonDioxide: 0.3 }, 30, 2000)
    const b = gasProperties({ helium: 0, carbonDioxide: 0.3, methane: 0.7 }, 30, 2000)
    near(a.density_kgm3, b.density_kgm3, 1e-13)
  })
  it('has the viscosity of the handbooks within what it claims', () => {
    near(gasProperties(pure('nitrogen'), 20, 101.325).viscosity_mPas, 0.01756, 0.1)
    near(gasProperties(pure('methane'), 20, 101.325).viscosity_mPas, 0.01098, 0.1)
    near(gasProperties(pure('carbonDioxide'), 20, 101.325).viscosity_mPas, 0.01469, 0.1)
  })
  it('says where part of it would condense', () => {
    expect(dewRisk({ methane: 0.98, nitrogen: 0.02 }, 15, 1800)).toBeLessThan(0.5)
    expect(dewRisk(pure('propane'), 20, 1200)).toBeGreaterThan(1)
    expect(dewRisk({ methane: 0.9, water: 0.1 }, 20, 500)).toBeGreaterThan(1)
  })
  it.each([
    [{ methane: 0.9, nitrogen: 0.05 }, 20, 500, 'composition-sum'],
    [{ methane: 1.2, nitrogen: -0.2 }, 20, 500, 'composition-sum'],
    [{ neon: 1 }, 20, 500, 'unknown-component'],
    [{ methane: 1 }, 500, 500, 'out-of-range'],
    [{ propane: 1 }, 20, 3000, 'two-phase'],
    [{ carbonDioxide: 1 }, 10, 8000, 'two-phase'],
  ])('refuses %j at %d °C and %d kPa: %s', (gas, t, kPa, code) =>
    expect(() => gasProperties(gas as unknown as Record<string, number>, t, kPa)).toThrowError(
      expect.objectContaining({ code }),
    ),
  )
})
