import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  calibrationInterval,
  conformity,
  coverageFactor,
  normalCdf,
  studentWithin,
  uncertaintyBudget,
  type Contribution,
} from './index.ts'

const code = (run: () => unknown) => {
  const result = attempt(run)
  return result instanceof Refusal ? result.code : 'no refusal'
}

describe('distributions', () => {
  it.each([
    // JCGM 100, table G.2, fraction 95.45 %.
    [1, 13.97],
    [2, 4.53],
    [5, 2.65],
    [10, 2.28],
    [20, 2.13],
    [50, 2.05],
    [100, 2.025],
  ])('cover 95.45 %% with %d degrees of freedom by %d standard uncertainties', (dof, k) => {
    expect(coverageFactor(0.9545, dof)).toBeCloseTo(k, dof === 100 ? 3 : 2)
  })
  it.each([
    [0, 0.5],
    [1, 0.841344746068543],
    [-1.96, 0.0249978951482204],
    [3, 0.99865010196837],
    [-6, 9.86587645037698e-10],
  ])('put below %d the published share', (x, share) => {
    expect(Math.abs(normalCdf(x) / share - 1)).toBeLessThan(1e-9)
  })
  it('turn one another round', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 0.999, noNaN: true }),
        fc.double({ min: 0.5, max: 1e5, noNaN: true }),
        (share, dof) => {
          expect(studentWithin(coverageFactor(share, dof), dof)).toBeCloseTo(share, 8)
        },
      ),
    )
  })
  it('become normal with many degrees of freedom', () => {
    expect(coverageFactor(0.9545, 1e7)).toBeCloseTo(coverageFactor(0.9545, null), 5)
  })
})

describe('an uncertainty budget', () => {
  const part: fc.Arbitrary<Contribution> = fc.record({
    value: fc.double({ min: 0.001, max: 10, noNaN: true }),
    distribution: fc.constantFrom('normal', 'rectangular', 'triangular', 'u-shaped', 'standard'),
    sensitivity: fc.double({ min: -5, max: 5, noNaN: true }),
  })
  it('is no smaller than its largest part, and no larger than their sum', () => {
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 9 }), (parts) => {
        const alone = parts.map((p) => uncertaintyBudget([p]).combined)
        const { combined } = uncertaintyBudget(parts)
        expect(combined).toBeGreaterThanOrEqual(Math.max(...alone) * (1 - 1e-12))
        expect(combined).toBeLessThanOrEqual(alone.reduce((a, b) => a + b, 0) * (1 + 1e-12))
      }),
    )
  })
  it('has the degrees of freedom of its only part', () => {
    const { effectiveDof } = uncertaintyBudget([{ value: 0.3, distribution: 'standard', dof: 7 }])
    expect(effectiveDof).toBeCloseTo(7, 10)
  })
  it('needs a part', () => expect(code(() => uncertaintyBudget([]))).toBe('invalid-input'))
})

describe('conformity', () => {
  const input = fc.record({
    measuredError: fc.double({ min: -3, max: 3, noNaN: true }),
    tolerance: fc.double({ min: 0.1, max: 2, noNaN: true }),
    standardUncertainty: fc.double({ min: 0.01, max: 1, noNaN: true }),
  })
  it('passes less with a guard band, and never gives a chance that is none', () => {
    fc.assert(
      fc.property(input, (given) => {
        const simple = conformity({ ...given, rule: 'simple' })
        const guarded = conformity({ ...given, rule: 'guarded' })
        expect(simple.probabilityInside).toBeGreaterThanOrEqual(0)
        expect(simple.probabilityInside).toBeLessThanOrEqual(1)
        if (guarded.verdict === 'pass') expect(simple.verdict).toBe('pass')
        if (simple.verdict === 'fail') expect(['fail-at-risk', 'fail']).toContain(guarded.verdict)
      }),
    )
  })
  it('agrees with counting: a million errors drawn about the one measured', () => {
    let seed = 7
    const uniform = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform())
    const drawn = Array.from({ length: 200_000 }, () => 0.3 + 0.2 * normal())
    const share = drawn.filter((e) => Math.abs(e) <= 0.5).length / drawn.length
    const { probabilityInside } = conformity({
      measuredError: 0.3,
      tolerance: 0.5,
      standardUncertainty: 0.2,
      rule: 'simple',
    })
    expect(Math.abs(probabilityInside - share)).toBeLessThan(0.005)
  })
  it('refuses an uncertainty of nothing', () => {
    const nothing = { measuredError: 0, tolerance: 1, standardUncertainty: 0, rule: 'simple' } as const
    expect(code(() => conformity(nothing))).toBe('uncertainty-not-positive')
  })
})

describe('a calibration interval', () => {
  const steady = (pctPerYear: number) =>
    [0, 365, 730].map((day, i) => ({ day, asFoundPct: i ? pctPerYear : 0, asLeftPct: 0 }))
  it('is shorter the faster the point drifts', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.double({ min: 1.01, max: 4, noNaN: true }),
        (rate, more) => {
          const days = (r: number) => calibrationInterval({ history: steady(r), tolerancePct: 0.5, current_days: 365 })
          expect(days(rate * more).suggested_days).toBeLessThanOrEqual(days(rate).suggested_days)
        },
      ),
    )
  })
  it('never ends for a point that stands still, and is then doubled', () => {
    const found = calibrationInterval({ history: steady(0), tolerancePct: 0.5, current_days: 365 })
    expect(found).toMatchObject({ predictedDays: null, suggested_days: 730, action: 'lengthen' })
  })
  it('refuses one check, and checks out of order', () => {
    const one = [{ day: 1, asFoundPct: 0, asLeftPct: 0 }]
    const ask = (history: typeof one) => code(() => calibrationInterval({ history, tolerancePct: 1, current_days: 90 }))
    expect(ask(one)).toBe('invalid-input')
    expect(ask([...one, ...one])).toBe('days-not-ascending')
  })
})
