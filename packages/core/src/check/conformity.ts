// Whether a measured error conforms to a tolerance, given its uncertainty.
import { Refusal } from '../refusal/index.ts'
import { normalCdf } from './distributions.ts'

export const CONFORMITY_RULES = ['simple', 'guarded'] as const
export type ConformityRule = (typeof CONFORMITY_RULES)[number]
/** From good to bad. */
export const CONFORMITY_VERDICTS = ['pass', 'pass-at-risk', 'fail-at-risk', 'fail'] as const
export type ConformityVerdict = (typeof CONFORMITY_VERDICTS)[number]

export interface ConformityInput {
  readonly measuredError: number
  /** ± . */
  readonly tolerance: number
  readonly standardUncertainty: number
  readonly rule: ConformityRule
}

export interface Conformity {
  /** Of the true error within ± tolerance. */
  readonly probabilityInside: number
  readonly acceptanceLimit: number
  readonly verdict: ConformityVerdict
  /** Tolerance over expanded uncertainty (k = 2). */
  readonly ratio: number
}

const SPARE = 1e-9

/**
 * Verdict on an error, all in one unit: simple acceptance, or with a guard band of twice the standard uncertainty.
 * @throws Refusal `uncertainty-not-positive`
 * Source: JCGM 106, 8.2 (simple acceptance), 8.3 (guard bands), 7 (probability of conformity).
 */
export function conformity({ measuredError, tolerance, standardUncertainty: u, rule }: ConformityInput): Conformity {
  if (!(u > 0)) throw new Refusal('uncertainty-not-positive', 'The standard uncertainty must be above 0.')
  const guard = rule === 'guarded' ? 2 * u : 0
  const within = (limit: number) => Math.abs(measuredError) <= limit + SPARE * tolerance
  const verdict = within(tolerance - guard)
    ? 'pass'
    : rule === 'simple'
      ? 'fail'
      : within(tolerance)
        ? 'pass-at-risk'
        : within(tolerance + guard)
          ? 'fail-at-risk'
          : 'fail'
  return {
    probabilityInside: normalCdf((tolerance - measuredError) / u) - normalCdf((-tolerance - measuredError) / u),
    acceptanceLimit: tolerance - guard,
    verdict,
    ratio: tolerance / (2 * u),
  }
}
