// From the readings on record to the verdict: which readings count, what each should have been, and how it came out.
import { multiPointCheck, referToNominal, type CheckResult, type Direction } from './multi-point-check.ts'

export interface RecordedReading {
  readonly id: string
  /** Place in the plan. */
  readonly pointIndex: number
  readonly percent: number
  readonly direction: Direction
  /** True input reached, in the process knot's unit. */
  readonly applied: number
  /** Loop current read, mA. */
  readonly mA: number
  /** Id of an earlier reading that this one corrects. */
  readonly supersedes?: string | undefined
}

/** Process values at 4 and 20 mA, in the process knot's unit. */
export interface CheckRange {
  readonly lrv: number
  readonly urv: number
}

/**
 * The readings that count: those that no later one corrects, in the order of the plan. A second reading of a point that corrects nothing
 * does not replace the first.
 */
export function standingReadings<T extends Pick<RecordedReading, 'id' | 'pointIndex' | 'supersedes'>>(
  readings: readonly T[],
): T[] {
  const corrected = new Set(readings.map((r) => r.supersedes))
  const standing = new Map<number, T>()
  for (const reading of readings)
    if (!corrected.has(reading.id) && !standing.has(reading.pointIndex)) standing.set(reading.pointIndex, reading)
  return [...standing.values()].sort((a, b) => a.pointIndex - b.pointIndex)
}

export interface JudgedReading {
  readonly reading: RecordedReading
  /** Expected current for the true input, mA. */
  readonly expected_mA: number
  /** Error, % of output span. */
  readonly errorPct: number
}

export interface Judgement {
  readonly judged: readonly JudgedReading[]
  readonly result: CheckResult
}

/**
 * Judges the standing readings against the loop current expected for the true input of each. Null without readings.
 * Each reading is referred to its nominal point first (see `referToNominal`), which leaves its error as it is.
 * @throws Refusal `zero-span`
 */
export function judge(readings: readonly RecordedReading[], range: CheckRange, tolerancePct: number): Judgement | null {
  const standing = standingReadings(readings)
  if (standing.length === 0) return null
  const points = standing.map((r) =>
    referToNominal(
      { applied: r.applied, output: r.mA, direction: r.direction },
      range.lrv + (r.percent / 100) * (range.urv - range.lrv),
      range,
    ),
  )
  const result = multiPointCheck({ ...range, points, tolerancePct })
  return {
    result,
    judged: standing.map((reading, i) => ({
      reading,
      expected_mA: reading.mA - 0.16 * result.errorsPct[i]!,
      errorPct: result.errorsPct[i]!,
    })),
  }
}
