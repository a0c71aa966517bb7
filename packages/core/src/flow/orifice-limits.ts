// What the standard says of an orifice plate, and how sure its coefficients are; and where it says nothing any more.
import { orificeFlow, SMALL_PIPE_mm, type OrificeInput, type OrificeResult } from './orifice-flow.ts'

/** A limit that a plate lies outside of, with what would do. */
export interface OutsideLimit {
  readonly what: 'bore' | 'pipe' | 'reynolds' | 'pressure-ratio'
  /** As it is, and the least or most of the standard; mm for lengths. */
  readonly is: number
  readonly least?: number
  readonly most?: number
}

const LEAST_BORE_mm = 12.5
const [LEAST_PIPE_mm, MOST_PIPE_mm] = [50, 1000]
const LEAST_RATIO = 0.75

/** Least Reynolds number of the pipe for which the coefficient holds. Source: ISO 5167-2:2003, 5.3.1 */
export function leastReynolds({ pipe_mm, bore_mm, taps }: Pick<OrificeInput, 'pipe_mm' | 'bore_mm' | 'taps'>): number {
  const beta = bore_mm / pipe_mm
  if (taps === 'flange') return Math.max(5000, 170 * beta * beta * pipe_mm)
  return beta > 0.56 ? 16_000 * beta * beta : 5000
}

/**
 * What lies outside the standard’s limits at a differential pressure; none when all is inside.
 * Source: ISO 5167-2:2003, 5.3.1 and 5.3.2.2
 * @throws Refusal as `orificeFlow`
 */
export function outsideLimits(input: OrificeInput, at: OrificeResult = orificeFlow(input)): OutsideLimit[] {
  const { bore_mm, pipe_mm, dp_kPa, compressible } = input
  const least = leastReynolds(input)
  const ratio = compressible && (compressible.pressure_kPa - dp_kPa) / compressible.pressure_kPa
  return [
    ...(bore_mm < LEAST_BORE_mm ? [{ what: 'bore' as const, is: bore_mm, least: LEAST_BORE_mm }] : []),
    ...(pipe_mm < LEAST_PIPE_mm ? [{ what: 'pipe' as const, is: pipe_mm, least: LEAST_PIPE_mm }] : []),
    ...(pipe_mm > MOST_PIPE_mm ? [{ what: 'pipe' as const, is: pipe_mm, most: MOST_PIPE_mm }] : []),
    ...(at.reynolds < least ? [{ what: 'reynolds' as const, is: at.reynolds, least }] : []),
    ...(ratio !== undefined && ratio < LEAST_RATIO
      ? [{ what: 'pressure-ratio' as const, is: ratio, least: LEAST_RATIO }]
      : []),
  ]
}

/** Of the discharge coefficient, ± % at two standard deviations. Source: ISO 5167-2:2003, 5.3.3.1 */
export function coefficientDoubtPct(input: Pick<OrificeInput, 'pipe_mm' | 'bore_mm'>, reynolds: number): number {
  const beta = input.bore_mm / input.pipe_mm
  const base = beta < 0.2 ? 0.7 - beta : beta <= 0.6 ? 0.5 : 1.667 * beta - 0.5
  const small = input.pipe_mm < SMALL_PIPE_mm ? 0.9 * (0.75 - beta) * (2.8 - input.pipe_mm / 25.4) : 0
  const slow = beta > 0.5 && reynolds < 10_000 ? 0.5 : 0
  return base + small + slow
}

/** Of the expansibility factor, ± % at two standard deviations; 0 for a liquid. Source: ISO 5167-2:2003, 5.3.3.2 */
export function expansibilityDoubtPct({ dp_kPa, compressible }: Pick<OrificeInput, 'dp_kPa' | 'compressible'>): number {
  return compressible ? (3.5 * dp_kPa) / (compressible.isentropicExponent * compressible.pressure_kPa) : 0
}
