import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { study } from '../loop/index.ts'
import { currentKindOf } from '../kinds/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { spread, straightStage, type Knot, type Stage, type Thread } from '../thread/index.ts'
import { checkVerdict, isFailed } from './check-verdict.ts'
import { CONFORMITY_VERDICTS, type ConformityVerdict } from './conformity.ts'
import { judgeLoop, type LoopReading, type LoopTerms } from './judge-loop.ts'
import { combinedOf, lastDigit, rangeFor, rowsOfReading, type InstrumentRange } from './reading-budget.ts'
import { INDICATOR, standardKnots, witnessesBehind, witnessesOf } from './witness.ts'

const value = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const knot = (id: string, role: Knot['role'], unit: string): Knot => ({
  id,
  role,
  name: id,
  explains: '',
  quantity: unit === 'mA' ? 'current' : unit === 'V' ? 'voltage' : 'length',
  unit,
  decimals: 3,
})
type Range = { lrv: number; urv: number; low: number; high: number; root: 'none' | 'transmitter' | 'receiver' }
/** A loop of process, current and controller, each stage made here by its own formula. */
function loop({ lrv, urv, low, high, root }: Range): Thread {
  const receiver: Stage =
    root === 'receiver'
      ? {
          title: 'Scale',
          causes: ['scaled differently'],
          ready: true,
          forward: (mA) => low + Math.sqrt(Math.max(0, (mA - 4) / 16)) * (high - low),
          inverse: (v) => 4 + 16 * ((v - low) / (high - low)) ** 2,
        }
      : straightStage({ title: 'Scale', causes: ['scaled differently'], from: [4, 20], to: [low, high] })
  const range: Stage =
    root === 'receiver'
      ? {
          title: 'Range',
          causes: ['range set differently'],
          ready: true,
          forward: (x) => 4 + 16 * (x / urv) ** 2,
          inverse: (mA) => urv * Math.sqrt(Math.max(0, (mA - 4) / 16)),
        }
      : straightStage({ title: 'Range', causes: ['range set differently'], from: [lrv, urv], to: [4, 20] })
  return {
    knots: [knot('process', 'process', 'mm'), knot('current', 'current', 'mA'), knot('controller', 'controller', 'm')],
    stages: [range, receiver],
  }
}
const terms = (more: Partial<LoopTerms> = {}): LoopTerms => ({
  standardAt: 'process',
  tolerancePct: 0.5,
  controllerTolerancePct: 0.5,
  rule: 'simple',
  ...more,
})
const std = (u: number, unit: string) =>
  u > 0 ? [{ what: 'given', unit, value: u, distribution: 'standard' as const }] : []
const reading = (
  i: number,
  applied: number,
  reads: Record<string, number>,
  more: Partial<LoopReading> = {},
): LoopReading => ({
  id: `r${i}`,
  pointIndex: i,
  percent: i,
  direction: 'up',
  applied,
  reads,
  ...more,
})

