import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { airSoundSpeed, airTemperatureErrorPct, tankHeight_m, tankVolume, type Tank } from './index.ts'

const m = fc.double({ min: 0.2, max: 12, noNaN: true })
const tank: fc.Arbitrary<Tank> = fc.oneof(
  fc.record({
    shape: fc.constant('vertical-cylinder' as const),
    diameter_m: m,
    height_m: m,
    coneHeight_m: fc.double({ min: 0, max: 4, noNaN: true }),
  }),
  fc.record({
    shape: fc.constant('horizontal-cylinder' as const),
    diameter_m: m,
    length_m: m,
    heads: fc.constantFrom('flat' as const, 'ellipsoidal-2:1' as const, 'hemispherical' as const),
  }),
  fc.record({ shape: fc.constant('box' as const), length_m: m, width_m: m, height_m: m }),
  fc.record({ shape: fc.constant('sphere' as const), diameter_m: m }),
)

describe('tank volume', () => {
  it('does not fall between two levels a hair apart, near the top or the bottom', () => {
    const tank = { shape: 'horizontal-cylinder', diameter_m: 0.2, length_m: 0.65, heads: 'flat' } as const
    for (const f of [0.9999999404535618, 1e-9, 1e-17])
      for (const step of [6e-8, 1e-9])
        expect(tankVolume(tank, 0.2 * Math.min(1, f + step)).volume_m3).toBeGreaterThanOrEqual(
          tankVolume(tank, 0.2 * f).volume_m3,
        )
  })
  it('is nothing at the bottom, all at the top, and never falls with the level', () => {
    fc.assert(
      fc.property(
        tank,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (t, a, b) => {
          const h = tankHeight_m(t)
          expect(tankVolume(t, 0).volume_m3).toBeCloseTo(0, 9)
          expect(tankVolume(t, h).percent).toBeCloseTo(100, 9)
          const [low, high] = [Math.min(a, b), Math.max(a, b)].map((f) => tankVolume(t, Math.min(h, f * h)).volume_m3)
          expect(high! - low!).toBeGreaterThanOrEqual(-1e-9 * h ** 3)
        },
      ),
    )
  })
  it('agrees with slices added up', () => {
    fc.assert(
      fc.property(tank, fc.double({ min: 0.05, max: 0.95, noNaN: true }), (t, f) => {
        // Second method: width of the tank at each height, by plain geometry, summed.
        const level = f * tankHeight_m(t)
        const slices = 4000
        let sum = 0
        for (let i = 0; i < slices; i++) sum += (areaAt(t, ((i + 0.5) * level) / slices) * level) / slices
        expect(Math.abs(tankVolume(t, level).volume_m3 - sum) / sum).toBeLessThan(1e-4)
      }),
      { numRuns: 40 },
    )
  })
  it('refuses a level outside, at either end', () => {
    const t: Tank = { shape: 'sphere', diameter_m: 2 }
    for (const level of [-0.001, 2.001, Number.NaN])
      expect(() => tankVolume(t, level)).toThrowError(expect.objectContaining({ code: 'level-outside-tank' }))
  })
})

function areaAt(t: Tank, h: number): number {
  if (t.shape === 'box') return t.length_m * t.width_m
  if (t.shape === 'vertical-cylinder') {
    const cone = t.coneHeight_m ?? 0
    const r = (t.diameter_m / 2) * (h < cone ? h / cone : 1)
    return Math.PI * r * r
  }
  const r = t.diameter_m / 2
  const half = Math.sqrt(Math.max(0, r * r - (r - h) ** 2))
  if (t.shape === 'sphere') return Math.PI * half * half
  const squeeze = t.heads === 'hemispherical' ? 1 : t.heads === 'flat' ? 0 : 0.5
  return 2 * half * t.length_m + Math.PI * half * half * squeeze
}

it('sound in air changes by about 0.17 % for a degree', () => {
  expect(airTemperatureErrorPct(20, 21)).toBeCloseTo(-0.17, 2)
  expect(airTemperatureErrorPct(20, 20)).toBe(0)
  expect(() => airSoundSpeed(-300)).toThrowError(expect.objectContaining({ code: 'out-of-range' }))
})
