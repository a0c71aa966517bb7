// What a check would say had a piece of kit shown what was true.
import { describe, expect, it } from 'vitest'
import { foundGood, withoutError } from './kit-error.ts'
import type { Check, Reading } from './loops.ts'

const [METER, GAUGE] = ['m', 'g']
const q = (value: number, unit: string) => ({ typed: `${value} ${unit}`, value, unit })
const read = { applied: q(300, 'mbar'), reads: { current: q(12.02, 'mA'), controller: q(301, 'mbar') } }
const terms = {
  ...{ standardAt: 'process', standardGear: GAUGE, rule: 'simple', controllerTolerancePct: 0.5 },
  reads: [
    { at: 'current', gear: METER },
    { at: 'controller', gear: null },
  ],
}
const check = (more: object = { terms }) => ({ id: 'c', readings: [read as unknown as Reading], ...more }) as Check
const points = [
  { unit: 'mA', at: 4, found: 4.02 },
  { unit: 'mA', at: 20, found: 20.02 },
]

describe('a check without the error of a piece', () => {
  it('has what that piece read brought back, and nothing else', () => {
    const { check: brought, touched, assumed } = withoutError(check(), METER, points)
    expect(brought.readings[0]!.reads['current']!.value).toBeCloseTo(12, 9)
    expect(brought.readings[0]!.reads['controller']).toEqual(read.reads.controller)
    expect(brought.readings[0]!.applied).toEqual(read.applied)
    expect([touched, assumed]).toEqual([1, false])
    const gauge = withoutError(check(), GAUGE, [{ unit: 'bar', at: 0.3, found: 0.301 }])
    expect(gauge.check.readings[0]!.applied.value).toBeCloseTo(299, 6)
    expect(gauge.check.readings[0]!.reads).toEqual(read.reads)
    // Its points are of another quantity than it was used for.
    expect(withoutError(check(), GAUGE, points).touched).toBe(0)
  })
  it('is said to rest on what is assumed where who read what is not on record', () => {
    expect(withoutError(check({}), METER, points)).toMatchObject({ touched: 1, assumed: true })
  })
})

describe('a calibration', () => {
  const ranges = [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.01 }] as const
  it('was good by its points, else as its certificate says, else nobody knows', () => {
    expect(foundGood({ points, stated: 'good' }, ranges)).toBe(false)
    expect(foundGood({ points: [{ unit: 'mA', at: 4, found: 4.001 }], stated: 'off' }, ranges)).toBe(true)
    expect(foundGood({ points, stated: 'good' }, [])).toBe(true)
    expect(foundGood({ points: [], stated: 'off' }, ranges)).toBe(false)
    expect(foundGood({ points: [], stated: 'not-stated' }, ranges)).toBeNull()
  })
})
