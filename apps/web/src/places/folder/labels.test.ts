import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { spreadLabels } from './labels.ts'

describe('labels beside a drawing', () => {
  it('stay where they are while there is room', () => {
    expect(spreadLabels([10, 60, 120], 19)).toEqual([10, 60, 120])
  })
  it('never come nearer to each other than they may, and keep their order', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 200 }), { maxLength: 5 }), (wanted) => {
        const at = spreadLabels(wanted, 19)
        const sorted = [...at].sort((a, b) => a - b)
        for (let i = 1; i < sorted.length; i++) expect(sorted[i]! - sorted[i - 1]!).toBeGreaterThan(18.99)
        wanted.forEach((a, i) => wanted.forEach((b, k) => a < b && expect(at[i]!).toBeLessThan(at[k]!)))
      }),
    )
  })
})
