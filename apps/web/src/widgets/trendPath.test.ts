import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { trendPath } from './trendPath.ts'

const BOX = { width: 90, height: 30, seconds: 12, least: 0.02 }
const points = (path: string) => [...path.matchAll(/([ML])(-?[\d.]+) (-?[\d.]+)/g)].map((m) => [m[1], +m[2]!, +m[3]!])

describe('a short trend', () => {
  it('is nothing for fewer than two samples', () => {
    expect(trendPath([], BOX)).toBe('')
    expect(trendPath([{ t_s: 1, value: 12 }], BOX)).toBe('')
  })
  it('ends at the right edge, a whole width after what is as old as the box', () => {
    const path = trendPath(
      [
        { t_s: 0, value: 11 },
        { t_s: 6, value: 13 },
        { t_s: 12, value: 11 },
      ],
      BOX,
    )
    expect(points(path)).toEqual([
      ['M', 0, 27],
      ['L', 45, 3],
      ['L', 90, 27],
    ])
  })
  it('keeps a trend that stands still in the middle, and noise small', () => {
    const still = [0, 1, 2].map((t_s) => ({ t_s, value: 12 }))
    expect(points(trendPath(still, BOX)).map((p) => p[2])).toEqual([15, 15, 15])
    const noisy = [0, 1].map((t_s) => ({ t_s, value: 12 + t_s * 0.004 }))
    for (const [, , y] of points(trendPath(noisy, BOX))) expect(Math.abs((y as number) - 15)).toBeLessThan(2)
  })
  it('stays inside its box, for whatever was read', () => {
    const sample = fc.record({
      t_s: fc.double({ min: 0, max: 12, noNaN: true }),
      value: fc.double({ min: 0, max: 25, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(sample, { minLength: 2, maxLength: 40 }), (samples) => {
        const inOrder = samples.sort((a, b) => a.t_s - b.t_s)
        for (const [, x, y] of points(trendPath(inOrder, BOX))) {
          expect(x).toBeGreaterThanOrEqual(0)
          expect(x).toBeLessThanOrEqual(90)
          expect(y).toBeGreaterThanOrEqual(2.9)
          expect(y).toBeLessThanOrEqual(27.1)
        }
      }),
    )
  })
})
