// The weeks ahead, planned: nothing is forgotten, each check within its window, no week heavier than it must be.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { daysLater } from '../check/index.ts'
import type { RoundLoop } from './plan.ts'
import { daysFrom, mondayOf, planWeeks, weekday, type WeeksInput } from './weeks.ts'

const TODAY = '2026-11-30'
const PEOPLE = [
  { id: 'a', name: 'Ailsa' },
  { id: 'r', name: 'Rona' },
]
const loop = (n: number, due: string | null, more: Partial<RoundLoop> = {}): RoundLoop => ({
  ...{ id: `loop-${n}`, tag: `LT-${n}`, area: 'Yard', kind: 'pressure', works: ['loop-check'], due, needs: [] },
  ...more,
})
const input = (more: Partial<WeeksInput> = {}): WeeksInput => ({
  ...{ today: TODAY, until: daysLater(TODAY, 55), loops: [], people: PEOPLE, pins: [], shutdowns: [] },
  ...{ terms: { workingDays: [1, 2, 3, 4, 5], minutesADay: 240, early_days: 30 }, kit: [], past: {}, wanted: 4 },
  ...more,
})
const weekOf = (loops: readonly RoundLoop[], more: Partial<WeeksInput> = {}) => planWeeks(input({ loops, ...more }))
const placed = (plan: ReturnType<typeof planWeeks>, id: string) => plan.visits.find((v) => v.loop.id === id)!

describe('days', () => {
  it('have their weekday and the Monday before them', () => {
    expect([weekday('2026-11-30'), weekday('2026-12-06')]).toEqual([1, 7])
    expect(mondayOf('2026-12-06')).toBe('2026-11-30')
    expect(daysFrom('2026-12-30', '2027-01-02')).toHaveLength(4)
  })
})

