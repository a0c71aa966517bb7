// How a loop stands by its record, without a server: what counts, what is due, what is fit for use.
import { describe, expect, it } from 'vitest'
import { USUAL_JUDGING } from './judging-rules.ts'
import { lastGoodBefore, monthsLater, standingOf, type CheckVerdict } from './judging.ts'
import type { Check } from './loops.ts'
import type { Signature } from './seals.ts'
import type { WorkEntry } from './work-log.ts'

const by = { id: 'p1', name: 'Ailsa Fenn' }
let n = 0
interface Made {
  readonly day: string
  readonly phase?: Check['phase']
  readonly errorPct?: number | null
  readonly signed?: boolean
  readonly reviewed?: boolean
  readonly more?: Partial<Check>
}
const verdicts = new Map<string, CheckVerdict | null>()
function check({ day, phase = 'as-found', errorPct = 0.1, signed = true, reviewed = false, more = {} }: Made): Check {
  const id = `c${n++}`
  const sign = (role: Signature['role']) => ({ role, at: `${day}T12:00:00.000Z`, by, id: `${id}-${role}` }) as Signature
  verdicts.set(id, {
    pass: errorPct === null || Math.abs(errorPct) <= 0.5,
    errorPct,
    tolerancePct: 0.5,
  })
  return {
    id,
    phase,
    practice: false,
    startedAt: `${day}T08:00:00.000Z`,
    signatures: [...(signed ? [sign('performed')] : []), ...(reviewed ? [sign('reviewed')] : [])],
    ...more,
  } as Check
}
const entry = (body: object, at = '2026-06-01T08:00:00.000Z') =>
  ({ id: `e${n++}`, by, at, practice: false, ...body }) as WorkEntry
const stands = (checks: Check[], workLog: WorkEntry[] = [], entered = '12 months') =>
  standingOf({ checks, workLog }, entered, USUAL_JUDGING, (c) => verdicts.get(c.id) ?? null)

describe('what counts', () => {
  it('is signed, of this installation, no practice, and can be judged', () => {
    const imported = { imported: { at: '2026-01-01T00:00:00.000Z', by: null } }
    const unread = check({ day: '2025-03-01' })
    verdicts.set(unread.id, null)
    const made = stands([
      check({ day: '2025-01-10' }),
      check({ day: '2025-02-10', signed: false }),
      check({ day: '2025-02-11', more: { practice: true } }),
      check({ day: '2025-02-12', more: imported }),
      unread,
    ])
    expect(made.done.map((c) => c.day)).toEqual(['2025-01-10'])
    expect(stands([]).nextDue).toBeNull()
  })
  it('is in the order of its signatures', () => {
    const made = stands([check({ day: '2025-05-10' }), check({ day: '2025-01-10' })])
    expect(made.done.map((c) => c.day)).toEqual(['2025-01-10', '2025-05-10'])
  })
})

describe('due again', () => {
  it.each([
    ['12 months', '2026-01-10'],
    ['3 months', '2025-04-10'],
    ['', '2026-01-10'],
  ])('%s after the last one', (entered, day) =>
    expect(stands([check({ day: '2025-01-10' })], [], entered).nextDue).toBe(day),
  )
  it('at once where it was left out of tolerance', () =>
    expect(stands([check({ day: '2025-01-10', phase: 'as-left', errorPct: 0.7 })]).nextDue).toBe('2025-01-10'))
  it('by the interval accepted, as long as no other is entered', () => {
    const accepted = entry({ what: 'interval', days: 90, instead: '12 months', suggested_days: 100, reason: 'x' })
    const checks = [check({ day: '2025-01-10' })]
    expect(stands(checks, [accepted])).toMatchObject({
      nextDue: '2025-04-10',
      interval: { days: 90, words: '90 days' },
    })
    expect(stands(checks, [accepted], '24 months').nextDue).toBe('2027-01-10')
    expect(stands(checks, [{ ...accepted, elsewhere: true } as WorkEntry]).nextDue).toBe('2026-01-10')
    expect(stands(checks, [{ ...accepted, practice: true }]).nextDue).toBe('2026-01-10')
  })
  it('sooner after one found out of tolerance, until someone has decided since', () => {
    const checks = [
      check({ day: '2025-01-10', errorPct: 0.7 }),
      check({ day: '2025-01-10', phase: 'as-left', errorPct: 0.02 }),
    ]
    expect(stands(checks).nextDue).toBe('2025-07-11')
    const before = entry(
      { what: 'interval', days: 300, instead: '12 months', suggested_days: 1, reason: 'x' },
      '2024-01-01T00:00:00.000Z',
    )
    expect(stands(checks, [before]).nextDue).toBe('2025-06-09')
    expect(stands(checks, [{ ...before, at: '2025-02-01T00:00:00.000Z' }]).nextDue).toBe('2025-11-06')
    const short = { ...before, days: 20 } as WorkEntry
    expect(stands(checks, [short]).nextDue).toBe('2025-01-30')
  })
  it('on the last day of a shorter month', () => expect(monthsLater('2027-11-30', 3)).toBe('2028-02-29'))
})

describe('fit for use', () => {
  const bad = () => [
    check({ day: '2025-01-10', errorPct: 0.7 }),
    check({ day: '2025-01-11', phase: 'as-left', errorPct: 0.6 }),
  ]
  it('is not what was left out of tolerance', () => {
    const checks = bad()
    expect(stands(checks).notFit?.id).toBe(checks[1]!.id)
    expect(stands([checks[0]!]).notFit).toBeUndefined()
  })
  it('is again once a later one that passed is countersigned', () => {
    const checks = bad()
    expect(stands([...checks, check({ day: '2025-02-01' })]).notFit).toBeDefined()
    expect(stands([...checks, check({ day: '2025-02-01', reviewed: true })]).notFit).toBeUndefined()
    expect(stands([...checks, check({ day: '2025-02-01', reviewed: true, errorPct: 0.9 })]).notFit).toBeDefined()
  })
  it('is by the word of someone who may, as long as nothing better is known', () => {
    const checks = bad()
    const word = entry({ what: 'fit', check: checks[1]!.id, reason: 'Only trended' })
    expect(stands(checks, [word])).toMatchObject({ notFit: undefined, allowed: { reason: 'Only trended' } })
    const mended = check({ day: '2025-02-01', reviewed: true })
    expect(stands([...checks, mended], [word]).allowed).toBeUndefined()
    const other = entry({ what: 'fit', check: checks[0]!.id, reason: 'x' })
    expect(stands(checks, [other]).notFit).toBeDefined()
  })
  it('asks what was measured since it was last good', () => {
    const checks = [check({ day: '2024-01-10' }), ...bad()]
    const made = stands(checks)
    expect(made.unanswered.map((c) => c.id)).toEqual([checks[1]!.id])
    expect(lastGoodBefore(made.done, checks[1]!.id)).toBe('2024-01-10')
    expect(lastGoodBefore(made.done, checks[0]!.id)).toBeUndefined()
    const answer = entry({ what: 'measured-since', check: checks[1]!.id, answer: 'Two batches' })
    expect(stands(checks, [answer]).unanswered).toEqual([])
  })
})
