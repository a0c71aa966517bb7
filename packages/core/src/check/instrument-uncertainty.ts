// What a reading is worth by the figures of the instrument it was read from.
import { Refusal } from '../refusal/index.ts'
import { standardUncertainty } from './uncertainty-budget.ts'

/** An instrument's accuracy as its data sheet or certificate states it: at least one of the four parts. */
export interface InstrumentFigures {
  /** % of the reading, 0 or more. */
  readonly pctOfReading?: number | undefined
  /** % of the range, 0 or more; needs `range`. */
  readonly pctOfRange?: number | undefined
  /** Last digits, 0 or more; needs `resolution`. */
  readonly digits?: number | undefined
  /** In the reading's unit, 0 or more. */
  readonly fixed?: number | undefined
  /** Full range of the instrument, above 0. */
  readonly range?: number | undefined
  /** What its last digit is worth, above 0. */
  readonly resolution?: number | undefined
  /** Coverage factor k where an expanded uncertainty is stated, above 0; without it the parts are limits. */
  readonly coverage?: number | undefined
}

export interface InstrumentUncertainty {
  /** The parts added up, in the reading's unit. */
  readonly halfWidth: number
  readonly standard: number
}

/**
 * Half-width and standard uncertainty of a reading, in the reading's unit: limits count as rectangular, what is stated
 * with a coverage factor as normal.
 * @throws Refusal `invalid-input` without any part, for a part that lacks its range or resolution, for a figure below 0
 * or a range, resolution or coverage of 0
 * Source: JCGM 100 (GUM), 4.3.3 (normal), 4.3.7 (rectangular).
 */
export function instrumentUncertainty(reading: number, f: InstrumentFigures): InstrumentUncertainty {
  const { pctOfReading, pctOfRange, digits, fixed, range, resolution, coverage } = f
  const parts = [pctOfReading, pctOfRange, digits, fixed]
  if (parts.every((p) => p === undefined))
    throw new Refusal('invalid-input', 'An instrument without a figure says nothing about its readings.')
  if (parts.some((p) => p !== undefined && !(p >= 0)))
    throw new Refusal('invalid-input', 'No part of an instrument’s accuracy is below 0.')
  if ([range, resolution, coverage].some((v) => v !== undefined && !(v > 0)))
    throw new Refusal('invalid-input', 'Range, resolution and coverage factor lie above 0.')
  if (pctOfRange !== undefined && range === undefined)
    throw new Refusal('invalid-input', 'A share of the range needs the range.')
  if (digits !== undefined && resolution === undefined)
    throw new Refusal('invalid-input', 'Digits need the resolution, what the last one is worth.')
  const halfWidth =
    (Math.abs(reading) * (pctOfReading ?? 0)) / 100 +
    ((range ?? 0) * (pctOfRange ?? 0)) / 100 +
    (digits ?? 0) * (resolution ?? 0) +
    (fixed ?? 0)
  const standard = standardUncertainty(
    coverage === undefined
      ? { value: halfWidth, distribution: 'rectangular' }
      : { value: halfWidth, distribution: 'normal', coverage },
  )
  return { halfWidth, standard }
}
