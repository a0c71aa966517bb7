// Where the drawing of a shift puts its stretches: in the picture, tags never over one another.
import type { Shift } from '@calm-loop/contract/shift'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawShift } from './shift-lanes.ts'

const FROM = Date.parse('2026-11-30T06:00:00.000Z')
const at = (share: number) => new Date(FROM + share * 12 * 3_600_000).toISOString()
const done = (who: string, tag: string, from: number, to: number): Shift['done'][number] => ({
  ...{ by: { id: who, name: who }, loop: { id: tag, tag, area: 'Yard' }, first: at(from), last: at(to), what: [] },
})
const shift = (list: Shift['done'], open: Shift['open'] = []): Shift => ({
  ...{ from: at(0), to: at(1), done: list, more: 0, open, jobs: [], kit: [] },
})

describe('the drawing of a shift', () => {
  it('has a lane for each person, and rings where something stands open', () => {
    const left = { sort: 'check' as const, words: '', by: { id: 'A', name: 'A' }, since: at(0.1), left: ['in manual'] }
    const open = [{ ...left, loop: { id: 'LT-1', tag: 'LT-1', area: 'Yard' } }]
    const { lanes } = drawShift(shift([done('A', 'LT-1', 0, 0.5), done('B', 'LT-1', 0.2, 0.3)], open), 900, 150)
    expect(lanes.map((l) => l.name)).toEqual(['A', 'B'])
    expect(lanes[0]!.stretches[0]).toMatchObject({ x: 150, open: true, left: true })
    expect(lanes[1]!.stretches[0]).toMatchObject({ open: false, left: false })
  })
  it('keeps every stretch, tag and hour in the picture, and tags apart', () => {
    const one = fc.record({
      who: fc.constantFrom('A', 'B'),
      tag: fc.stringMatching(/^[A-Z]{1,4}-\d{1,6}$/),
      a: fc.double({ min: 0, max: 1, noNaN: true }),
      b: fc.double({ min: 0, max: 1, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(one, { maxLength: 30 }), fc.integer({ min: 300, max: 1600 }), (list, width) => {
        const lines = list.map(({ who, tag, a, b }) => done(who, tag, Math.min(a, b), Math.max(a, b)))
        const { lanes, hours } = drawShift(shift(lines), width, width < 600 ? 8 : 150)
        for (const { x } of hours) expect(x).toBeLessThanOrEqual(width)
        for (const { stretches } of lanes) {
          for (const s of stretches) expect(s.x + s.width).toBeLessThanOrEqual(width)
          const tags = stretches.filter((s) => s.shown)
          tags.forEach((s, i) => {
            expect(s.text + s.tag.length * 9.2).toBeLessThanOrEqual(width + 1e-9)
            const next = tags[i + 1]
            if (next) expect(next.text).toBeGreaterThan(s.text + s.tag.length * 9.2)
          })
        }
      }),
    )
  })
})
