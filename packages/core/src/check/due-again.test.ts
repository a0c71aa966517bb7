// When a loop is due again: what counts as drift, what a failure shortens, and which bound is met.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calibrationInterval } from './calibration-interval.ts'
import { dayNumber, daysLater, driftHistory, dueAgain, occasionsOf, type DoneCheck } from './due-again.ts'

const LIMITS = { current_days: 365, min_days: 30, max_days: 1825 }
let n = 0
const done = (day: string, phase: DoneCheck['phase'], errorPct: number | null, more: Partial<DoneCheck> = {}) => ({
  id: `c${n++}`,
  day,
  phase,
  errorPct,
  tolerancePct: 0.5,
  pass: errorPct === null || Math.abs(errorPct) <= 0.5,
  ...more,
})

describe('days', () => {
  it('are counted over months and leap years', () => {
    expect(dayNumber('1970-01-02')).toBe(1)
    expect(daysLater('2028-02-28', 2)).toBe('2028-03-01')
    expect(daysLater('2026-11-28', 365)).toBe('2027-11-28')
  })
  it('agree with the calendar of the runtime (second method)', () => {
    fc.assert(
      fc.property(fc.integer({ min: -25_000, max: 84_000 }), fc.integer({ min: -4000, max: 4000 }), (n, more) => {
        const at = (days: number) => new Date(days * 86_400_000).toISOString().slice(0, 10)
        expect(dayNumber(at(n))).toBe(n)
        expect(daysLater(at(n), more)).toBe(at(n + more))
      }),
    )
  })
})

describe('occasions', () => {
  it('bring together what was found and what was left of it', () => {
    const [a, b, c] = [
      done('2024-01-10', 'as-found', 0.1),
      done('2025-01-10', 'as-found', 0.6),
      done('2025-01-11', 'as-left', 0.02),
    ]
    expect(occasionsOf([a, b, c])).toEqual([
      { day: '2024-01-10', found: a, left: null },
      { day: '2025-01-11', found: b, left: c },
    ])
  })
  it('do not join what was left long after', () => {
    const [a, b] = [done('2024-01-10', 'as-found', 0.1), done('2025-01-10', 'as-left', 0)]
    expect(occasionsOf([a, b])[1]).toEqual({ day: '2025-01-10', found: null, left: b })
  })
  it('give drift from what was left to what was found; what was not adjusted is left as found', () => {
    const history = driftHistory(
      occasionsOf([
        done('2024-01-10', 'as-left', 0),
        done('2025-01-09', 'as-found', 0.3),
        done('2025-01-09', 'as-left', 0.1),
        done('2026-01-09', 'as-found', 0.4),
      ]),
      0.5,
    )
    expect(history.map((h) => [h.asFoundPct, h.asLeftPct])).toEqual([
      [0, 0],
      [0.3, 0.1],
      [0.4, 0.4],
    ])
  })
  it('count a change of tolerance as no drift', () => {
    const checks = [
      done('2024-01-10', 'as-found', 0.2, { tolerancePct: 1 }),
      done('2025-01-10', 'as-found', 0.1, { tolerancePct: 0.5 }),
    ]
    expect(driftHistory(occasionsOf(checks), 0.5).map((h) => h.asFoundPct)).toEqual([0.1, 0.1])
  })
  it('begin anew where only what was left was read, and pass over what has no error', () => {
    const parts = occasionsOf([
      { ...done('2023-01-10', 'as-found', 0.4) },
      { ...done('2024-01-10', 'as-found', null) },
      { ...done('2025-01-10', 'as-found', 0.2) },
    ])
    expect(driftHistory(parts, 0.5)).toHaveLength(2)
    const lone = [{ day: '2025-02-01', found: null, left: done('2025-02-01', 'as-left', 0) }]
    expect(driftHistory([...parts, ...lone], 0.5)).toHaveLength(1)
  })
  it('of one day are one: found by the first, left by the last', () => {
    const twice = occasionsOf([done('2025-01-10', 'as-found', 0.2), done('2025-01-10', 'as-found', 0.1)])
    expect(driftHistory(twice, 0.5)).toEqual([{ day: dayNumber('2025-01-10'), asFoundPct: 0.2, asLeftPct: 0.1 }])
  })
})

