// What a trim really leaves: it pins the points it is made at, whatever a fitted line would say.
import { largestSigned, narrowestBandHalfWidth } from '../check/index.ts'
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export interface ErrorAt {
  /** Place in the range, %. */
  readonly atPct: number
  /** Error there, % of span. */
  readonly errorPct: number
}

export interface TrimEffectInput {
  /** Two or more, strictly rising in `atPct`. */
  readonly errorsPct: readonly ErrorAt[]
  readonly trim: 'zero' | 'two-point'
  /** Where the trim is made; `highPct` counts for a two-point trim only. */
  readonly lowPct?: number | undefined
  readonly highPct?: number | undefined
  readonly tolerancePct: number
}

export interface TrimEffect {
  /** Error after the trim at each point, % of span. */
  readonly left: readonly number[]
  /** The largest of them, with its sign. */
  readonly maxLeftPct: number
  readonly withinTolerance: boolean
  /** What a perfect two-point adjustment could leave. */
  readonly bestPossiblePct: number
}

const SAME = 1e-9

/** Error at a place between the points, on the straight line between its neighbours. */
function errorAt(points: readonly ErrorAt[], pct: number): number {
  const i = points.findIndex((p) => p.atPct >= pct)
  const after = points[i]
  const before = points[i - 1]
  if (!after) return sure(points.at(-1)).errorPct
  if (!before || after.atPct === pct) return after.errorPct
  return before.errorPct + ((pct - before.atPct) / (after.atPct - before.atPct)) * (after.errorPct - before.errorPct)
}

/**
 * Errors that a zero trim or a two-point trim leaves at the points given, % of span.
 * Zero: every error less the one at the low end; two-point: every error less the straight line through the errors at
 * both ends.
 * @throws Refusal `invalid-input`, `points-not-ascending`, `outside-points`
 */
export function trimEffect(input: TrimEffectInput): TrimEffect {
  const { errorsPct: points, trim, lowPct = 0, highPct = 100, tolerancePct } = input
  if (points.length < 2) throw new Refusal('invalid-input', 'What a trim leaves needs the error at two points or more.')
  if (!(tolerancePct > 0)) throw new Refusal('invalid-input', 'The tolerance must be above 0 %.')
  if (trim === 'two-point' && lowPct >= highPct)
    throw new Refusal('invalid-input', 'The upper trim point must lie above the lower one.')
  if (points.some((p, i) => i > 0 && p.atPct <= points[i - 1]!.atPct))
    throw new Refusal('points-not-ascending', 'Each point must lie above the one before it.')
  const outside = (pct: number) => pct < sure(points[0]).atPct || pct > sure(points.at(-1)).atPct
  if (outside(lowPct) || (trim === 'two-point' && outside(highPct)))
    throw new Refusal('outside-points', 'Nothing was read as far out as the trim is made.')
  const low = errorAt(points, lowPct)
  const slope = trim === 'zero' ? 0 : (errorAt(points, highPct) - low) / (highPct - lowPct)
  const left = points.map((p) => p.errorPct - low - slope * (p.atPct - lowPct))
  const maxLeftPct = largestSigned(left)
  return {
    left,
    maxLeftPct,
    withinTolerance: Math.abs(maxLeftPct) <= tolerancePct + SAME,
    bestPossiblePct: narrowestBandHalfWidth(points.map((p) => [p.atPct, p.errorPct] as const)),
  }
}
