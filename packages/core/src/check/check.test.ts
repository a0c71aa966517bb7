import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { normal } from '../device/index.ts'
import {
  judgeByRange,
  multiPointCheck,
  stability,
  gateWording,
  standingReadings,
  wordingVersion,
  upAndDown,
  type RecordedReading,
  type Sample,
} from './index.ts'

const value = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('independent linearity', () => {
  it('is nothing on a straight line, and is not changed by tilting or shifting', () => {
    fc.assert(
      fc.property(
        fc.array(value(-1, 1), { minLength: 3, maxLength: 9 }),
        value(-2, 2),
        value(-3, 3),
        (bumps, slope, shift) => {
          const points = (f: (i: number) => number) =>
            bumps.map((_, i) => ({ applied: i * 10, output: f(i), direction: 'up' as const }))
          const lin = (f: (i: number) => number) =>
            multiPointCheck({ lrv: 0, urv: 100, tolerancePct: 1, points: points(f) }).linearityPct
          expect(lin((i) => 4 + slope * i)).toBeCloseTo(0, 8)
          expect(lin((i) => bumps[i]! + slope * i + shift)).toBeCloseTo(
            lin((i) => bumps[i]!),
            6,
          )
        },
      ),
    )
  })
  it('is no more than any line leaves (second method: many lines tried)', () => {
    fc.assert(
      fc.property(fc.array(value(-1, 1), { minLength: 3, maxLength: 7 }), (ys) => {
        const got =
          (multiPointCheck({
            lrv: 0,
            urv: 100,
            tolerancePct: 1,
            points: ys.map((y, i) => ({ applied: i, output: y, direction: 'up' })),
          }).linearityPct *
            16) /
          100
        let best = Infinity
        for (let s = -2000; s <= 2000; s++) {
          const rest = ys.map((y, i) => y - (s / 1000) * i)
          best = Math.min(best, (Math.max(...rest) - Math.min(...rest)) / 2)
        }
        expect(got).toBeLessThanOrEqual(best + 1e-9)
        expect(got).toBeGreaterThan(best - 0.004)
      }),
      { numRuns: 60 },
    )
  })
})

describe('judging readings on record', () => {
  const reading = (
    id: string,
    [pointIndex, percent, direction]: readonly [number, number, 'up' | 'down'],
    [applied, mA]: readonly [number, number],
    supersedes?: string,
  ): RecordedReading => ({
    id,
    pointIndex,
    percent,
    direction,
    applied,
    reads: { current: mA },
    ...(supersedes ? { supersedes } : {}),
  })
  const range = { lrv: 0, urv: 3000 }
  it('computes the expected current for the true level, not for the nominal point', () => {
    const result = judgeByRange([reading('a', [2, 50, 'up'], [1530, 12.16])], range, 0.5)!
    expect(result.judged[0]!.main.expected).toBeCloseTo(12.16, 9)
    expect(result.judged[0]!.main.errorPct).toBeCloseTo(0, 9)
  })
  it('compares up and down although the level was never quite the same', () => {
    const result = judgeByRange(
      [reading('a', [1, 25, 'up'], [760, 8.0533]), reading('b', [8, 25, 'down'], [741, 7.984])],
      range,
      0.5,
    )!
    expect(result.result.hysteresisPct).toBeCloseTo(0.2, 2)
  })
  it('lets a correction stand and keeps the others', () => {
    const all = [
      reading('a', [0, 0, 'up'], [0, 4]),
      reading('b', [1, 25, 'up'], [750, 9]),
      reading('c', [1, 25, 'up'], [750, 8], 'b'),
    ]
    expect(standingReadings(all).map((r) => r.id)).toEqual(['a', 'c'])
  })
  it('lets no second reading replace the first without naming it', () => {
    const all = [reading('a', [0, 0, 'up'], [0, 4.48]), reading('b', [0, 0, 'up'], [0, 4.001])]
    expect(standingReadings(all).map((r) => r.id)).toEqual(['a'])
  })
  it('knows the words that have stood at a gate, by version', () => {
    const words = gateWording('loop-released', 'switch')
    expect(wordingVersion('loop-released', 'switch', words)).toBeGreaterThan(0)
    expect(wordingVersion('loop-released', 'current', words)).toBeUndefined()
  })
  it('keeps the errors that the plain check gives', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(value(0, 3000), value(3.8, 20.5)), { minLength: 1, maxLength: 10 }), (rows) => {
        const readings = rows.map(([applied, mA], i) => reading(`r${i}`, [i, (i * 25) % 125, 'up'], [applied, mA]))
        const plain = multiPointCheck({
          ...range,
          tolerancePct: 0.5,
          points: rows.map(([applied, output]) => ({ applied, output, direction: 'up' })),
        })
        judgeByRange(readings, range, 0.5)!.judged.forEach((j, i) =>
          expect(j.main.errorPct).toBeCloseTo(plain.errorsPct[i]!, 8),
        )
      }),
    )
  })
  it('has no verdict without readings', () => expect(judgeByRange([], range, 0.5)).toBeNull())
})