describe('due again', () => {
  it('keeps the present interval until there is drift to count', () => {
    expect(dueAgain([], LIMITS)).toMatchObject({ suggested_days: 365, action: 'keep', drift: undefined })
    expect(dueAgain([done('2025-01-10', 'as-found', 0.2)], LIMITS).why[0]).toContain('there is one')
  })
  it('is what the interval of the contract says, where nothing failed', () => {
    const checks = [
      done('2023-01-10', 'as-left', 0.05),
      done('2024-01-10', 'as-found', 0.15),
      done('2025-01-09', 'as-found', 0.27),
    ]
    const made = dueAgain(checks, LIMITS)
    const of = calibrationInterval({ ...LIMITS, history: made.history, tolerancePct: 0.5 })
    expect(made).toMatchObject({ suggested_days: of.suggested_days, action: of.action, drift: of })
    expect(made.why[0]).toMatch(/\+0\.110 % of span a year, give or take 0\.0\d\d %/)
    expect(dueAgain(checks.slice(1), LIMITS).why[0]).toContain('from one interval only')
  })
  it('is shorter after one found out of tolerance, though it was left well', () => {
    const checks = [done('2025-01-10', 'as-found', 0.7), done('2025-01-10', 'as-left', 0.01)]
    const made = dueAgain(checks, LIMITS)
    expect(made).toMatchObject({ suggested_days: 182, action: 'shorten' })
    expect(made.why.join(' ')).toContain('found out of tolerance on 10 Jan 2025')
    // Not so the one after it, found well.
    expect(dueAgain([...checks, done('2025-07-10', 'as-found', 0.02)], LIMITS).action).toBe('lengthen')
  })
  it('says which bound it met', () => {
    const steady = [done('2023-01-10', 'as-found', 0.1), done('2024-01-10', 'as-found', 0.1)]
    expect(dueAgain(steady, LIMITS)).toMatchObject({
      suggested_days: 730,
      why: [expect.stringContaining('never reaches ±0.5 %'), 'No step goes beyond twice the present interval.'],
    })
    expect(dueAgain(steady, { ...LIMITS, max_days: 400 }).why[1]).toContain('longest interval is 400 days')
    const fast = [done('2025-01-10', 'as-left', 0), done('2025-01-20', 'as-found', 0.49)]
    expect(dueAgain(fast, LIMITS)).toMatchObject({ suggested_days: 30, action: 'shorten' })
    expect(dueAgain(fast, LIMITS).why[1]).toContain('shortest interval is 30 days')
    const out = [done('2025-01-10', 'as-left', 0), done('2025-06-20', 'as-found', 0.6)]
    expect(dueAgain(out, LIMITS).why[0]).toContain('left at its limit')
  })
  it('never leaves the site’s bounds, and after a failure is never longer than half (property)', () => {
    const arbitrary = fc.array(
      fc.record({
        gap: fc.integer({ min: 0, max: 900 }),
        phase: fc.constantFrom('as-found' as const, 'as-left' as const),
        errorPct: fc.option(fc.double({ min: -2, max: 2, noNaN: true })),
      }),
      { maxLength: 12 },
    )
    fc.assert(
      fc.property(arbitrary, fc.integer({ min: 30, max: 1825 }), (steps, current_days) => {
        let day = '2020-01-01'
        const checks = steps.map(({ gap, phase, errorPct }) => {
          day = daysLater(day, gap)
          return done(day, phase, errorPct)
        })
        const made = dueAgain(checks, { ...LIMITS, current_days })
        expect(made.suggested_days).toBeGreaterThanOrEqual(30)
        expect(made.suggested_days).toBeLessThanOrEqual(1825)
        expect(Number.isInteger(made.suggested_days)).toBe(true)
        if (made.occasions.at(-1)?.found?.pass === false)
          expect(made.suggested_days).toBeLessThanOrEqual(Math.max(30, current_days / 2))
        expect(made.why.every((w) => !/NaN|Infinity|undefined/.test(w))).toBe(true)
      }),
    )
  })
})
