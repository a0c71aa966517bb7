// A round: nothing that is due is forgotten, nothing past its own date is packed, the same input gives the same plan.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { KINDS, kindOf, worksOf } from '../kinds/index.ts'
import { minutesFor, packFor, pastKey, planRound, quantileOf, together, USUAL, WORKS } from './index.ts'
import type { Job, Need, Piece, RoundInput, RoundLoop } from './index.ts'

const DAY = '2026-12-01'
const days = ['2026-11-20', '2026-11-30', DAY, '2026-12-03', '2026-12-09']
const need = (tag: string, tolerance = 0.08): Need => ({
  ...{ tag, what: 'loop current', unit: 'mA', low: 4, high: 20, tolerance },
})
const meter = (id: string, more: Partial<Piece> = {}): Piece => ({
  ...{ id, name: `Meter ${id}`, serial: id, due: '2027-06-01', holder: null },
  ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.004 }],
  ...more,
})
const loop = (id: string, more: Partial<RoundLoop> = {}): RoundLoop => ({
  ...{
    id,
    tag: `LT-${id}`,
    area: 'A',
    kind: 'pressure',
    works: ['loop-check', 'pressure'],
    due: DAY,
    needs: [need(`LT-${id}`)],
  },
  ...more,
})
const job = (id: string, loopId: string, more: Partial<Job> = {}): Job => ({
  ...{ id, loopId, what: 'Look at it', why: 'It reads high', by: null, from: 'Bree', made: `${DAY}T06:00:00.000Z` },
  ...more,
})
const input = (more: Partial<RoundInput> = {}): RoundInput => ({
  ...{
    day: DAY,
    until: '2026-12-03',
    loops: [],
    jobs: [],
    kit: [],
    areas: ['A', 'B'],
    byHand: [],
    past: {},
    wanted: 4,
  },
  ...more,
})
const tags = (more: Partial<RoundInput>) => planRound(input(more)).stops.map((s) => s.loop.tag)

const arbitrary = fc.record({
  loops: fc.uniqueArray(
    fc.record({
      id: fc.integer({ min: 1, max: 40 }).map(String),
      area: fc.constantFrom('A', 'B', 'Yard', ''),
      works: fc.subarray([...WORKS], { minLength: 1, maxLength: 3 }),
      due: fc.constantFrom(null, ...days),
      tolerance: fc.constantFrom(0.001, 0.02, 0.08, 1),
    }),
    { selector: (l) => l.id, maxLength: 20 },
  ),
  jobs: fc.uniqueArray(
    fc.record({
      id: fc.integer({ min: 100, max: 140 }).map(String),
      of: fc.nat(45),
      by: fc.constantFrom(null, ...days),
    }),
    { selector: (j) => j.id, maxLength: 12 },
  ),
  kit: fc.uniqueArray(
    fc.record({
      id: fc.integer({ min: 1, max: 9 }).map((n) => `m${n}`),
      due: fc.constantFrom(...days),
      holder: fc.constantFrom(null, 'Rona Teague'),
      fixed: fc.constantFrom(0.0005, 0.004, 0.1),
      high: fc.constantFrom(10, 24),
    }),
    { selector: (p) => p.id, maxLength: 6 },
  ),
  hand: fc.shuffledSubarray(Array.from({ length: 40 }, (_, i) => String(i + 1))),
})
const made = (a: typeof arbitrary extends fc.Arbitrary<infer T> ? T : never): RoundInput =>
  input({
    loops: a.loops.map(({ tolerance, ...l }) => loop(l.id, { ...l, needs: [need(`LT-${l.id}`, tolerance)] })),
    jobs: a.jobs.map((j) => job(j.id, String(j.of), { by: j.by })),
    kit: a.kit.map(({ fixed, high, ...p }) =>
      meter(p.id, { ...p, ranges: [{ quantity: 'current', unit: 'mA', low: 0, high, fixed }] }),
    ),
    byHand: a.hand,
  })

