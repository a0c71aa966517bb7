// The standard's own figures for where a plate is covered, and how sure it is.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coefficientDoubtPct, expansibilityDoubtPct, leastReynolds, orificeFlow, outsideLimits } from './index.ts'

const plate = {
  pipe_mm: 102.26,
  bore_mm: 61.5,
  taps: 'flange',
  density_kgm3: 4.4,
  viscosity_mPas: 0.0155,
  dp_kPa: 20,
  compressible: { pressure_kPa: 901.3, isentropicExponent: 1.3 },
} as const

describe('the limits of ISO 5167-2', () => {
  it.each([
    [{ taps: 'corner', bore_mm: 50, pipe_mm: 100 }, 5000],
    [{ taps: 'corner', bore_mm: 60, pipe_mm: 100 }, 5760],
    [{ taps: 'D-D/2', bore_mm: 70, pipe_mm: 100 }, 7840],
    [{ taps: 'flange', bore_mm: 60, pipe_mm: 100 }, 6120],
    [{ taps: 'flange', bore_mm: 20, pipe_mm: 100 }, 5000],
    [{ taps: 'flange', bore_mm: 300, pipe_mm: 500 }, 30_600],
  ] as const)('%o wants a Reynolds number of %d', (input, least) => {
    expect(leastReynolds(input)).toBeCloseTo(least, 6)
  })
  it.each([
    ['a plate inside all of them', {}, []],
    ['a small bore', { bore_mm: 12, pipe_mm: 60 }, ['bore']],
    ['a small pipe', { bore_mm: 25, pipe_mm: 49 }, ['pipe']],
    ['a large pipe', { bore_mm: 500, pipe_mm: 1100 }, ['pipe']],
    ['a thick liquid', { compressible: undefined, viscosity_mPas: 900, density_kgm3: 1000 }, ['reynolds']],
    ['a deep drop', { dp_kPa: 300 }, ['pressure-ratio']],
  ] as const)('%s', (_, changed, outside) => {
    expect(outsideLimits({ ...plate, ...changed }).map((o) => o.what)).toEqual(outside)
  })
})

describe('the doubt of the coefficients', () => {
  it.each([
    [0.15, 200, 1e6, 0.55],
    [0.4, 200, 1e6, 0.5],
    [0.7, 200, 1e6, 0.6669],
    [0.7, 200, 8000, 1.1669],
    [0.4, 50.8, 1e6, 0.5 + 0.9 * 0.35 * 0.8],
  ])('β %d in %d mm at Re %d: ± %d %%', (beta, pipe_mm, reynolds, pct) => {
    expect(coefficientDoubtPct({ pipe_mm, bore_mm: beta * pipe_mm }, reynolds)).toBeCloseTo(pct, 4)
  })
  it('of a liquid leaves nothing to expand, and grows with the drop of a gas', () => {
    expect(expansibilityDoubtPct({ dp_kPa: 20, compressible: undefined })).toBe(0)
    expect(expansibilityDoubtPct(plate)).toBeCloseTo((3.5 * 20) / (1.3 * 901.3), 9)
  })
  it('is never less outside the limits of the Reynolds number than inside', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1001, max: 0.7499, noNaN: true }),
        fc.double({ min: 50, max: 900, noNaN: true }),
        (beta, pipe_mm) => {
          const of = (re: number) => coefficientDoubtPct({ pipe_mm, bore_mm: beta * pipe_mm }, re)
          expect(of(3000)).toBeGreaterThanOrEqual(of(1e6))
          expect(of(1e6)).toBeGreaterThan(0.49)
          expect(orificeFlow({ ...plate, pipe_mm, bore_mm: beta * pipe_mm }).reynolds).toBeGreaterThan(0)
        },
      ),
    )
  })
})
