// A check judged from what stands on record: by the rule that it was begun under, in whatever units it was read.
import { witnessesBehind } from '@calm-loop/core/check'
import { demoEntries } from '../../core/src/kinds/demo-entries.fixture.ts'
import { currentKindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { sure } from '@calm-loop/core/sure'
import { describe, expect, it } from 'vitest'
import {
  atPlace,
  certificateNumber,
  checkWords,
  departureWords,
  doubtsAbout,
  foretellProof,
  howRead,
  judgeCheck,
  midReading,
  notChecked,
  originsWords,
  ratioWords,
  readsOnThread,
  standardOf,
  verdictOf,
  verdictOfCheck,
} from './judging.ts'
import type { GearUsed } from './gear.ts'
import type { Check, CheckTerms, Reading } from './loops.ts'
import type { Signature } from './seals.ts'

const by = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa Fenn' }
const AT = '2026-11-28T10:00:00.000Z'
const known = study(currentKindOf('pressure'), demoEntries('pressure'))
const { thread } = known
const meter: GearUsed = {
  id: '01890000-0000-7000-8000-0000000000a1',
  name: 'Loop meter',
  serial: 'L-1',
  uncertainty: '',
  due: '2027-01-01',
  calibrated: '2026-01-01',
  ranges: [
    { quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.008, coverage: 2, driftPctPerYear: 0.02 },
    { quantity: 'voltage', unit: 'V', low: 0, high: 10, fixed: 0.002 },
  ],
}
const gauge: GearUsed = {
  ...{ id: '01890000-0000-7000-8000-0000000000a2', name: 'Gauge', serial: 'G-1', uncertainty: '', due: '2027-01-01' },
  ranges: [{ quantity: 'pressure', unit: 'mbar', low: 0, high: 700, pctOfRange: 0.02, coverage: 2 }],
}
const terms = (more: Partial<CheckTerms> = {}): CheckTerms => ({
  standardAt: 'process',
  standardGear: gauge.id,
  reads: [
    { at: 'current', gear: meter.id, stand: 'in-series' },
    { at: 'controller', gear: null },
  ],
  rule: 'simple',
  controllerTolerancePct: 0.5,
  ...more,
})
const q = (value: number, unit: string) => ({ typed: `${value} ${unit}`, value, unit })
const reading = (
  i: number,
  applied: Reading['applied'],
  reads: Reading['reads'],
  more: Partial<Reading> = {},
): Reading => ({
  id: `r${i}`,
  seq: i + 1,
  pointIndex: i,
  percent: [0, 50, 100][i]!,
  direction: 'up',
  applied,
  reads,
  source: 'typed',
  supersedes: null,
  reason: '',
  by,
  takenAt: AT,
  savedAt: AT,
  ...more,
})
const check = (more: Partial<Check> = {}): Check => ({
  id: 'c1',
  versionId: 'v1',
  phase: 'as-found',
  rule: 3,
  terms: terms(),
  practice: false,
  tolerancePct: 0.5,
  range: { lrv: 0, urv: 600, unit: 'mbar' },
  points: [0, 50, 100].map((percent, index) => ({ index, percent, direction: 'up' as const })),
  gear: [meter, gauge],
  ambient: '',
  startedBy: by,
  startedAt: AT,
  gates: [],
  readings: [],
  signatures: [],
  ...more,
})
const place = (id: string, at = 'process') => sure(witnessesBehind(thread, at).find((w) => w.id === id))
const ohm = { resistor: { ohm: q(250, 'Ohm'), tolerancePct: 0.1 } }

describe('a figure at its place', () => {
  it('is brought to the place’s unit: volts by the resistor, per cent by the range', () => {
    expect(atPlace(q(3, 'V'), place('current'), ohm)).toBeCloseTo(12, 9)
    expect(atPlace(q(0.012, 'A'), place('current'), {})).toBeCloseTo(12, 9)
    expect(atPlace(q(25, '%'), place('indicator'), {})).toBeCloseTo(150, 9)
    expect(atPlace(q(0.3, 'bar'), place('controller'), {})).toBeCloseTo(300, 9)
    expect(() => atPlace(q(3, 'V'), place('current'), {})).toThrow(/resistor/)
    expect(() => atPlace(q(3, 'kg/h'), place('controller'), {})).toThrow()
  })
  it('stands on the thread in its knot’s unit; what does not fit is left out', () => {
    const r = reading(1, q(0.3, 'bar'), { current: q(3, 'V'), controller: q(3, 'kg/h') })
    expect(readsOnThread(check({ terms: terms(ohm) }), r, thread)).toEqual({ process: 300, current: 12 })
    expect(standardOf({}, thread)).toBe('process')
    const card = terms({ standardAt: 'current', reads: [{ at: 'controller', gear: null }] })
    const at = reading(1, q(12, 'mA'), { controller: q(300, 'mbar') })
    expect(readsOnThread(check({ terms: card }), at, thread)).toEqual({ current: 12, controller: 300 })
  })
})

describe('a check of rule 3', () => {
  const read = (mA: number, shown?: number) =>
    reading(1, q(300, 'mbar'), {
      current: q(mA, 'mA'),
      ...(shown === undefined ? {} : { controller: q(shown, 'mbar') }),
    })
  it('is judged at each place with what its kit is worth', () => {
    const made = judgeCheck(check({ readings: [read(12.02, 300)] }), thread)!
    expect(verdictOf(made)).toBe('Within tolerance')
    const [current, controller] = made.loop!.witnesses
    expect(current!.ratio).toBeGreaterThan(4)
    expect(controller!.ratio).toBeDefined()
    const rows = made.loop!.judged[0]!.knots[0]!.rows.map((r) => r.what)
    expect(rows).toEqual([
      'Gauge: its figures',
      'last digit of the true input',
      'Loop meter: its figures',
      'Loop meter: drift in 331 days',
      'last digit read',
    ])
  })
  it('counts the resistor that volts were read across', () => {
    const made = judgeCheck(
      check({
        terms: terms({ ...ohm, reads: [{ at: 'current', gear: meter.id, stand: 'across-shunt' }] }),
        readings: [reading(1, q(300, 'mbar'), { current: q(3.004, 'V') })],
      }),
      thread,
    )!
    const [knot] = made.loop!.judged[0]!.knots
    expect(knot!.errorPct).toBeCloseTo(0.1, 6)
    expect(knot!.rows.map((r) => r.what)).toContain('resistor, ±0.1 %')
  })
  it('is simple where the kit has no figures for what was read', () => {
    const bare = check({ terms: terms({ standardGear: null, rule: 'guarded' }), readings: [read(12.02)] })
    expect(judgeCheck(bare, thread)!.loop!.witnesses[0]).toMatchObject({ ratio: undefined, u_pct: 0, verdict: 'pass' })
  })
  it('is summed up by the place that uses up most of its own tolerance, not by the larger error', () => {
    const lax = terms({ controllerTolerancePct: 2 })
    const made = check({ terms: lax, readings: [read(12.064, 305.4)] })
    expect(verdictOfCheck(known, made)).toMatchObject({ pass: true, tolerancePct: 0.5 })
    expect(verdictOfCheck(known, made)!.errorPct).toBeCloseTo(0.4, 6)
    const off = check({ terms: lax, readings: [read(12.016, 318)] })
    expect(verdictOfCheck(known, off)).toMatchObject({ pass: false, tolerancePct: 2 })
    expect(verdictOfCheck(known, off)!.errorPct).toBeCloseTo(3, 6)
  })
  it('is null without a reading that fits', () => {
    expect(judgeCheck(check(), thread)).toBeNull()
    expect(judgeCheck(check({ readings: [reading(1, q(300, 'mbar'), {})] }), thread)).toBeNull()
  })
  it('never passes with a broken seal, and says how surely it passes', () => {
    const signature = { role: 'performed', standing: 'broken', digest: 'ab' } as unknown as Signature
    const good = check({ readings: [read(12.01)] })
    expect(verdictOfCheck(known, good)).toMatchObject({ pass: true, verdict: 'pass' })
    expect(verdictOfCheck(known, { ...good, signatures: [signature] })!.pass).toBe(false)
    expect(verdictOfCheck(known, check())).toBeNull()
  })
})

describe('a check of an older rule', () => {
  const older = (rule: 2 | undefined, readings: Reading[]) => {
    const { terms: _, rule: _rule, ...rest } = check({ readings })
    return { ...rest, ...(rule ? { rule } : {}) } as Check
  }
  const readings = [
    reading(0, q(0, 'mbar'), { current: q(4.02, 'mA'), controller: q(0.6, 'mbar') }),
    reading(1, q(300, 'mbar'), { current: q(12.02, 'mA') }),
  ]
  it('keeps its rule: the current on a straight line, or current and controller by the thread', () => {
    expect(judgeCheck(older(undefined, readings), thread)!.result.maxErrorPct).toBeCloseTo(0.125, 6)
    const second = judgeCheck(older(2, readings), thread)!
    expect([second.result.maxErrorPct, second.loop]).toEqual([expect.closeTo(0.125, 6), undefined])
    expect(verdictOf(second)).toBe('Within tolerance')
    expect(verdictOf({ ...second, result: { ...second.result, pass: false } })).toBe('Out of tolerance')
  })
  it('of a bus takes what the controller showed', () => {
    const shown = [reading(1, q(300, 'mbar'), { controller: q(303, 'mbar') })]
    expect(judgeCheck(older(undefined, shown), thread)!.result.maxErrorPct).toBeCloseTo(0.5, 6)
  })
  it('asks about nothing', () => {
    expect(doubtsAbout(older(2, []), readings[0]!, thread)).toEqual([])
  })
})

describe('before a check', () => {
  it('what the kit proves is told for every place', () => {
    const found = foretellProof(check(), terms(), thread, AT)
    expect(found.map((w) => w.witness.id)).toEqual(['current', 'controller'])
    expect(found.every((w) => w.maxErrorPct === 0 && sure(w.ratio) > 1)).toBe(true)
    const volts = terms({ ...ohm, reads: [{ at: 'current', gear: meter.id, stand: 'resistor-in-lead' }] })
    expect(sure(foretellProof(check(), volts, thread, AT)[0]!.ratio)).toBeLessThan(sure(found[0]!.ratio))
  })
  it('nothing is told of a loop whose thread has a gap', () => {
    const bare = study(currentKindOf('pressure'), {})
    expect(foretellProof(check(), terms(), bare.thread, AT)).toEqual([])
  })
})

describe('a doubtful reading', () => {
  const ask = (applied: Reading['applied'], reads: Reading['reads'], pointIndex = 1) =>
    doubtsAbout(check(), { applied, reads, pointIndex }, thread).length
  it('is one whose figures can hardly be; what cannot be read is another question', () => {
    expect(ask(q(300, 'mbar'), { current: q(12, 'mA') })).toBe(0)
    expect(ask(q(300, 'mbar'), { current: q(999, 'mA') })).toBe(1)
    expect(ask(q(3000, 'mbar'), { controller: q(1, 'kg/h') })).toBe(1)
    expect(ask(q(3, 'kg/h'), { current: q(999, 'mA') })).toBe(0)
    expect(ask(q(300, 'mbar'), { current: q(999, 'mA') }, 99)).toBe(0)
  })
})

describe('in words', () => {
  it('a check is numbered within its year; practice is not', () => {
    const of = (id: string, startedAt: string, practice?: boolean) => ({ id, startedAt, practice })
    const all = [
      of('a', '2025-03-01'),
      of('b', '2026-02-01'),
      of('p', '2026-03-01', true),
      of('c', '2026-04-01', false),
    ]
    expect(['a', 'b', 'c', 'p', 'x'].map((id) => certificateNumber('LT-1', all, id))).toEqual([
      'LT-1/2025-1',
      'LT-1/2026-1',
      'LT-1/2026-2',
      'practice, no number',
      'practice, no number',
    ])
    expect(checkWords({ signatures: [], practice: true })).toBe('practice')
    expect(checkWords({ signatures: [] })).toBe('not signed')
  })
  it('the origin of a reading’s figures is said once, or one by one, or is not recorded', () => {
    const r = reading(1, q(300, 'mbar'), { current: q(12, 'mA') })
    expect(originsWords(r)).toBe('origin not recorded')
    expect(originsWords({ ...r, origins: { applied: 'typed', current: 'typed' } })).toBe('typed')
    expect(originsWords({ ...r, origins: { applied: 'typed', current: 'simulated' } })).toBe(
      'true input typed, current SIMULATED',
    )
  })
  it('how a place was read, what was not, and where it parts', () => {
    expect(howRead(check(), terms().reads[0]!)).toBe('Loop meter, L-1, meter in series')
    expect(howRead(check(), { at: 'digital', gear: null })).toBe('')
    const read = check({ readings: [reading(1, q(300, 'mbar'), { current: q(12.4, 'mA') })] })
    expect(notChecked(read, thread)).toContain('controller shows')
    expect(notChecked({ ...read, terms: undefined }, thread)).toEqual([])
    const card = check({ terms: terms({ standardAt: 'current', reads: [{ at: 'controller', gear: null }] }) })
    expect(notChecked(card, thread)).toContain('range setting')
    const { loop } = judgeCheck(read, thread)!
    expect(departureWords(loop!.first)).toMatch(/^It parts between pressure and loop current\. What can cause that: /)
    expect(departureWords(undefined)).toBe('')
    expect(departureWords({ ...sure(loop!.first), causes: [] })).toContain('what stands between the two')
    expect([ratioWords(4.24), ratioWords(undefined)]).toEqual(['ratio 4.2', 'uncertainty not known'])
  })
  it('the reading nearest to mid range is the one that is shown', () => {
    const readings = [0, 1, 2].map((i) => reading(i, q(300 * i, 'mbar'), { current: q(4 + 8 * i, 'mA') }))
    expect(midReading(check({ readings }))!.id).toBe('r1')
    expect(midReading(check())).toBe(undefined)
  })
})
