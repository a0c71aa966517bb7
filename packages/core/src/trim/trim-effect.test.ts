import fc from 'fast-check'
import { expect, it } from 'vitest'
import { trimEffect, type ErrorAt } from './index.ts'

const places = [0, 25, 50, 75, 100]
const errors = fc
  .array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 5, maxLength: 5 })
  .map((e): ErrorAt[] => e.map((errorPct, i) => ({ atPct: places[i]!, errorPct })))

it('a two-point trim leaves nothing at the points it is made at', () => {
  fc.assert(
    fc.property(errors, fc.constantFrom(...places.slice(0, 2)), fc.constantFrom(...places.slice(3)), (e, low, high) => {
      const { left } = trimEffect({ errorsPct: e, trim: 'two-point', lowPct: low, highPct: high, tolerancePct: 1 })
      for (const at of [low, high]) expect(left[places.indexOf(at)]).toBeCloseTo(0, 9)
    }),
  )
})
it('a zero trim moves every error by the same, and changes no difference between two', () => {
  fc.assert(
    fc.property(errors, (e) => {
      const { left } = trimEffect({ errorsPct: e, trim: 'zero', tolerancePct: 1 })
      const moved = left.map((l, i) => l - e[i]!.errorPct)
      for (const m of moved) expect(m).toBeCloseTo(-e[0]!.errorPct, 9)
    }),
  )
})
it('no two-point trim leaves less than the best possible, and the best is not changed by a trim', () => {
  fc.assert(
    fc.property(errors, (e) => {
      const trimmed = trimEffect({ errorsPct: e, trim: 'two-point', tolerancePct: 1 })
      expect(Math.abs(trimmed.maxLeftPct)).toBeGreaterThanOrEqual(trimmed.bestPossiblePct - 1e-9)
      const again = e.map((p, i) => ({ atPct: p.atPct, errorPct: trimmed.left[i]! }))
      const { bestPossiblePct } = trimEffect({ errorsPct: again, trim: 'zero', tolerancePct: 1 })
      expect(bestPossiblePct).toBeCloseTo(trimmed.bestPossiblePct, 9)
    }),
  )
})
