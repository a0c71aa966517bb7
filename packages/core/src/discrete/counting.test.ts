import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  countReport,
  cycleMetrics,
  edgeReader,
  edgesOf,
  endOf,
  parseDays,
  parseShifts,
  readTime,
  refuseUnsound,
  reportShift,
  risesOf,
  shiftsBetween,
  silences,
  stoppedTime,
  totalOf,
  type Calendar,
  type EdgeTrain,
} from './index.ts'

const utc: Calendar = {
  dayOf: (ms) => {
    const t = new Date(ms)
    return { y: t.getUTCFullYear(), m: t.getUTCMonth() + 1, d: t.getUTCDate(), weekday: t.getUTCDay() }
  },
  moment: (y, m, d, minutes) => Date.UTC(y, m - 1, d) + minutes * 60_000,
}
const T0 = Date.UTC(2026, 9, 5, 6)
const train: fc.Arbitrary<EdgeTrain> = fc.record({
  start_ms: fc.integer({ min: T0, max: T0 + 1e6 }),
  startState: fc.boolean(),
  gaps_ms: fc.array(fc.integer({ min: 1, max: 60_000 }), { maxLength: 200 }),
})

describe('an edge log', () => {
  it('comes back whole from the rows written of it', () => {
    fc.assert(
      fc.property(train, (t) => {
        const reader = edgeReader(utc.moment)
        reader.row(1, ['time', 'state'])
        let line = 2
        for (const e of edgesOf([t])) reader.row(line++, [new Date(e.t_ms).toISOString(), e.state ? '1' : '0'])
        const report = reader.report()
        expect(report.train).toEqual(t)
        expect(report).toMatchObject({ badCount: 0, unchanged: 0, end_ms: endOf(t), accepted: t.gaps_ms.length + 1 })
      }),
    )
  })
  it('counts the good rows and names the bad ones by line and reason', () => {
    const reader = edgeReader(utc.moment)
    const rows = [
      ['state', 'time'],
      ['0', '2026-10-05T06:00:00Z'],
      ['1', '2026-10-05T06:00:10Z'],
      ['1', '2026-10-05T06:00:10Z'],
      ['0', '2026-10-05T06:00:10Z'],
      ['1', '2026-10-05T06:00:11Z'],
      ['0', '2026-10-05T05:59:00Z'],
      ['maybe', '2026-10-05T06:00:12Z'],
      ['0', 'yesterday'],
      ['0'],
      ['0', '2026-02-30T06:00:12Z'],
      ['0', '2026-10-05T06:00:13.5Z'],
    ]
    rows.forEach((cells, i) => reader.row(i + 1, cells))
    const { bad, ...report } = reader.report()
    expect(report).toMatchObject({ rows: 11, accepted: 3, unchanged: 1, badCount: 7 })
    expect(report.train).toEqual({ start_ms: T0, startState: false, gaps_ms: [10_000, 3500] })
    expect(bad.map((b) => b.line)).toEqual([4, 5, 7, 8, 9, 10, 11])
    expect(bad[2]!.reason).toMatch(/70\.000 s before line 3/)
  })
  it.each([
    ['2026-10-05T06:00:00.250Z', T0 + 250],
    ['2024-02-29T12:00Z', Date.UTC(2024, 1, 29, 12)],
    ['2026-10-05 08:00:00,250+02:00', T0 + 250],
    [String(T0), T0],
    [(T0 / 1000 + 0.5).toFixed(1), T0 + 500],
  ])('reads %s', (text, ms) => expect(readTime(text, utc.moment)).toMatchObject({ ms, local: false }))
  it('reads a time without a zone in the zone given', () =>
    expect(readTime('2026-10-05 06:00:00', (...at) => utc.moment(...at) - 3600_000)).toEqual({
      ms: T0 - 3600_000,
      local: true,
    }))
  it.each([
    '',
    '2026-02-29T06:00Z',
    '2026-10-05T24:00Z',
    '14:00',
    '1999-01-01T00:00:00Z',
    '2026-13-01T00:00:00Z',
    '12',
    'NaN',
  ])('does not take “%s” for a time', (t) => expect(typeof readTime(t, utc.moment)).toBe('string'))
  it.each([[[0]], [[1.5]], [[-3]], [[Number.NaN]], [[8e15]]])('refuses gaps %j', (gaps_ms) =>
    expect(() => refuseUnsound({ start_ms: T0, startState: false, gaps_ms })).toThrowError(
      expect.objectContaining({ code: 'train-unsound' }),
    ),
  )
})

