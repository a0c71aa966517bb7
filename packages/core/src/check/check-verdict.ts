// A whole loop judged at two knots, the current and what the controller shows, each with its uncertainty.
import { Refusal } from '../refusal/index.ts'
import { conformity, CONFORMITY_VERDICTS, type ConformityRule, type ConformityVerdict } from './conformity.ts'
import { errorOfSpan } from './error-of-span.ts'
import { largestSigned } from './largest.ts'

export interface VerdictPoint {
  /** True value, in the unit of the range. */
  readonly applied: number
  /** Recorded; the verdict does not depend on it. */
  readonly direction: 'up' | 'down'
  readonly mA?: number | undefined
  readonly controller?: number | undefined
  /** Standard uncertainties, each in its own unit; 0 when not given. */
  readonly u_applied?: number | undefined
  readonly u_mA?: number | undefined
  readonly u_controller?: number | undefined
}

export interface CheckVerdictInput {
  readonly lrv: number
  readonly urv: number
  /** Where a square root is taken. With one, `lrv` is 0, `urv` above 0 and nothing applied below 0. */
  readonly root: 'none' | 'transmitter' | 'receiver'
  /** Below it no flow is meant; 0 or more, above 0 only in a range that holds 0. */
  readonly cutoff?: number | undefined
  /** What the controller shows at 4 and 20 mA. */
  readonly controllerLow?: number | undefined
  readonly controllerHigh?: number | undefined
  readonly points: readonly VerdictPoint[]
  /** % of the knot's span, above 0. */
  readonly tolerancePct: number
  readonly rule: ConformityRule
}

export interface KnotError {
  /** % of the knot's span. */
  readonly errorPct: number
  /** Standard uncertainty of that error, % of span. */
  readonly u_pct: number
  readonly verdict: ConformityVerdict
}
export interface KnotVerdict {
  /** The worst of its points. */
  readonly verdict: ConformityVerdict
  /** The largest error, with its sign, % of span. */
  readonly maxErrorPct: number
}
export interface CheckVerdict {
  readonly points: readonly { readonly current: KnotError | null; readonly controller: KnotError | null }[]
  readonly current: KnotVerdict | null
  readonly controller: KnotVerdict | null
  readonly verdict: ConformityVerdict
  /** The first knot that departs. */
  readonly firstDeparture: 'current' | 'controller' | 'none'
}

const SPAN_mA = 16
/** The worse of two verdicts. */
export const worseVerdict = (a: ConformityVerdict, b: ConformityVerdict): ConformityVerdict =>
  CONFORMITY_VERDICTS.indexOf(b) > CONFORMITY_VERDICTS.indexOf(a) ? b : a
/** Whether a verdict is one of a loop that is not fit as it is. */
export const isFailed = (verdict: ConformityVerdict): boolean => verdict === 'fail' || verdict === 'fail-at-risk'
const departs = (k: KnotVerdict | null): boolean => !!k && isFailed(k.verdict)

const invalid = (says: string): never => {
  throw new Refusal('invalid-input', says)
}
function refusePoint(p: VerdictPoint, controllerScaled: boolean): void {
  if (p.mA === undefined && p.controller === undefined) invalid('Each point has the current, the controller or both.')
  if (p.controller !== undefined && !controllerScaled) invalid('What the controller shows needs its scale.')
  if ([p.u_applied, p.u_mA, p.u_controller].some((u) => u !== undefined && !(u >= 0)))
    invalid('No uncertainty is below 0.')
}
function refuseInvalid(input: CheckVerdictInput): void {
  const { lrv, urv, root, cutoff = 0, controllerLow, controllerHigh, points, tolerancePct } = input
  if (lrv === urv) throw new Refusal('zero-span', 'Lower and upper range value are equal.')
  if (controllerLow !== undefined && controllerLow === controllerHigh)
    throw new Refusal('zero-span', 'The controller shows the same at 4 and at 20 mA.')
  if (!points.length) invalid('A verdict needs at least one point.')
  if (!(tolerancePct > 0)) invalid('The tolerance must be above 0 %.')
  if (!(cutoff >= 0)) invalid('A cutoff is not below 0.')
  if (cutoff > 0 && !(lrv <= 0 && urv >= 0)) invalid('A cutoff belongs to a range that holds no flow.')
  if (root !== 'none' && !(lrv === 0 && urv > 0 && points.every((p) => p.applied >= 0)))
    invalid('A square root needs a range from 0 up, and nothing applied below 0.')
  for (const p of points) refusePoint(p, controllerLow !== undefined && controllerHigh !== undefined)
}

