// A check as it would stand had the piece of kit shown what was true: what it was found to show too much is taken off
// each figure that was read with it.
import { errorAt, judgedFound, type FoundPoint } from '@calm-loop/core/kit'
import type { InstrumentRange } from '@calm-loop/core/check'
import type { Check, Reading } from './loops.ts'
import type { ReadEntry } from './primitives.ts'

/** What a calibration found, by its points where the piece's own figures judge any of them, else as it was stated. */
export function foundGood(
  found: { readonly points: readonly FoundPoint[]; readonly stated: 'good' | 'off' | 'not-stated' },
  ranges: readonly InstrumentRange[],
): boolean | null {
  const judged = judgedFound(found.points, ranges).filter((p) => p.limit !== undefined)
  if (judged.length) return judged.every((p) => !p.outside)
  return found.stated === 'not-stated' ? null : found.stated === 'good'
}

export interface WithoutError {
  readonly check: Check
  /** How many figures of it were read with the piece, and are another now. */
  readonly touched: number
  /** Which piece read which figure is not on record: every figure of its quantities is taken for its own. */
  readonly assumed: boolean
}

/** The same check with each figure that the piece read brought to what it would have shown without its error. */
export function withoutError(check: Check, gearId: string, points: readonly FoundPoint[]): WithoutError {
  const { terms } = check
  let touched = 0
  const brought = (read: ReadEntry, its: boolean): ReadEntry => {
    const error = its ? errorAt(points, read.value, read.unit) : undefined
    if (error === undefined) return read
    touched++
    return { ...read, value: read.value - error }
  }
  const reads = new Set(terms?.reads.filter((w) => w.gear === gearId).map((w) => w.at))
  const readings = check.readings.map((r): Reading => ({
    ...r,
    applied: brought(r.applied, !terms || terms.standardGear === gearId),
    // What a controller or a display shows is read off it, by nobody's meter.
    reads: Object.fromEntries(
      Object.entries(r.reads).map(([at, read]) => [at, brought(read, terms ? reads.has(at) : at === 'current')]),
    ),
  }))
  return { check: { ...check, readings }, touched, assumed: !terms }
}