describe('counting', () => {
  it('finds the same cycles packed as one by one', () => {
    fc.assert(
      fc.property(fc.array(train, { maxLength: 4 }), (trains) => {
        let at = T0
        const inOrder = trains.map((t) => {
          const moved = { ...t, start_ms: at }
          at = endOf(moved) + 500
          return moved
        })
        const edges = [...edgesOf(inOrder)].map((e) => ({ t_s: e.t_ms / 1000, state: e.state }))
        const rises = risesOf(inOrder)
        const plain = { plannedTime_s: 60, stops: [], idealCycle_s: 1, rejected: 0 }
        expect(rises.length).toBe(cycleMetrics({ edges, ...plain }).count)
      }),
    )
  })
  it('counts overlapping stops once and ignores what lies outside', () => {
    const stop = fc.record({ from_s: fc.integer({ min: -50, max: 150 }), length: fc.integer({ min: 0, max: 90 }) })
    fc.assert(
      fc.property(fc.array(stop), (list) => {
        const stops = list.map((s) => ({ from_s: s.from_s, to_s: s.from_s + s.length }))
        let seconds = 0
        for (let s = 0; s < 100; s++) if (stops.some((x) => x.from_s <= s && x.to_s >= s + 1)) seconds++
        expect(stoppedTime(stops, 100)).toBe(seconds)
      }),
    )
  })
  it('gives a shift what the calculator gives for the same time', () => {
    const rises = Float64Array.from({ length: 600 }, (_, i) => T0 + 2000 + i * 47_000 + (i % 7) * 900)
    const shift = { name: 'Early', day: '2026-10-05', from_ms: T0, to_ms: T0 + 8 * 3600_000 }
    const stops = [
      { from_ms: T0 + 3600_000, to_ms: T0 + 4500_000 },
      { from_ms: T0 + 4000_000, to_ms: T0 + 5000_000 },
    ]
    const report = reportShift(rises, shift, {
      stops,
      idealCycle_s: 40,
      longCycle_s: 48,
      rejected: { '2026-10-05 Early': 6 },
    })
    const edges = [...rises]
      .filter((t) => t >= shift.from_ms && t < shift.to_ms)
      .flatMap((t) => [
        { t_s: (t - T0) / 1000, state: true },
        { t_s: (t - T0) / 1000 + 1, state: false },
      ])
    const asked = cycleMetrics({
      edges: [{ t_s: 0, state: false }, ...edges],
      plannedTime_s: 28_800,
      stops: stops.map((s) => ({ from_s: (s.from_ms - T0) / 1000, to_s: (s.to_ms - T0) / 1000 })),
      idealCycle_s: 40,
      rejected: 6,
      longCycle_s: 48,
    })
    const { count, oee, longCycles, meanCycle_s } = report
    expect({ count, longCycles }).toEqual({ count: asked.count, longCycles: asked.longCycles })
    expect(oee).toBeCloseTo(asked.oee!, 12)
    expect(meanCycle_s).toBeCloseTo(asked.meanCycle_s!, 9)
    expect(totalOf([report], 40)).toMatchObject({ count, oee })
  })
  it('finds the silences nobody has named', () => {
    const shift = { name: 'Early', day: '2026-10-05', from_ms: T0, to_ms: T0 + 100_000 }
    expect(silences([T0 + 10_000, T0 + 20_000, T0 + 80_000], [shift], 15)).toEqual([
      { from_ms: T0 + 20_000, to_ms: T0 + 80_000 },
      { from_ms: T0 + 80_000, to_ms: T0 + 100_000 },
    ])
  })
})

describe('shifts', () => {
  it('are read as written, over midnight too', () => {
    expect(parseShifts('Early 06:00–14:00, Late 14:00-22:00, Night 22:00 to 6:00')).toEqual([
      { name: 'Early', from_min: 360, to_min: 840 },
      { name: 'Late', from_min: 840, to_min: 1320 },
      { name: 'Night', from_min: 1320, to_min: 1800 },
    ])
    expect([...parseDays('Mon–Fri')]).toEqual([1, 2, 3, 4, 5])
    expect([...parseDays('Sat, Sun')]).toEqual([6, 0])
    expect(parseDays('every day').size).toBe(7)
  })
  it.each(['', 'Early', 'Early 25:00–26:00', 'A 06:00–14:00, B 13:00–20:00', 'A 22:00–07:00, B 06:00–10:00'])(
    'refuses “%s”',
    (text) => expect(() => parseShifts(text)).toThrowError(expect.objectContaining({ code: 'shifts-unreadable' })),
  )
  it('are laid out over the days worked', () => {
    const found = shiftsBetween({
      patterns: parseShifts('Early 06:00–14:00, Night 22:00–06:00'),
      days: parseDays('Mon–Fri'),
      from_ms: T0,
      to_ms: T0 + 7 * 864e5,
      calendar: utc,
    })
    expect(found.length).toBe(10)
    expect(found[0]).toMatchObject({ day: '2026-10-05', name: 'Early', from_ms: T0 })
    expect(found.some((s) => s.day === '2026-10-10')).toBe(false)
  })
})

