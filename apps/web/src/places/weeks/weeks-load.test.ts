// Where the drawing of the weeks' load puts its bars, steps and names.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawLoad } from './weeks-load.ts'

const SIZE = { width: 800, height: 120 }
const week = (begins: string, planned: number, due = planned, room = 600) => ({ begins, planned, due, room })

describe('the load of the weeks', () => {
  it('is drawn to one scale, and a week that is too full is said', () => {
    const { weeks, marks } = drawLoad([week('a', 300), week('b', 700, 100)], SIZE)
    expect(weeks[0]!.planned / weeks[1]!.planned).toBeCloseTo(3 / 7, 9)
    expect(weeks.map((w) => w.over)).toEqual([false, true])
    expect(marks[0]).toEqual({ y: 0, hours: 0 })
  })
  it('stays in its field, names never over one another', () => {
    const minutes = fc.integer({ min: 0, max: 100_000 })
    const one = fc.record({ begins: fc.constant('2026-11-30'), planned: minutes, due: minutes, room: minutes })
    fc.assert(
      fc.property(
        fc.array(one, { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 240, max: 1200 }),
        (list, width) => {
          const { weeks, marks } = drawLoad(list, { width, height: 120 })
          for (const w of weeks) {
            for (const y of [w.planned, w.due, w.room]) expect(y).toBeLessThanOrEqual(120)
            expect(w.x + w.width).toBeLessThanOrEqual(width + 1e-6)
          }
          const named = weeks.filter((w) => w.named)
          named.slice(1).forEach((w, i) => expect(w.x - named[i]!.x).toBeGreaterThanOrEqual(Math.min(62, width)))
          expect(marks.length).toBeLessThanOrEqual(6)
          for (const m of marks) expect(m.y).toBeLessThanOrEqual(120 + 1e-6)
        },
      ),
    )
  })
})