it('plans the points up and then down', () => {
  expect(upAndDown([100, 0, 50]).map((p) => `${p.index} ${p.percent} ${p.direction}`)).toEqual([
    '0 0 up',
    '1 50 up',
    '2 100 up',
    '3 100 down',
    '4 50 down',
    '5 0 down',
  ])
})

describe('steadiness', () => {
  const limits = { window_s: 4, drift: 0.016, noise: 0.01 }
  const samples = (f: (t: number) => number, seconds = 6): Sample[] =>
    Array.from({ length: seconds * 5 + 1 }, (_, i) => ({ t_s: i / 5, value: f(i / 5) }))
  it.each([
    ['waiting', samples(() => 8, 2)],
    ['stable', samples((t) => 8 + 0.002 * Math.sin(9 * t))],
    ['moving', samples((t) => 8 + 0.05 * t)],
    ['moving', samples((t) => 12 - 8 * Math.exp(-t / 2))],
    ['noisy', samples((t) => 8 + 0.05 * Math.sin(40 * t))],
  ])('%s', (state, window) => expect(stability(window, limits).state).toBe(state))
  it('waits when nothing has come yet', () =>
    expect(stability([], limits)).toMatchObject({ state: 'waiting', wait_s: 4 }))

  // Twenty samples a second with seeded noise, as the trend has them.
  const trend = (f: (t: number) => number, sigma: number, seed: number, seconds = 12): Sample[] => {
    let state = seed
    return Array.from({ length: seconds * 20 + 1 }, (_, i) => {
      const [n, next] = normal(state)
      state = next
      return { t_s: i / 20, value: f(i / 20) + sigma * n }
    })
  }
  const site = { window_s: 4, drift: 0.1, noise: 0.0625 }
  const seeds = Array.from({ length: 40 }, (_, i) => 1000 + 7919 * i)
  const states = (f: (t: number) => number, sigma: number, seconds = 12) =>
    seeds.map((seed) => stability(trend(f, sigma, seed, seconds), site).state)
  it('calls quiet noise stable, whatever the seed', () => {
    expect(new Set(states(() => 50, 0.03))).toEqual(new Set(['stable']))
  })
  it('never calls a drift of twice the limit stable, noise or not', () => {
    expect(states((t) => 50 + 0.05 * t, 0.03)).not.toContain('stable')
    expect(states((t) => 50 - 0.05 * t, 0)).not.toContain('stable')
  })
  it('never calls a ringing reading stable before it has died down, and does afterwards', () => {
    const ringing = (t: number) => 50 + 2 * Math.exp(-t / 3) * Math.cos(4 * t)
    // After 7 s it still swings by 0.2 %.
    expect(states(ringing, 0.02, 7)).not.toContain('stable')
    expect(stability(trend(ringing, 0.02, 5, 30), site).state).toBe('stable')
  })
  it('never calls noise of twice the limit stable', () => {
    expect(new Set(states(() => 50, 0.125))).not.toContain('stable')
  })
  it('finds slope and noise as they were put in', () => {
    const found = seeds.map((seed) =>
      stability(
        trend((t) => 50 + 0.04 * t, 0.05, seed),
        site,
      ),
    )
    const mean = (of: (s: (typeof found)[number]) => number) => found.reduce((sum, s) => sum + of(s), 0) / found.length
    expect(mean((s) => s.drift)).toBeCloseTo(0.16, 2)
    expect(mean((s) => s.noise)).toBeCloseTo(0.05, 2)
  })
})
