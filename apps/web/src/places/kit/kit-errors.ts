// Where the drawing of a piece's calibrations puts its points: along its scale, and by how much it showed too much.
import type { Calibration } from '@calm-loop/contract/kit-record'
import type { GearRange } from '@calm-loop/contract'
import { limitAt } from '@calm-loop/core/kit'
import { convertUnit, findUnit } from '@calm-loop/core/quantity'

export interface Line {
  readonly id: string
  readonly day: string
  readonly newest: boolean
  readonly off: boolean
  readonly points: readonly { readonly at: number; readonly error: number }[]
}
export interface KitErrors {
  readonly unit: string
  readonly from: number
  readonly to: number
  /** Largest error or limit that is drawn, in the unit. */
  readonly most: number
  /** ± what its own figures allow, along the scale; empty where they say nothing. */
  readonly band: readonly { readonly at: number; readonly limit: number }[]
  /** The oldest first. */
  readonly lines: readonly Line[]
}

const BAND_STEPS = 48
/** Most calibrations that are told apart in one drawing. */
const MOST_LINES = 6

/** Units in which a piece was found: one of each quantity, as its newest calibration has it. */
export function unitsFound(calibrations: readonly Calibration[]): string[] {
  const units = new Map<string, string>()
  for (const { points } of calibrations)
    for (const { unit } of points) {
      const quantity = findUnit(unit)?.quantity
      if (quantity && !units.has(quantity)) units.set(quantity, unit)
    }
  return [...units.values()]
}

/** The drawing in one unit; undefined where nothing was found in a unit of its quantity. */
export function kitErrors(
  calibrations: readonly Calibration[],
  ranges: readonly GearRange[],
  unit: string,
): KitErrors | undefined {
  const quantity = findUnit(unit)?.quantity
  const lines = calibrations
    .map((c, i): Line => {
      const points = c.points
        .filter((p) => findUnit(p.unit)?.quantity === quantity)
        .map((p) => {
          const at = convertUnit(p.at, p.unit, unit)
          return { at, error: convertUnit(p.found, p.unit, unit) - at }
        })
        .sort((a, b) => a.at - b.at)
      return { id: c.id, day: c.day, newest: i === 0, off: c.foundGood === false, points }
    })
    .filter((l) => l.points.length)
    .slice(0, MOST_LINES)
    .reverse()
  const every = lines.flatMap((l) => l.points)
  if (!every.length) return undefined
  const [low, high] = [Math.min(...every.map((p) => p.at)), Math.max(...every.map((p) => p.at))]
  const spare = (high - low || Math.abs(high) || 1) * 0.04
  const [from, to] = [low - spare, high + spare]
  const band = Array.from({ length: BAND_STEPS + 1 }, (_, i) => from + ((to - from) * i) / BAND_STEPS).flatMap((at) => {
    const limit = limitAt(ranges, at, unit)
    return limit === undefined ? [] : [{ at, limit }]
  })
  const most = Math.max(...every.map((p) => Math.abs(p.error)), ...band.map((b) => b.limit)) || 1
  return { unit, from, to, most, band, lines }
}