describe('a loop judged by its thread', () => {
  const ranges = fc
    .record({
      lrv: value(-500, 500),
      span: value(50, 5000),
      low: value(-5, 5),
      width: value(1, 90),
      root: fc.constantFrom('none' as const, 'transmitter' as const, 'receiver' as const),
    })
    .map(({ lrv, span, low, width, root }): Range => {
      const from = root === 'none' ? lrv : 0
      return { lrv: from, urv: from + span, low, high: low + width, root }
    })
  const points = fc.array(
    fc.record({
      share: value(0.05, 1),
      error_mA: value(-0.4, 0.4),
      error: value(-0.04, 0.04),
      u_applied: value(0, 0.004),
      u_mA: value(0, 0.03),
      u_controller: value(0, 0.004),
    }),
    { minLength: 1, maxLength: 11 },
  )
  it('agrees with the two-knot verdict of its own formulas, errors, uncertainties and all (second method)', () => {
    fc.assert(
      fc.property(ranges, points, fc.constantFrom('simple' as const, 'guarded' as const), (range, shares, rule) => {
        const thread = loop(range)
        const { lrv, urv, low, high, root } = range
        const given = shares.map((s) => {
          const applied = lrv + s.share * (urv - lrv)
          const [, current, controller] = spread(thread, 'process', applied).map((v) => (v.known ? v.value : NaN))
          return {
            applied,
            direction: 'up' as const,
            mA: current! + s.error_mA,
            controller: controller! + s.error * (high - low),
            u_applied: s.u_applied * (urv - lrv),
            u_mA: s.u_mA,
            u_controller: s.u_controller * (high - low),
          }
        })
        const by = checkVerdict({
          lrv,
          urv,
          root,
          controllerLow: low,
          controllerHigh: high,
          points: given,
          tolerancePct: 0.5,
          rule,
        })
        const got = judgeLoop(
          given.map((p, i) =>
            reading(
              i,
              p.applied,
              { current: p.mA, controller: p.controller },
              {
                appliedRows: std(p.u_applied, 'mm'),
                readRows: { current: std(p.u_mA, 'mA'), controller: std(p.u_controller, 'm') },
              },
            ),
          ),
          thread,
          terms({ rule }),
        )!
        got.judged.forEach(({ knots: [current, controller] }, i) => {
          expect(current!.errorPct).toBeCloseTo(by.points[i]!.current!.errorPct, 6)
          expect(controller!.errorPct).toBeCloseTo(by.points[i]!.controller!.errorPct, 6)
          for (const [mine, theirs] of [
            [current!.u_pct, by.points[i]!.current!.u_pct],
            [controller!.u_pct, by.points[i]!.controller!.u_pct],
          ] as const)
            expect(Math.abs(mine - theirs)).toBeLessThanOrEqual(1e-4 * theirs + 1e-9)
        })
        // Verdicts at the very edge may fall either way of a last digit.
        const edge = got.judged.some(({ knots }) =>
          knots.some((k) =>
            [0, 2, -2].some((n) => Math.abs(Math.abs(k.errorPct) - k.tolerancePct - n * k.u_pct) < 1e-4),
          ),
        )
        if (edge) return
        expect(got.verdict).toBe(by.verdict)
        expect(got.first?.witness.id ?? 'none').toBe(by.firstDeparture)
      }),
      { numRuns: 300 },
    )
  })
  it('never passes what the thread contradicts, at any place, and guarded never accepts more than simple', () => {
    const thread = study(currentKindOf('level-from-above'), demoEntries('level-from-above')).thread
    const places = witnessesOf(thread)
    fc.assert(
      fc.property(
        fc.nat(places.length - 1),
        value(-3, 3),
        fc.array(value(0, 3000), { minLength: 1, maxLength: 6 }),
        value(0, 0.4),
        (which, errorPct, levels, u) => {
          const wrong = places[which]!
          const readings = levels.map((applied, i) => {
            const expected = spread(thread, thread.knots[0]!.id, applied)
            const reads = Object.fromEntries(
              places.flatMap((w) => {
                const e = expected[thread.knots.findIndex((k) => k.id === w.knotId)]!
                if (!e.known) return []
                return [[w.id, e.value + (w === wrong && i === 0 ? (errorPct / 100) * (w.high - w.low) : 0)]]
              }),
            )
            return reading(i, applied, reads, {
              readRows: { [wrong.id]: std((u / 100) * Math.abs(wrong.high - wrong.low), wrong.unit) },
            })
          })
          const by = (rule: LoopTerms['rule']) =>
            judgeLoop(readings, thread, terms({ standardAt: thread.knots[0]!.id, rule }))!
          const [simple, guarded] = [by('simple'), by('guarded')]
          const worse = (v: ConformityVerdict) => CONFORMITY_VERDICTS.indexOf(v)
          expect(worse(guarded.verdict)).toBeGreaterThanOrEqual(simple.verdict === 'pass' ? 0 : worse('fail-at-risk'))
          if (Math.abs(errorPct) > 0.5 + 1e-6) {
            expect(isFailed(simple.verdict)).toBe(true)
            expect(isFailed(guarded.verdict)).toBe(true)
            expect(simple.first!.witness.id).toBe(wrong.id)
          } else if (Math.abs(errorPct) < 0.5 - 1e-6) expect(simple.verdict).toBe('pass')
        },
      ),
      { numRuns: 200 },
    )
  })
  it('fails a loop whose controller is scaled wrong though its current is right, and says where to look', () => {
    const thread = loop({ lrv: 0, urv: 3000, low: 0, high: 3, root: 'none' })
    const got = judgeLoop([reading(0, 1500, { current: 12, controller: 1.8 })], thread, terms())!
    expect(got.verdict).toBe('fail')
    expect(got.witnesses.map((w) => w.verdict)).toEqual(['pass', 'fail'])
    expect(got.first).toMatchObject({ witness: { id: 'controller' }, after: 'current', causes: ['scaled differently'] })
  })
  it('holds the controller to a tolerance of its own', () => {
    const thread = loop({ lrv: 0, urv: 3000, low: 0, high: 3, root: 'none' })
    const off = [reading(0, 1500, { current: 12, controller: 1.53 })]
    expect(judgeLoop(off, thread, terms())!.verdict).toBe('fail')
    expect(judgeLoop(off, thread, terms({ controllerTolerancePct: 1.5 }))!.verdict).toBe('pass')
  })
  it('is simple, and says no ratio, where nothing is known of an instrument', () => {
    const thread = loop({ lrv: 0, urv: 3000, low: 0, high: 3, root: 'none' })
    const near = { current: 12.07 }
    const rows = { readRows: { current: std(0.05, 'mA') } }
    const known = judgeLoop([reading(0, 1500, near, rows)], thread, terms({ rule: 'guarded' }))!
    expect(known).toMatchObject({ verdict: 'pass-at-risk', witnesses: [{ ratio: 0.5 / (2 * 0.3125) }] })
    const unknown = judgeLoop(
      [reading(0, 1500, near, { ...rows, unknown: ['current'] })],
      thread,
      terms({ rule: 'guarded' }),
    )!
    expect(unknown).toMatchObject({ verdict: 'pass', witnesses: [{ u_pct: 0, ratio: undefined }] })
    expect(unknown.judged[0]!.knots[0]!.probabilityInside).toBe(undefined)
  })
  it('counts how far repeated readings of one point lie apart', () => {
    const thread = loop({ lrv: 0, urv: 3000, low: 0, high: 3, root: 'none' })
    const twice = [12.008, 12.024].map((current, i) => ({ ...reading(i, 1500, { current }), percent: 50 }))
    const [one] = judgeLoop(twice, thread, terms())!.judged
    // 0.05 and 0.15 % of span: half of their difference times the root of two.
    expect(one!.knots[0]!.u_pct).toBeCloseTo(0.1 / Math.SQRT2, 9)
  })
  it('is null without a reading behind the standard', () => {
    const thread = loop({ lrv: 0, urv: 3000, low: 0, high: 3, root: 'none' })
    expect(judgeLoop([], thread, terms())).toBeNull()
    expect(judgeLoop([reading(0, 12, { current: 12 })], thread, terms({ standardAt: 'current' }))).toBeNull()
  })
})