describe('a round', () => {
  it('forgets no loop that is due and no job, and holds each loop once', () => {
    fc.assert(
      fc.property(arbitrary, (a) => {
        const of = made(a)
        const plan = planRound(of)
        const ids = plan.stops.map((s) => s.loop.id)
        expect(new Set(ids).size).toBe(ids.length)
        for (const l of of.loops) if (l.due !== null && l.due <= of.until) expect(ids).toContain(l.id)
        const inPlan = [...plan.stops.flatMap((s) => s.jobs), ...plan.lost].map((j) => j.id)
        for (const j of of.jobs) if (j.by === null || j.by <= of.until) expect(inPlan).toContain(j.id)
        expect(plan.stops.every((s) => s.check ?? s.jobs.length)).toBe(true)
      }),
    )
  })
  it('packs nothing past its own date or out of its range, and says of each need what measures it, or why none', () => {
    fc.assert(
      fc.property(arbitrary, (a) => {
        const of = made(a)
        const { kit, missing, stops } = planRound(of)
        const needs = stops.filter((s) => s.check).flatMap((s) => s.loop.needs.map(() => s.loop.tag))
        for (const { piece, uses } of kit) {
          expect(piece.due >= of.day).toBe(true)
          for (const u of uses) expect(piece.ranges[0]!.high).toBeGreaterThanOrEqual(u.need.high)
          for (const u of uses) expect(u.short).toBe(u.ratio! < of.wanted)
        }
        const said = [...kit.flatMap((p) => p.uses.map((u) => u.need)), ...missing.map((m) => m.need)]
        expect(said.map((n) => n.tag).sort()).toEqual(needs.sort())
      }),
    )
  })
  it('is the same whatever the order of what it is made from', () => {
    const shuffled = arbitrary.chain((a) =>
      fc.record({
        a: fc.constant(a),
        loops: fc.shuffledSubarray(a.loops, { minLength: a.loops.length }),
        jobs: fc.shuffledSubarray(a.jobs, { minLength: a.jobs.length }),
        kit: fc.shuffledSubarray(a.kit, { minLength: a.kit.length }),
      }),
    )
    fc.assert(
      fc.property(shuffled, ({ a, ...order }) => {
        expect(planRound(made({ ...a, ...order }))).toEqual(planRound(made(a)))
      }),
    )
  })
  it('keeps the order that a person has given to what is in it', () => {
    fc.assert(
      fc.property(arbitrary, (a) => {
        const of = made(a)
        const ids = planRound(of).stops.map((s) => s.loop.id)
        const put = of.byHand.filter((id) => ids.includes(id))
        expect(ids.filter((id) => put.includes(id))).toEqual(put)
      }),
    )
  })
  it('is walked by area and tag, an area without a place after the others', () => {
    const loops = [
      loop('10'),
      loop('9'),
      loop('3', { area: 'Yard' }),
      loop('2', { area: 'B' }),
      loop('1', { due: '2027-01-01' }),
    ]
    expect(tags({ loops })).toEqual(['LT-9', 'LT-10', 'LT-2', 'LT-3'])
    expect(tags({ loops, areas: ['Yard', 'B', 'A'] })).toEqual(['LT-3', 'LT-2', 'LT-9', 'LT-10'])
    expect(
      planRound(input({ loops }))
        .stops.filter((s) => s.unplaced)
        .map((s) => s.loop.tag),
    ).toEqual(['LT-3'])
  })
  it('puts what came after it was put by hand behind the one before it', () => {
    const loops = ['1', '2', '3', '4'].map((id) => loop(id))
    expect(tags({ loops, byHand: ['4', '1', '3'] })).toEqual(['LT-4', 'LT-1', 'LT-2', 'LT-3'])
    expect(tags({ loops, byHand: ['4', 'gone', '4'] })).toEqual(['LT-1', 'LT-2', 'LT-3', 'LT-4'])
  })
  it('says what is overdue, a job whose loop is gone, and one that was due before it was made', () => {
    const loops = [loop('1', { due: '2026-11-30' }), loop('2')]
    const jobs = [job('a', 'gone'), job('b', '2', { by: '2026-11-30' }), job('c', '2', { by: '2027-01-01' })]
    const plan = planRound(input({ loops, jobs }))
    expect(plan.stops.map((s) => s.check)).toEqual([
      { due: '2026-11-30', overdue: true },
      { due: DAY, overdue: false },
    ])
    expect(plan.stops[1]!.jobs.map((j) => j.id)).toEqual(['b'])
    expect(plan.lost.map((j) => j.id)).toEqual(['a'])
    expect(plan.lateMade.map((j) => j.id)).toEqual(['b'])
  })
  it('brings each thing once, and by the place what is used up there', () => {
    const loops = [
      loop('1'),
      loop('2', { works: ['loop-check', 'ph'] }),
      loop('3', { works: ['loop-check', 'clamp-on-gas'] }),
    ]
    const { bring, stops } = planRound(input({ loops }))
    const line = (what: string) => bring.find((b) => b.what === what)
    expect(line('loop meter')).toEqual({ what: 'loop meter', count: 1, tags: ['LT-1', 'LT-2', 'LT-3'] })
    expect(line('sheet of the loop')!.count).toBe(3)
    expect(line('damping film by layers and size')).toEqual({
      ...{ what: 'damping film by layers and size', count: 1, tags: ['LT-3'] },
    })
    expect(stops[2]!.people).toContain('permit: gas area')
  })
})

