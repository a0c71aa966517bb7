// An uncertainty budget: contributions of any distribution, combined and expanded.
import { Refusal } from '../refusal/index.ts'
import { coverageFactor } from './distributions.ts'

export const DISTRIBUTIONS = ['normal', 'rectangular', 'triangular', 'u-shaped', 'standard'] as const
export type Distribution = (typeof DISTRIBUTIONS)[number]

export interface Contribution {
  /**
   * Expanded uncertainty (normal), half-width (rectangular, triangular, u-shaped), or the standard uncertainty itself.
   */
  readonly value: number
  readonly distribution: Distribution
  /** Of a normal one; 2 when not given. */
  readonly coverage?: number | undefined
  /** What the result changes for a change of one here; 1 when not given. */
  readonly sensitivity?: number | undefined
  /** Degrees of freedom; infinite when not given. */
  readonly dof?: number | undefined
}

export interface Budget {
  readonly combined: number
  /** Welch–Satterthwaite; null: infinite. */
  readonly effectiveDof: number | null
  readonly coverageFactor: number
  readonly expanded: number
}

/** Share of results within the expanded uncertainty. */
const COVERED = 0.9545

const DIVISORS: Record<Exclude<Distribution, 'normal'>, number> = {
  rectangular: Math.sqrt(3),
  triangular: Math.sqrt(6),
  'u-shaped': Math.SQRT2,
  standard: 1,
}

/** Standard uncertainty of a contribution, times its sensitivity, unsigned. Source: JCGM 100, 4.3. */
export function standardUncertainty({ value, distribution, coverage = 2, sensitivity = 1 }: Contribution): number {
  const divisor = distribution === 'normal' ? coverage : DIVISORS[distribution]
  return Math.abs((value / divisor) * sensitivity)
}

/**
 * Combined and expanded uncertainty of one or more contributions.
 * @throws Refusal `invalid-input` without any
 * Source: JCGM 100 (GUM), 5.1, G.4 (Welch–Satterthwaite), two-sided 95.45 %.
 */
export function uncertaintyBudget(contributions: readonly Contribution[]): Budget {
  if (contributions.length === 0) throw new Refusal('invalid-input', 'A budget needs at least one contribution.')
  const parts = contributions.map((c) => ({ u: standardUncertainty(c), dof: c.dof }))
  const combined = Math.hypot(...parts.map((p) => p.u))
  const spread = parts.reduce((sum, { u, dof }) => sum + (dof === undefined ? 0 : (u / combined) ** 4 / dof), 0)
  const effectiveDof = combined > 0 && spread > 0 ? 1 / spread : null
  const factor = coverageFactor(COVERED, effectiveDof)
  return { combined, effectiveDof, coverageFactor: factor, expanded: factor * combined }
}