describe('a count report', () => {
  const rise = (at_s: number, length_s = 1) => [at_s, length_s] as const
  /** A train with a pulse at each of the times. */
  const trainOf = (start_ms: number, pulses: readonly (readonly [number, number])[]): EdgeTrain => {
    const gaps_ms: number[] = []
    let last = 0
    for (const [at, length] of pulses) {
      gaps_ms.push((at - last) * 1000, length * 1000)
      last = at + length
    }
    return { start_ms, startState: false, gaps_ms }
  }
  const pulses = Array.from({ length: 300 }, (_, i) => rise(10 + i * 40 + (i > 200 ? 600 : 0)))
  const ask = {
    trains: [trainOf(T0, pulses)],
    patterns: parseShifts('Early 06:00–14:00, Late 14:00–22:00'),
    days: [1, 2, 3, 4, 5],
    idealCycle_s: 36,
    longCycle_s: 60,
    stops: [],
    rejected: { '2026-10-05 Early': 3 },
  }
  it('is nothing while nothing was counted', () => expect(countReport({ ...ask, trains: [] }, utc)).toBeUndefined())
  it('counts by shift, knows how much of it was watched, and adds up to the whole', () => {
    const told: number[] = []
    const report = countReport(ask, utc, (share) => told.push(share))!
    expect(report.shifts.map((s) => [s.shift.name, s.count, s.rejected])).toEqual([['Early', 300, 3]])
    expect(report.shifts[0]!.watched).toBeCloseTo((10 + 299 * 40 + 601) / 28_800, 3)
    expect(report.total.count).toBe(report.rises)
    expect(report.total.oee).toBeCloseTo(report.shifts[0]!.oee!, 12)
    expect(told.at(-1)).toBe(1)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
  })
  it('finds the long cycle and the standstill, which a named stop takes away', () => {
    const report = countReport(ask, utc)!
    expect(report.long).toEqual([{ at_ms: T0 + (10 + 201 * 40 + 600) * 1000, seconds: 640 }])
    const still = { from_ms: T0 + (10 + 200 * 40) * 1000, to_ms: T0 + (10 + 201 * 40 + 600) * 1000 }
    expect(report.unnamed).toEqual([still])
    const named = countReport({ ...ask, stops: [still, { ...still, from_ms: still.from_ms + 1000 }] }, utc)!
    expect(named.unnamed).toEqual([])
    expect(named.shifts[0]!.stopped_s).toBe(640)
    expect(named.total.performance!).toBeGreaterThan(report.total.performance!)
  })
  it('counts without an ideal cycle, and then knows no performance', () => {
    const { total } = countReport({ ...ask, idealCycle_s: undefined, longCycle_s: undefined }, utc)!
    expect(total).toMatchObject({ count: 300, performance: null, oee: null, longCycles: null })
    expect(total.availability).toBe(1)
  })
  it('does not take the time between two recordings for a standstill that lasted', () => {
    const two = [trainOf(T0, [rise(10), rise(50)]), trainOf(T0 + 20 * 3600_000, [rise(10), rise(50)])]
    const report = countReport({ ...ask, trains: two }, utc)!
    expect(report.rises).toBe(4)
    expect(report.shifts.every((s) => s.watched < 0.01)).toBe(true)
    expect([report.unnamed, report.long]).toEqual([[], []])
  })
  it('of a shift watched for half is that of a machine at full speed, not at half', () => {
    const half = Array.from({ length: 400 }, (_, i) => rise(10 + i * 36))
    const report = countReport({ ...ask, trains: [trainOf(T0, half)] }, utc)!
    const [early] = report.shifts
    expect(early!.watched).toBeCloseTo(0.5, 2)
    expect(early!.performance).toBeCloseTo(1, 2)
    expect(early!.availability).toBe(1)
    expect(early!.planned_s).toBeCloseTo(14_400, -2)
    // A stop that lasted beyond what was watched counts as long as it was.
    const stop = { from_ms: T0 + 13_000_000, to_ms: T0 + 28_000_000 }
    const stopped = countReport({ ...ask, trains: [trainOf(T0, half)], stops: [stop] }, utc)!
    expect(stopped.shifts[0]!.stopped_s).toBeLessThan(1_400)
  })
  it('goes on over two recordings that follow one another at once', () => {
    const first = Array.from({ length: 100 }, (_, i) => rise(10 + i * 36))
    const second = Array.from({ length: 100 }, (_, i) => rise(34 + i * 36))
    const seam = T0 + (10 + 99 * 36 + 1) * 1000 + 1000
    const report = countReport({ ...ask, trains: [trainOf(T0, first), trainOf(seam, second)] }, utc)!
    expect(report.shifts[0]!.meanCycle_s).toBeCloseTo(36, 3)
    expect(report.long).toEqual([])
  })
})
