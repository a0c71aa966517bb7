import type { TrendSample } from '@calm-loop/contract'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { axisOf, inSight, steadySince, steadyWords } from './trend.ts'

/** Twenty samples a second of one witness; the current is silent at every tenth. */
const trendOf = (value: (t_s: number) => number, seconds: number): TrendSample[] =>
  Array.from({ length: seconds * 20 + 1 }, (_, i) => {
    const t_s = i / 20
    return { t_s, digital: value(t_s), current: i % 10 ? value(t_s) : null, electrode: null }
  })
const LIMITS = { seconds: 4, driftPct: 0.1, noisePct: 0.06, pctPer: 1 }

describe('what is in sight', () => {
  it('is the last of the trend, oldest first', () => {
    const seen = inSight(
      trendOf((t) => t, 30),
      'digital',
      20,
    )
    expect(seen).toHaveLength(400)
    expect(seen[0]!.t_s).toBeCloseTo(10.05, 9)
    expect(seen.at(-1)!.t_s).toBe(30)
  })
  it('leaves out when the witness was silent, and is empty where it always is', () => {
    const trend = trendOf((t) => t, 5)
    expect(inSight(trend, 'current', 20)).toHaveLength(90)
    expect(inSight(trend, 'electrode', 20)).toEqual([])
    expect(inSight([], 'digital', 20)).toEqual([])
  })
})

describe('the axis', () => {
  it('holds every sample in sight, clear of both edges', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1 }), (values) => {
        const { middle, half } = axisOf(
          values.map((value, t_s) => ({ t_s, value })),
          LIMITS,
        )
        const reach = Math.max(...values.map((v) => Math.abs(v - middle)))
        expect(reach).toBeLessThan(half)
      }),
    ))
  it('is not filled by noise: it reaches twice the drift allowed, in the witness’s own measure', () => {
    const still = [{ t_s: 0, value: 50 }]
    expect(axisOf(still, LIMITS)).toEqual({ middle: 50, half: 0.2 * 1.15 })
    expect(axisOf(still, { driftPct: 0.1, pctPer: 0.5 }).half).toBeCloseTo(0.4 * 1.15, 12)
  })
})

describe('steadiness', () => {
  it('is judged from the moment the gate opened', () => {
    // A step before the gate opened at 10 s; still since.
    const trend = trendOf((t) => (t < 9.9 ? 0 : 50), 15)
    const seen = inSight(trend, 'digital', 20)
    expect(steadySince(seen, 10, LIMITS).state).toBe('stable')
    expect(steadySince(seen, 8, { ...LIMITS, seconds: 6.5 }).state).not.toBe('stable')
    expect(steadySince(seen, 12, LIMITS)).toMatchObject({ state: 'waiting' })
  })
  it('takes the witness’s own measure to % of span', () => {
    // 0.2 of its own measure a second, of which one is 0.01 % of span: 0.008 % over the window.
    const seen = inSight(
      trendOf((t) => 0.2 * t, 10),
      'digital',
      20,
    )
    expect(steadySince(seen, 0, LIMITS).state).toBe('moving')
    const slow = steadySince(seen, 0, { ...LIMITS, pctPer: 0.01 })
    expect(slow.state).toBe('stable')
    expect(slow.drift).toBeCloseTo(0.008, 3)
  })
  it('says how long there is to wait, and then what it is', () => {
    expect(steadyWords(undefined)).toBe('waiting for the device')
    const still = { drift: 0, noise: 0, mean: 0, wait_s: 0, toGo: 0, wander: 0 }
    expect(steadyWords({ ...still, state: 'waiting', wait_s: 2.1 })).toBe('3 s to go')
    expect(steadyWords({ ...still, state: 'stable' })).toBe('stable')
    expect(steadyWords({ ...still, state: 'moving' })).toBe('still moving')
    expect(steadyWords({ ...still, state: 'moving', toGo: -0.12 })).toBe('still moving, some 0.120 % to go')
    expect(steadyWords({ ...still, state: 'noisy' })).toBe('too noisy')
  })
})