/** A knot: what it should read for an applied value, how steeply that rises, and its span with sign. */
interface Expectation {
  expected(x: number): number
  /** Of the formula, at the applied value. */
  slope(x: number): number
  readonly span: number
}

/**
 * The verdict of a check at current and controller, and which of them departs first.
 * @throws Refusal `zero-span`, `invalid-input`
 * Source: JCGM 106 for the verdict, JCGM 100 (GUM), 5.1 for the combined uncertainty.
 */
export function checkVerdict(input: CheckVerdictInput): CheckVerdict {
  refuseInvalid(input)
  const { lrv, urv, root, cutoff = 0, controllerLow = 0, controllerHigh = 0, points, tolerancePct, rule } = input
  const cut = (applied: number) => Math.abs(applied) < cutoff
  const scale = (low: number, high: number): Expectation => ({
    expected: (x) => low + ((x - lrv) / (urv - lrv)) * (high - low),
    slope: () => (high - low) / (urv - lrv),
    span: high - low,
  })
  const current: Expectation =
    root === 'receiver'
      ? {
          expected: (x) => 4 + SPAN_mA * (x / urv) ** 2,
          slope: (x) => (2 * SPAN_mA * x) / urv ** 2,
          span: SPAN_mA,
        }
      : scale(4, 4 + SPAN_mA)
  const controller = scale(controllerLow, controllerHigh)

  const judged = (knot: Expectation, p: VerdictPoint, read: number | undefined, u = 0): KnotError | null => {
    if (read === undefined) return null
    const x = cut(p.applied) ? 0 : p.applied
    const errorPct = errorOfSpan(read, knot.expected(x), knot.span)
    const byApplied = cut(p.applied) ? 0 : Math.abs(knot.slope(p.applied)) * (p.u_applied ?? 0)
    const u_pct = (100 * Math.hypot(u, byApplied)) / Math.abs(knot.span)
    return { errorPct, u_pct, verdict: verdictOf(errorPct, u_pct, tolerancePct, rule) }
  }
  const each = points.map((p) => ({
    current: judged(current, p, p.mA, p.u_mA),
    controller: judged(controller, p, p.controller, p.u_controller),
  }))
  const knot = (of: 'current' | 'controller'): KnotVerdict | null => {
    const read = each.flatMap((e) => e[of] ?? [])
    return read.length
      ? {
          verdict: read.map((e) => e.verdict).reduce(worseVerdict),
          maxErrorPct: largestSigned(read.map((e) => e.errorPct)),
        }
      : null
  }
  const knots = { current: knot('current'), controller: knot('controller') }
  return {
    points: each,
    ...knots,
    verdict: [knots.current, knots.controller].flatMap((k) => k?.verdict ?? []).reduce(worseVerdict),
    firstDeparture: departs(knots.current) ? 'current' : departs(knots.controller) ? 'controller' : 'none',
  }
}

/** A verdict; without any uncertainty there is nothing to guard against: then the simple rule decides. */
export function verdictOf(
  errorPct: number,
  u_pct: number,
  tolerancePct: number,
  rule: ConformityRule,
): ConformityVerdict {
  const given = { measuredError: errorPct, tolerance: tolerancePct }
  return u_pct > 0
    ? conformity({ ...given, standardUncertainty: u_pct, rule }).verdict
    : conformity({ ...given, standardUncertainty: tolerancePct, rule: 'simple' }).verdict
}