describe('places of a loop', () => {
  const thread = study(currentKindOf('orifice-dp'), demoEntries('orifice-dp')).thread
  it('are its knots with a scale, and a display fed by the current', () => {
    const ids = witnessesOf(thread).map((w) => w.id)
    expect(ids.indexOf(INDICATOR)).toBe(ids.indexOf('current') + 1)
    expect(ids.at(-1)).toBe('controller')
    expect(standardKnots(thread).map((k) => k.id)).toEqual(['flow', 'dp', 'current'])
    expect(witnessesBehind(thread, 'current').map((w) => w.id)).toEqual([INDICATOR, 'volts', 'counts', 'controller'])
  })
  it('are judged from the knot where the standard stands: mbar at the cell, mA at the card', () => {
    const expected = spread(thread, 'dp', 40)
    const at = (id: string) => {
      const v = expected[thread.knots.findIndex((k) => k.id === id)]!
      return v.known ? v.value : NaN
    }
    const by = judgeLoop(
      [reading(0, 40, { current: at('current'), controller: at('controller') })],
      thread,
      terms({ standardAt: 'dp' }),
    )!
    expect(by.verdict).toBe('pass')
    expect(by.judged[0]!.knots.map((k) => k.errorPct)).toEqual([0, 0])
    // At no flow a root is infinitely steep: the doubt of the input is still one that can be read.
    const zero = judgeLoop(
      [reading(0, 0, { controller: 0 }, { appliedRows: std(0.01, 'mbar') })],
      thread,
      terms({ standardAt: 'dp' }),
    )!
    expect(zero.judged[0]!.knots[0]!.u_pct).toBeLessThan(5)
    expect(Number.isFinite(zero.judged[0]!.knots[0]!.u_pct)).toBe(true)
  })
})

