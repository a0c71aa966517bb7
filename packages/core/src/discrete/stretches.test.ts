import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stretchesOf } from './index.ts'

const samples = (...held: number[]) => held.map((on, i) => ({ t_s: i * 0.5, on: on === 1 }))
const on = (s: { on: boolean }) => s.on

describe('stretches of time', () => {
  it.each([
    ['nothing', [], []],
    ['never', [0, 0, 0], []],
    ['always', [1, 1, 1], [{ from_s: 0, to_s: 1 }]],
    ['once', [0, 1, 1, 0], [{ from_s: 0.5, to_s: 1.5 }]],
    [
      'twice, the second still going on',
      [1, 0, 0, 1, 1],
      [
        { from_s: 0, to_s: 0.5 },
        { from_s: 1.5, to_s: 2 },
      ],
    ],
    ['only in the newest sample', [0, 0, 1], [{ from_s: 1, to_s: 1 }]],
  ] as const)('%s', (_, held, expected) => {
    expect(stretchesOf(samples(...held), on)).toEqual(expected)
  })
  it('hold exactly where the samples do, apart from one another, in order of time', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0, 1), { maxLength: 60 }), (held) => {
        const found = stretchesOf(samples(...held), on)
        // Of the newest sample nobody knows yet how long it holds.
        for (const s of samples(...held).slice(0, -1))
          expect(found.some((f) => f.from_s <= s.t_s && s.t_s < f.to_s)).toBe(s.on)
        for (const [i, f] of found.entries()) {
          expect(f.to_s).toBeGreaterThanOrEqual(f.from_s)
          if (i) expect(f.from_s).toBeGreaterThan(found[i - 1]!.to_s)
        }
      }),
    )
  })
})
