import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stretches, surveyFigures, surveyPlan, type LoggedRow } from './survey.ts'

const row = (t_s: number, flow: number | null, speed = 1482, signal = 80): LoggedRow => [
  t_s * 1000,
  flow,
  0,
  speed,
  signal,
]

describe('what a survey comes to', () => {
  it('has mean, ends and standstills of what was seen', () => {
    const rows = [row(0, 10), row(10, 10), row(20, 0), row(30, 0), row(40, 20, 1490, 61)]
    expect(surveyFigures(rows, 10)).toEqual({
      ...{ rows: 5, lasts_s: 40, seen_s: 40, unseen_s: 0, still_s: 20 },
      ...{ mean: 7.5, least: 0, most: 20, soundSpeed: { low: 1482, high: 1490 }, leastSignal: 61 },
    })
  })
  it('counts no gap and no lost signal as seen', () => {
    const rows = [row(0, 10), row(10, 10), row(500, 30), row(510, null), row(520, 30), row(530, 30)]
    const found = surveyFigures(rows, 10)
    expect(stretches(rows, 10).map((s) => s.length)).toEqual([2, 1, 2])
    expect(found).toMatchObject({ seen_s: 20, unseen_s: 510, mean: 20 })
  })
  it('is nothing of nothing, and one row is its own mean', () => {
    expect(surveyFigures([], 1)).toMatchObject({ rows: 0, lasts_s: 0, mean: undefined, soundSpeed: undefined })
    expect(surveyFigures([row(5, 3)], 1)).toMatchObject({ rows: 1, mean: 3, seen_s: 0 })
  })
  it('mean lies between the ends, and time seen and unseen is all there is', () => {
    const rows = fc.array(
      fc.tuple(fc.integer({ min: 1, max: 90 }), fc.option(fc.double({ min: -50, max: 500, noNaN: true }))),
      { minLength: 1, maxLength: 60 },
    )
    fc.assert(
      fc.property(rows, (steps) => {
        let t = 0
        const logged = steps.map(([dt, flow]) => row((t += dt), flow))
        const f = surveyFigures(logged, 10)
        expect(f.seen_s + f.unseen_s).toBeCloseTo(f.lasts_s, 6)
        if (f.mean === undefined) return
        expect(f.mean).toBeGreaterThanOrEqual(f.least! - 1e-9)
        expect(f.mean).toBeLessThanOrEqual(f.most! + 1e-9)
      }),
    )
  })
  it('is planned by hours and interval', () => {
    expect(surveyPlan(8, 60)).toEqual({ rows: 481, bytes: 481 * 64 })
    expect(surveyPlan(24, 1).rows).toBe(86_401)
  })
})