describe('the weeks ahead', () => {
  it('level what falls due at once over the window before it', () => {
    const due = daysLater(TODAY, 32)
    const { weeks, visits } = weekOf(Array.from({ length: 40 }, (_, n) => loop(n, due)))
    expect(visits).toHaveLength(40)
    const heaviest = Math.max(...weeks.map((w) => w.planned))
    expect(heaviest).toBeLessThan(Math.max(...weeks.map((w) => w.due)) / 2)
    expect(visits.every((v) => !v.late)).toBe(true)
    expect(new Set(visits.map((v) => v.personId)).size).toBe(2)
  })
  it('put what is overdue first, and say that it is late', () => {
    const visit = placed(weekOf([loop(1, '2026-10-01')]), 'loop-1')
    expect(visit).toMatchObject({ late: true })
    expect(visit.day <= daysLater(TODAY, 7)).toBe(true)
  })
  it('stand round what a person has settled', () => {
    const pins = [{ loopId: 'loop-1', day: '2026-12-24', personId: 'r' }]
    const plan = weekOf([loop(1, '2026-12-20'), loop(2, null)], { pins })
    expect(placed(plan, 'loop-1')).toMatchObject({ day: '2026-12-24', personId: 'r', pinned: true, late: true })
    expect(plan.visits).toHaveLength(1)
  })
  it('go into a shutdown where the window allows, and round one in which nothing can be done', () => {
    const shutdown = { id: 's', from: '2026-12-07', to: '2026-12-11', area: 'Yard', how: 'into' as const }
    const due = '2026-12-31'
    const into = placed(weekOf([loop(1, due)], { shutdowns: [shutdown] }), 'loop-1')
    expect(into.day >= '2026-12-07' && into.day <= '2026-12-11').toBe(true)
    const other = placed(weekOf([loop(1, due, { area: 'Quay' })], { shutdowns: [shutdown] }), 'loop-1')
    expect(other.day > '2026-12-11').toBe(true)
    const closed = { ...shutdown, from: TODAY, to: due, how: 'none' as const }
    const after = placed(weekOf([loop(1, due)], { shutdowns: [closed] }), 'loop-1')
    expect(after).toMatchObject({ day: '2027-01-01', late: true })
  })
  it('without a working day, or with nobody to work, leave nothing out of sight', () => {
    const loops = [loop(1, '2026-12-20')]
    const never = { workingDays: [], minutesADay: 240, early_days: 30 }
    expect(weekOf(loops, { terms: never }).unplaced).toMatchObject([{ loop: { id: 'loop-1' }, why: 'no-working-day' }])
    expect(weekOf(loops, { people: [] }).unplaced).toMatchObject([{ why: 'nobody' }])
  })
  it('say where two people want one piece on a day, and where it is past its own date by then', () => {
    const need = { what: 'pressure', unit: 'mbar', low: 0, high: 500, tolerance: 2.5 }
    const pins = ['a', 'r'].map((personId, n) => ({ loopId: `loop-${n}`, day: '2026-12-10', personId }))
    const loops = [0, 1].map((n) => loop(n, '2026-12-20', { needs: [need] }))
    const gauge = {
      ...{ id: 'g', name: 'Gauge', serial: 'G-1', due: '2027-01-01', holder: null },
      ranges: [{ quantity: 'pressure' as const, unit: 'mbar', low: 0, high: 700, pctOfRange: 0.02, coverage: 2 }],
    }
    const [both] = weekOf(loops, { pins, kit: [gauge] }).conflicts
    expect(both).toMatchObject({ day: '2026-12-10', what: 'Gauge G-1', why: 'two-people', people: ['Ailsa', 'Rona'] })
    expect(both!.tags).toEqual(['LT-0', 'LT-1'])
    // A second one as good ends that; one that is too coarse does not.
    const second = { ...gauge, id: 'h', serial: 'G-2' }
    expect(weekOf(loops, { pins, kit: [gauge, second] }).conflicts).toEqual([])
    const coarse = { ...second, ranges: [{ ...gauge.ranges[0]!, pctOfRange: 2 }] }
    expect(weekOf(loops, { pins, kit: [gauge, coarse] }).conflicts).toMatchObject([{ why: 'two-people' }])
    const late = weekOf(loops, { pins, kit: [{ ...gauge, due: '2026-12-09' }] }).conflicts
    expect(late).toMatchObject([{ why: 'past-due', tags: ['LT-0', 'LT-1'] }])
  })

  const some = fc.array(
    fc.record({ n: fc.nat(5000), in: fc.integer({ min: -90, max: 55 }), area: fc.constantFrom('Yard', 'Quay', 'Gas') }),
    { maxLength: 60 },
  )
  const loopsOf = (list: readonly { n: number; in: number; area: string }[]) =>
    [...new Map(list.map((l) => [l.n, l])).values()].map((l) => loop(l.n, daysLater(TODAY, l.in), { area: l.area }))
  it('forget nothing, keep each in its window, and are the same in whatever order they are told', () => {
    fc.assert(
      fc.property(some, fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }), (list, workingDays) => {
        const terms = { workingDays, minutesADay: 240, early_days: 21 }
        const loops = loopsOf(list)
        const plan = weekOf(loops, { terms })
        expect(plan.visits.map((v) => v.loop.id).sort()).toEqual(loops.map((l) => l.id).sort())
        for (const v of plan.visits) {
          expect(workingDays).toContain(weekday(v.day))
          expect(v.late).toBe(v.day > v.due)
          const window = daysFrom(daysLater(v.due, -21), v.due).filter((d) => d >= TODAY)
          const possible = window.some((d) => workingDays.includes(weekday(d)))
          if (possible) expect(window).toContain(v.day)
        }
        expect(weekOf([...loops].reverse(), { terms })).toEqual(plan)
        const sum = (of: 'due' | 'planned') => plan.weeks.reduce((total, w) => total + w[of], 0)
        expect(sum('planned')).toBe(sum('due'))
      }),
      { numRuns: 120 },
    )
  })
})
