// What calibrations say of a piece, against figures worked out by hand and against properties.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { driftOf, errorAt, judgedFound, limitAt, type FoundPoint } from './calibration.ts'

const meter = [
  { quantity: 'current', unit: 'mA', low: 0, high: 24, pctOfReading: 0.02, digits: 2, resolution: 0.001 },
] as const
const block = [{ quantity: 'temperature', unit: 'degC', low: 30, high: 300, fixed: 0.18, coverage: 2 }] as const
const mA = (at: number, found: number): FoundPoint => ({ unit: 'mA', at, found })

describe('a piece of kit, by its calibrations', () => {
  it('is held against its own figures at each point', () => {
    // 0.02 % of 20 mA is 4 µA, two digits 2 µA.
    expect(limitAt(meter, 20, 'mA')).toBeCloseTo(0.006, 9)
    expect(limitAt(meter, 0.02, 'A')).toBeCloseTo(6e-6, 12)
    expect(limitAt(meter, 5, 'V')).toBeUndefined()
    const [low, high] = judgedFound([mA(4, 4.002), mA(20, 20.013)], meter)
    expect(low).toMatchObject({ outside: false })
    expect(high).toMatchObject({ outside: true })
    expect(high!.error).toBeCloseTo(0.013, 9)
    // A certificate in kelvin or °F is held against figures in °C: a difference has no zero of its own.
    expect(limitAt(block, 212, 'degF')).toBeCloseTo(0.324, 9)
    expect(judgedFound([{ unit: 'V', at: 1, found: 9 }], meter)[0]).toMatchObject({ limit: undefined, outside: false })
  })
  it('shows too much along straight lines between its points, and beyond them as at the last', () => {
    const points = [mA(20, 20.02), mA(4, 4), mA(12, 12.004)]
    expect(errorAt(points, 12.004, 'mA')).toBeCloseTo(0.004, 9)
    expect(errorAt(points, 16.012, 'mA')).toBeCloseTo(0.012, 9)
    expect(errorAt(points, 21, 'mA')).toBeCloseTo(0.02, 9)
    expect(errorAt(points, 0, 'mA')).toBeCloseTo(0, 9)
    expect(errorAt(points, 0.02102, 'A')).toBeCloseTo(0.00002, 12)
    expect(errorAt(points, 3, 'bar')).toBeUndefined()
    expect(errorAt([], 3, 'mA')).toBeUndefined()
    expect(errorAt([{ unit: 'degC', at: 100, found: 100.5 }], 212.9, 'degF')).toBeCloseTo(0.9, 9)
  })
  it('drifts by the line through its calibrations, and says when that leaves its limit', () => {
    const of = (day: string, error: number) => ({ day, points: [mA(20, 20 + error)] })
    const [drift] = driftOf([of('2026-01-01', 0.003), of('2024-01-01', 0.001), of('2025-01-01', 0.002)], meter)
    expect(drift).toMatchObject({ at: 20, of: 3 })
    expect(drift!.perYear).toBeCloseTo(0.001, 5)
    // 3 µA of 6 are left at 1 µA a year.
    expect(drift!.leavesOn).toMatch(/^(2028-12|2029-01)/)
    expect(driftOf([of('2026-01-01', 0.003)], meter)).toEqual([])
    expect(driftOf([of('2026-01-01', 0.003), of('2026-01-01', 0.001)], meter)).toEqual([])
    expect(driftOf([], meter)).toEqual([])
    const still = driftOf([of('2025-01-01', 0.001), of('2026-01-01', 0.001)], meter)
    expect(still[0]).toMatchObject({ perYear: 0, leavesOn: undefined })
  })
  it('takes points of two calibrations for one only where they lie together', () => {
    const before = { day: '2025-01-01', points: [mA(4.02, 4.02), mA(12, 12)] }
    const now = { day: '2026-01-01', points: [mA(4, 4.001), mA(20, 20)] }
    expect(driftOf([before, now], meter).map((d) => d.at)).toEqual([4])
  })
  it('never reads more wrong between its points than at the worst of them', () => {
    const within = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const points = fc.array(fc.record({ at: within(0, 24), e: within(-1, 1) }), { minLength: 1, maxLength: 8 })
    fc.assert(
      fc.property(points, within(-50, 50), (list, value) => {
        const errors = list.map(({ e }) => e)
        const read = errorAt(
          list.map(({ at, e }) => mA(at, at + e)),
          value,
          'mA',
        )!
        expect(Number.isFinite(read)).toBe(true)
        expect(read).toBeLessThanOrEqual(Math.max(...errors) + 1e-9)
        expect(read).toBeGreaterThanOrEqual(Math.min(...errors) - 1e-9)
      }),
    )
  })
})