describe('minutes', () => {
  it('are the median of this site’s own visits from three on, else what is usual', () => {
    expect(minutesFor(['loop-check'])).toEqual({ minutes: 45, low: 30, high: 60, visits: undefined })
    expect(minutesFor(['loop-check', 'ph'], [10, 20])).toMatchObject({ low: 30, high: 90, visits: undefined })
    expect(minutesFor(['loop-check'], [40, 20, NaN, -5, 30])).toEqual({ minutes: 30, low: 25, high: 35, visits: 3 })
    expect(minutesFor([])).toMatchObject({ minutes: 0, low: 0, high: 0 })
  })
  it('have quantiles as the definition says', () => {
    expect(quantileOf([1, 2, 3, 4], 0.5)).toBe(2.5)
    expect(quantileOf([7], 0.25)).toBe(7)
    expect(quantileOf([], 0.5)).toBe(0)
  })
  it('of a whole round spread less than their sum', () => {
    const one = minutesFor(['loop-check'])
    expect(together([one, one, one, one])).toEqual({ minutes: 180, low: 150, high: 210 })
    expect(together([])).toEqual({ minutes: 0, low: 0, high: 0 })
  })
  it('are kept under the same key in whatever order the works come', () => {
    expect(pastKey('ph', ['ph', 'loop-check'])).toBe(pastKey('ph', ['loop-check', 'ph']))
  })
})

describe('kit', () => {
  const pack = (needs: readonly Need[], kit: readonly Piece[]) => packFor(needs, kit, { day: DAY, wanted: 4 })
  const names = (p: ReturnType<typeof pack>) => p.packed.map((k) => k.piece.id)
  it('is as little as will do, rather what lies in its place', () => {
    const both = meter('b', { holder: 'Rona Teague' })
    expect(names(pack([need('1'), need('2')], [both, meter('c'), meter('d')]))).toEqual(['c'])
    expect(names(pack([need('1')], [both]))).toEqual(['b'])
  })
  it('that is good for both a wide and a narrow need is taken alone', () => {
    const fine = meter('f', { ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.0005 }] })
    expect(names(pack([need('1'), need('2', 0.01)], [meter('c'), fine]))).toEqual(['f'])
  })
  it('has its ratio at the worse end, in the unit of the need', () => {
    // 0.05 % of reading at 20 mA is 0.01 mA; rectangular, k = 2: 0.01155 mA.
    const byReading = meter('r', {
      ranges: [{ quantity: 'current', unit: 'µA', low: 0, high: 24000, pctOfReading: 0.05 }],
    })
    const [packed] = pack([need('1')], [byReading]).packed
    expect(packed!.uses[0]!.ratio).toBeCloseTo(0.08 / ((2 * 0.01) / Math.sqrt(3)), 6)
  })
  it('that is not good enough is taken where there is no better, the best of it, and said to be short', () => {
    const poor = (id: string, fixed: number) =>
      meter(id, { ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed }] })
    const silent = meter('s', { ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24 }] })
    const { packed } = pack([need('1'), need('2', 0.05)], [poor('p', 0.1), poor('q', 0.05), silent])
    expect(packed.map((k) => [k.piece.id, k.uses.map((u) => u.short)])).toEqual([['q', [true, true]]])
    expect(pack([need('1')], [silent]).packed[0]!.uses[0]).toMatchObject({ ratio: undefined, short: true })
  })
  it('that is missing is told by why: no range, or past its own date', () => {
    const old = meter('o', { due: '2026-11-30' })
    expect(pack([need('1')], [old]).missing).toMatchObject([{ why: 'past-due' }])
    expect(pack([{ ...need('1'), unit: 'bar', low: 0, high: 5 }], [old]).missing).toMatchObject([{ why: 'no-range' }])
    expect(pack([need('1')], [meter('t', { due: DAY })]).missing).toEqual([])
  })
})

describe('works', () => {
  it('are known of every kind, and each has minutes and something to bring', () => {
    for (const kind of KINDS) {
      const works = worksOf(kind, {})
      expect(works, kind.id).not.toEqual([])
      expect(works.includes('loop-check'), kind.id).toBe(kind.family === 'current')
    }
    for (const w of WORKS) {
      const [low, high] = USUAL[w].minutes
      expect(low > 0 && high >= low && USUAL[w].bring.length > 0, w).toBe(true)
    }
    const flow = kindOf('clamp-on')
    expect(worksOf(flow, { medium: { typed: 'gas' } })).toContain('clamp-on-gas')
    expect(worksOf(flow, { medium: { typed: 'liquid' } })).toContain('clamp-on-liquid')
  })
})
