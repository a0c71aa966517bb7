// What the calibrations of a piece of kit say of it: whether it was found good, how it drifts, and by how much it read
// wrong anywhere on its scale.
import { dayNumber, daysLater, instrumentUncertainty, rangeFor, type InstrumentRange } from '../check/index.ts'
import { convertUnit, findUnit } from '../quantity/index.ts'
import { sure } from '../sure/index.ts'

/** What a piece was found to show against the laboratory's standard; both in `unit`. */
export interface FoundPoint {
  readonly unit: string
  readonly at: number
  readonly found: number
}
export interface JudgedPoint extends FoundPoint {
  /** Shown less true, in `unit`. */
  readonly error: number
  /** ± what its own figures allow there, in `unit`; undefined where it has none. */
  readonly limit: number | undefined
  readonly outside: boolean
}

/** Each point held against what the piece's own figures allow there, an expanded uncertainty taken as a limit. */
export function judgedFound(points: readonly FoundPoint[], ranges: readonly InstrumentRange[]): JudgedPoint[] {
  return points.map((p) => {
    const error = p.found - p.at
    const limit = limitAt(ranges, p.at, p.unit)
    return { ...p, error, limit, outside: limit !== undefined && Math.abs(error) > limit }
  })
}

/** ± what a piece's figures allow at a value, in its unit; undefined where no range of it has that value. */
export function limitAt(ranges: readonly InstrumentRange[], value: number, unit: string): number | undefined {
  const range = rangeFor(ranges, value, unit)
  if (!range) return undefined
  const { halfWidth } = instrumentUncertainty(convertUnit(value, unit, range.unit), {
    ...range,
    range: range.high - range.low,
  })
  return inUnit(halfWidth, range.unit, unit)
}
/** A difference in another unit of its quantity. */
const inUnit = (difference: number, from: string, to: string) =>
  convertUnit(difference, from, to) - convertUnit(0, from, to)

/**
 * By how much a piece shows too much at a value, in its unit: along straight lines between the points that it was
 * found at, beyond them as at the last. Undefined where it was found at none of that quantity.
 */
export function errorAt(points: readonly FoundPoint[], value: number, unit: string): number | undefined {
  const quantity = findUnit(unit)?.quantity
  const found = points
    .filter((p) => quantity !== undefined && findUnit(p.unit)?.quantity === quantity)
    .map((p) => ({ at: convertUnit(p.found, p.unit, unit), error: inUnit(p.found - p.at, p.unit, unit) }))
    .sort((a, b) => a.at - b.at)
  const above = found.findIndex((p) => p.at >= value)
  if (above < 0) return found.at(-1)?.error
  const [low, high] = [found[above - 1], sure(found[above])]
  if (!low) return high.error
  return low.error + ((high.error - low.error) * (value - low.at)) / (high.at - low.at)
}

export interface KitCalibration {
  readonly day: string
  readonly points: readonly FoundPoint[]
}
/** How a piece drifted at one point of its scale. */
export interface KitDrift {
  readonly unit: string
  readonly at: number
  /** Error of the newest calibration, in `unit`. */
  readonly latest: number
  /** Slope of the straight line through its errors, in `unit` a year. */
  readonly perYear: number
  /** Of so many calibrations; two make a line, and say nothing of its scatter. */
  readonly of: number
  readonly limit: number | undefined
  /** Day on which that line leaves the limit; undefined where it does not within twenty years, or has left it. */
  readonly leavesOn: string | undefined
}

const YEAR_days = 365.25
const LONGEST_years = 20
/** Points of two calibrations are one where they lie so close, of what the piece's range spans. */
const SAME = 0.01

/** How a piece drifted, by the points of its newest calibration that an earlier one has as well. */
export function driftOf(calibrations: readonly KitCalibration[], ranges: readonly InstrumentRange[]): KitDrift[] {
  const dated = [...calibrations].sort((a, b) => a.day.localeCompare(b.day))
  const newest = dated.at(-1)
  return (newest?.points ?? []).flatMap((point) => {
    const range = rangeFor(ranges, point.at, point.unit)
    const spare = SAME * (range ? Math.abs(inUnit(range.high - range.low, range.unit, point.unit)) : Math.abs(point.at))
    const seen = dated.flatMap(({ day, points }) => {
      const same = points.find(
        (p) =>
          findUnit(p.unit)?.quantity === findUnit(point.unit)?.quantity &&
          Math.abs(convertUnit(p.at, p.unit, point.unit) - point.at) <= spare,
      )
      return same ? [{ years: yearsOf(day), error: inUnit(same.found - same.at, same.unit, point.unit) }] : []
    })
    const perYear = slope(seen)
    if (perYear === undefined) return []
    const latest = point.found - point.at
    const limit = limitAt(ranges, point.at, point.unit)
    const years = limit === undefined ? Infinity : (Math.sign(perYear) * limit - latest) / perYear
    const leavesOn = years > 0 && years < LONGEST_years ? dayAfter(sure(newest).day, years) : undefined
    return [{ unit: point.unit, at: point.at, latest, perYear, of: seen.length, limit, leavesOn }]
  })
}
const yearsOf = (day: string) => dayNumber(day) / YEAR_days
const dayAfter = (day: string, years: number) => daysLater(day, Math.floor(years * YEAR_days))

/** Slope of the straight line of least squares; undefined where all lie on one day. */
function slope(seen: readonly { readonly years: number; readonly error: number }[]): number | undefined {
  const [x, y] = [mean(seen.map((s) => s.years)), mean(seen.map((s) => s.error))]
  const across = seen.reduce((sum, s) => sum + (s.years - x) ** 2, 0)
  return across > 0 ? seen.reduce((sum, s) => sum + (s.years - x) * (s.error - y), 0) / across : undefined
}
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length)
