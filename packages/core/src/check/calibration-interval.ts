// When a point is due again, from how it drifted between its checks.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export interface CheckedOn {
  /** Whole days from any origin, each after the one before. */
  readonly day: number
  /** Errors, % of span. */
  readonly asFoundPct: number
  readonly asLeftPct: number
}

export interface IntervalInput {
  /** Two or more. */
  readonly history: readonly CheckedOn[]
  readonly tolerancePct: number
  readonly current_days: number
  readonly min_days?: number | undefined
  readonly max_days?: number | undefined
}

export interface Interval {
  /** Mean drift, % of span a day, and the scatter between intervals. */
  readonly driftPctPerDay: number
  readonly driftSpread: number
  /** Days until the tolerance is met; 0: already; null: never. */
  readonly predictedDays: number | null
  readonly suggested_days: number
  readonly action: 'shorten' | 'keep' | 'lengthen'
}

const STANDS_STILL = 1e-12

/** Days until |left + rate · t| first meets the tolerance; infinite when it never does. */
function daysTo(tolerance: number, left: number, rate: number): number {
  if (Math.abs(left) >= tolerance) return 0
  if (Math.abs(rate) < STANDS_STILL) return Infinity
  return (Math.sign(rate) * tolerance - left) / rate
}

/**
 * Suggested interval between checks: four fifths of the time in which the drift, taken two spreads to the worse side,
 * uses up the tolerance.
 * @throws Refusal `invalid-input` under two checks, `days-not-ascending`
 */
export function calibrationInterval(input: IntervalInput): Interval {
  const { history, tolerancePct, current_days, min_days = 30, max_days = 1825 } = input
  if (history.length < 2) throw new Refusal('invalid-input', 'Drift needs at least two checks.')
  const rates = history.slice(1).map((check, i) => {
    const before = history[i]!
    if (!(check.day > before.day))
      throw new Refusal('days-not-ascending', 'Each check must be after the one before it.')
    return (check.asFoundPct - before.asLeftPct) / (check.day - before.day)
  })
  const mean = rates.reduce((a, b) => a + b, 0) / rates.length
  const squares = rates.reduce((sum, r) => sum + (r - mean) ** 2, 0)
  const spread = rates.length > 1 ? Math.sqrt(squares / (rates.length - 1)) : 0
  const left = sure(history.at(-1)).asLeftPct
  const soonest = Math.min(...[mean + 2 * spread, mean - 2 * spread].map((rate) => daysTo(tolerancePct, left, rate)))
  const predictedDays = Number.isFinite(soonest) ? soonest : null
  const most = Math.min(max_days, 2 * current_days, predictedDays === null ? Infinity : 0.8 * predictedDays)
  const suggested_days = Math.floor(Math.max(min_days, most) + 1e-6)
  const change = suggested_days - current_days
  const action = Math.abs(change) <= 0.1 * current_days + 1e-9 ? 'keep' : change < 0 ? 'shorten' : 'lengthen'
  return { driftPctPerDay: mean, driftSpread: spread, predictedDays, suggested_days, action }
}
