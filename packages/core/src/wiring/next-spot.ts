// Where to measure next: where the explanations left differ most for each minute that it takes.
import type { Explanation, Ranking } from './explanation.ts'
import { minutesFor, readAt, sameSpot, spread, type LoopReading, type Spot } from './readings.ts'
import type { Wiring } from './record.ts'

/** What an explanation expects a display to show at a spot. */
const expected = ({ energised, fault }: Explanation, spot: Spot): number => {
  const value = readAt(energised, spot)
  const seen = fault.seen?.({ low: value, high: value }, { ...spot, value }, -1)
  return seen ? (seen.low + seen.high) / 2 : value
}

/** How many pairs of the explanations a reading there tells apart: certain ones count once, doubtful ones in part. */
function apartAt(left: readonly Explanation[], spot: Spot): number {
  const values = left.map((e) => expected(e, spot))
  let apart = 0
  for (let i = 0; i < values.length; i++)
    for (let j = i + 1; j < values.length; j++) {
      const z = Math.abs(values[i]! - values[j]!) / (spread(values[i]!) + spread(values[j]!))
      apart += Math.min(1, z / 2)
    }
  return apart
}

/** Pairs told apart below which a measurement is not worth making. */
const WORTH = 0.5

export function nextSpot(
  wiring: Wiring,
  left: readonly Explanation[],
  spots: readonly Spot[],
  readings: readonly LoopReading[],
): Ranking['next'] {
  if (left.length < 2) return undefined
  let best: { spot: Spot; perMinute: number } | undefined
  for (const spot of spots) {
    if (readings.some((r) => sameSpot(r, spot))) continue
    const apart = apartAt(left, spot)
    // Walking there costs as much as the cheapest measurement.
    const perMinute = apart / (1 + minutesFor(wiring, spot))
    if (apart >= WORTH && (!best || perMinute > best.perMinute)) best = { spot, perMinute }
  }
  if (!best) return undefined
  const { spot } = best
  return { spot, expects: left.slice(0, 6).map((e) => ({ fault: e.fault, value: expected(e, spot) })) }
}
