// The drawing of the day: whatever the day, no two names overlap, none leaves the picture, time runs on.
import type { Stop, Timed } from '@calm-loop/core/round'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawDay } from './day-thread.ts'

const LETTER = 8.4
const stopOf = ([tag, area, low, more]: readonly [string, string, number, number], i: number): Timed<Stop> => ({
  ...{ from: '', to: '' },
  stop: {
    loop: { id: `${i}`, tag, area, kind: 'k', works: [], due: null, needs: [] },
    ...{ check: undefined, jobs: [], works: [], people: [], unplaced: false },
    expected: { minutes: low + more / 2, low, high: low + more, visits: undefined },
  },
})
const day = fc.array(
  fc.tuple(
    fc.string({ minLength: 3, maxLength: 10, unit: fc.constantFrom(...'ABT-0123') }),
    fc.constantFrom('Wash house', 'Gas', 'A long name of an area'),
    fc.integer({ min: 5, max: 120 }),
    fc.integer({ min: 0, max: 120 }),
  ),
  { maxLength: 40 },
)
const span = (at: number, tag: string, width: number): [number, number] => {
  const letters = tag.length * LETTER
  const left = Math.min(Math.max(at - letters / 2, 0), width - letters)
  return [left, left + letters]
}

describe('the day as it is drawn', () => {
  it('writes no tag over another, or over the line of one, or out of the picture', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: 240, max: 1400 }), (all, width) => {
        const { stops } = drawDay(all.map(stopOf), 450, width)
        for (const row of [0, 1]) {
          const spans = stops.filter((s) => s.row === row).map((s) => span(s.x, s.tag, width))
          spans.forEach(([left], i) => expect(left).toBeGreaterThanOrEqual(spans[i - 1]?.[1] ?? 0))
          for (const [left, right] of spans) expect([left >= 0, right <= width + 1e-9]).toEqual([true, true])
        }
        const lines = stops.filter((s) => s.row === 1).map((s) => s.x)
        for (const s of stops.filter((s) => s.row === 0)) {
          const [left, right] = span(s.x, s.tag, width)
          expect(lines.filter((x) => x > left && x < right)).toEqual([])
        }
      }),
    )
  })
  it('ends each stop where the next begins, within the picture, and names an area only where there is room', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: 240, max: 1400 }), (all, width) => {
        const { stops, areas } = drawDay(all.map(stopOf), 450, width)
        stops.forEach((s, i) => {
          if (stops[i + 1]) expect(stops[i + 1]!.x).toBeCloseTo(s.x + s.width, 6)
          expect(s.x + s.width).toBeLessThanOrEqual(width)
          expect(s.latest).toBeLessThanOrEqual(width)
        })
        for (const a of areas) if (a.shown) expect(a.name.length * LETTER * 0.9).toBeLessThanOrEqual(a.width)
        expect(areas.reduce((sum, a) => sum + a.width, 0)).toBeCloseTo(
          stops.reduce((sum, s) => sum + s.width, 0),
          6,
        )
      }),
    )
  })
  it('marks whole hours at even steps, and a day of nothing is drawn as well', () => {
    const { hours } = drawDay([stopOf(['LT-1', 'A', 480, 0], 0)], 450, 1000)
    expect(hours[0]!.words).toBe('08:00')
    expect(hours.map((h) => h.words)).toContain('15:00')
    expect(drawDay([], 450, 300).stops).toEqual([])
  })
})
