import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  seebeck_mVperK,
  THERMOCOUPLE_TYPES,
  thermocoupleEmf,
  thermocoupleRange,
  thermocoupleTemperature,
  type ThermocoupleType,
} from './index.ts'

/** Tables of IEC 60584-1, cold junction at 0 °C: temperature, °C, and emf, mV, to the third decimal. */
const PUBLISHED: Readonly<Record<ThermocoupleType, readonly [number, number][]>> = {
  B: [
    [0, 0.0],
    [100, 0.033],
    [200, 0.178],
    [300, 0.431],
    [400, 0.787],
    [500, 1.242],
    [600, 1.792],
    [700, 2.431],
    [800, 3.154],
    [900, 3.957],
    [1000, 4.834],
    [1100, 5.78],
    [1200, 6.786],
    [1300, 7.848],
    [1400, 8.956],
    [1500, 10.099],
    [1600, 11.263],
    [1700, 12.433],
    [1800, 13.591],
  ],
  E: [
    [-200, -8.825],
    [-100, -5.237],
    [0, 0.0],
    [100, 6.319],
    [200, 13.421],
    [300, 21.036],
    [400, 28.946],
    [500, 37.005],
    [600, 45.093],
    [700, 53.112],
    [800, 61.017],
    [900, 68.787],
    [1000, 76.373],
  ],
  J: [
    [-200, -7.89],
    [-100, -4.633],
    [0, 0.0],
    [100, 5.269],
    [200, 10.779],
    [300, 16.327],
    [400, 21.848],
    [500, 27.393],
    [600, 33.102],
    [700, 39.132],
    [800, 45.494],
    [900, 51.877],
    [1000, 57.953],
    [1100, 63.792],
    [1200, 69.553],
  ],
  K: [
    [-200, -5.891],
    [-100, -3.554],
    [0, 0.0],
    [100, 4.096],
    [200, 8.138],
    [300, 12.209],
    [400, 16.397],
    [500, 20.644],
    [600, 24.905],
    [700, 29.129],
    [800, 33.275],
    [900, 37.326],
    [1000, 41.276],
    [1100, 45.119],
    [1200, 48.838],
    [1300, 52.41],
  ],
  N: [
    [-200, -3.99],
    [-100, -2.407],
    [0, 0.0],
    [100, 2.774],
    [200, 5.913],
    [300, 9.341],
    [400, 12.974],
    [500, 16.748],
    [600, 20.613],
    [700, 24.527],
    [800, 28.455],
    [900, 32.371],
    [1000, 36.256],
    [1100, 40.087],
    [1200, 43.846],
    [1300, 47.513],
  ],
  R: [
    [0, 0.0],
    [100, 0.647],
    [200, 1.469],
    [300, 2.401],
    [400, 3.408],
    [500, 4.471],
    [600, 5.583],
    [700, 6.743],
    [800, 7.95],
    [900, 9.205],
    [1000, 10.506],
    [1100, 11.85],
    [1200, 13.228],
    [1300, 14.629],
    [1400, 16.04],
    [1500, 17.451],
    [1600, 18.849],
    [1700, 20.222],
  ],
  S: [
    [0, 0.0],
    [100, 0.646],
    [200, 1.441],
    [300, 2.323],
    [400, 3.259],
    [500, 4.233],
    [600, 5.239],
    [700, 6.275],
    [800, 7.345],
    [900, 8.449],
    [1000, 9.587],
    [1100, 10.757],
    [1200, 11.951],
    [1300, 13.159],
    [1400, 14.373],
    [1500, 15.582],
    [1600, 16.777],
    [1700, 17.947],
  ],
  T: [
    [-200, -5.603],
    [-100, -3.379],
    [0, 0.0],
    [100, 4.279],
    [200, 9.288],
    [300, 14.862],
    [400, 20.872],
  ],
}

describe.each(THERMOCOUPLE_TYPES)('type %s', (type) => {
  const { low, high, lowBack } = thermocoupleRange(type)
  it.each([...PUBLISHED[type]])('gives at %d °C the published %d mV', (t, emf) => {
    expect(Math.abs(thermocoupleEmf(type, t) - emf)).toBeLessThanOrEqual(0.00051)
  })
  it('comes back from the emf to the temperature, whatever the cold junction', () => {
    const hot = fc.double({ min: lowBack + 0.01, max: high - 0.01, noNaN: true })
    const cold = fc.double({ min: Math.max(low, -20), max: 60, noNaN: true })
    fc.assert(
      fc.property(hot, cold, (t, c) => {
        const emf = thermocoupleEmf(type, t, c)
        expect(Math.abs(thermocoupleTemperature(type, emf, c) - t)).toBeLessThan(1e-5)
      }),
    )
  })
  it('runs without a jump from one range of its function into the next', () => {
    fc.assert(
      fc.property(fc.double({ min: low, max: high - 0.002, noNaN: true }), (t) => {
        expect(Math.abs(thermocoupleEmf(type, t + 0.001) - thermocoupleEmf(type, t))).toBeLessThan(0.0003)
      }),
    )
  })
  it('has the slope that two neighbouring points have', () => {
    fc.assert(
      fc.property(fc.double({ min: low + 1, max: high - 1, noNaN: true }), (t) => {
        const slope = (thermocoupleEmf(type, t + 0.01) - thermocoupleEmf(type, t - 0.01)) / 0.02
        expect(Math.abs(seebeck_mVperK(type, t) - slope)).toBeLessThan(2e-4)
      }),
    )
  })
  it('refuses what lies outside', () => {
    for (const t of [low - 0.1, high + 0.1]) {
      const refused = attempt(() => thermocoupleEmf(type, t))
      expect(refused instanceof Refusal && refused.code).toBe('out-of-range')
    }
    for (const emf of [200, -200, thermocoupleEmf(type, high) + 0.01]) {
      const refused = attempt(() => thermocoupleTemperature(type, emf))
      expect(refused instanceof Refusal && refused.code).toBe('out-of-range')
    }
  })
})