describe('the budget of a reading', () => {
  const meter: InstrumentRange = {
    quantity: 'current',
    unit: 'mA',
    low: 0,
    high: 24,
    pctOfReading: 0.02,
    digits: 2,
    resolution: 0.001,
    driftPctPerYear: 0.01,
    tempPctPerC: 0.002,
  }
  it('has a row for the figures, the drift, the temperature and the last digit', () => {
    const rows = rowsOfReading('Loop meter', meter, {
      value: 12,
      unit: 'mA',
      resolution: 0.01,
      days: 731,
      ambient_C: 33,
    })
    expect(rows.map((r) => [r.what, Number(r.value.toFixed(6)), r.distribution])).toEqual([
      ['Loop meter: its figures', 0.0044, 'rectangular'],
      ['Loop meter: drift in 731 days', Number((0.0024 * (731 / 365.25)).toFixed(6)), 'rectangular'],
      ['Loop meter: temperature', 0.0012, 'rectangular'],
      ['last digit read', 0.005, 'rectangular'],
    ])
    const squares = rows.reduce((s, r) => s + (r.value / Math.sqrt(3)) ** 2, 0)
    expect(combinedOf(rows)).toBeCloseTo(Math.sqrt(squares), 12)
  })
  it('is in the unit that was read, whatever the instrument’s', () => {
    const [row] = rowsOfReading(
      'Block',
      { quantity: 'temperature', unit: 'degC', low: 0, high: 300, fixed: 0.15, coverage: 2 },
      { value: 212, unit: 'degF' },
    )
    expect(row).toMatchObject({ value: expect.closeTo(0.27, 9), distribution: 'normal', coverage: 2, unit: 'degF' })
  })
  it('is taken on the narrowest range that holds the value; where none does there is none', () => {
    const wide = { ...meter, high: 400 }
    expect(rangeFor([wide, meter], 20, 'mA')).toBe(meter)
    expect(rangeFor([wide, meter], 0.1, 'A')).toBe(wide)
    expect(rangeFor([wide, meter], 500, 'mA')).toBe(undefined)
    expect(rangeFor([meter], 20, 'mm')).toBe(undefined)
    expect(rowsOfReading('Loop meter', undefined, { value: 12, unit: 'mA', resolution: 0.01 })).toHaveLength(1)
    expect(rowsOfReading('Loop meter', undefined, { value: 12, unit: 'mA' })).toEqual([])
  })
  it.each([
    ['12.003 mA', 0.001],
    ['12,0', 0.1],
    ['1 500 mm', 1],
    ['-4', 1],
    ['1.2e3', undefined],
    ['3 1/2 in', undefined],
    ['12\' 6"', undefined],
    ['', undefined],
  ])('the last digit of %j is worth %s', (typed, worth) => {
    if (worth === undefined) expect(lastDigit(typed)).toBe(undefined)
    else expect(lastDigit(typed)).toBeCloseTo(worth, 12)
  })
})

describe('a display that shows no engineering unit', () => {
  it.each([
    ['%', 50.3, 0.3],
    ['mA', 12.08, 0.5],
    ['counts', 39321 + 524, 1],
  ])('in %s is judged in per cent of its own span', (shows, shown, off) => {
    const s = study(currentKindOf('pressure'), demoEntries('pressure', { shows, receiverLow: '', receiverHigh: '' }))
    const middle = spread(s.thread, 'current', 12)[0]!
    if (!middle.known) throw new Error('not known')
    const judged = judgeLoop([reading(0, middle.value, { controller: shown })], s.thread, terms())!
    expect(judged.judged[0]!.knots[0]!.errorPct).toBeCloseTo(off, 2)
    expect(judged.verdict).toBe(off > 0.5 ? 'fail' : 'pass')
  })
})
