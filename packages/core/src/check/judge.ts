// From the readings on record to the verdict: which readings count, what every knot should have read, and how it came
// out.
import { knotScales, spread, type Knot, type Thread } from '../thread/index.ts'
import { errorOfSpan } from './error-of-span.ts'
import { multiPointCheck, referToNominal, type CheckResult, type Direction } from './multi-point-check.ts'
import { narrowestBandHalfWidth } from './narrowest-band.ts'
import { sure } from '../sure/index.ts'

/**
 * How a check is judged. 1: the current against a straight line over the range, as release 0.1 did. 2: every knot
 * that was read against the thread, current and controller deciding. 3: every place that was read decides, each with
 * its uncertainty and the controller by a tolerance of its own. What was begun under a rule is judged by it for good.
 */
export type CheckRule = 1 | 2 | 3
export const CHECK_RULE = 3

export interface RecordedReading {
  readonly id: string
  /** Place in the plan. */
  readonly pointIndex: number
  readonly percent: number
  readonly direction: Direction
  /** True input reached, in the process knot's unit. */
  readonly applied: number
  /** What was read, by knot id, each in its knot's unit. */
  readonly reads: Readonly<Record<string, number>>
  /** Id of an earlier reading that this one corrects. */
  readonly supersedes?: string | undefined
}

/** Process values at 4 and 20 mA, in the process knot's unit. */
export interface CheckRange {
  readonly lrv: number
  readonly urv: number
}

/**
 * The readings that count: those that no later one corrects, in the order of the plan. A second reading of a point
 * that corrects nothing
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

/** What a knot read against what it should have. */
export interface JudgedKnot {
  readonly knotId: string
  readonly name: string
  readonly unit: string
  readonly decimals: number
  readonly expected: number
  readonly read: number
  /** Error, % of the knot's span. */
  readonly errorPct: number
}

export interface JudgedReading {
  readonly reading: RecordedReading
  /** Every knot that was read, from the process to the controller. */
  readonly knots: readonly JudgedKnot[]
  /** Of the knots that the verdict rests on (current and controller), the one that errs most. */
  readonly worst: JudgedKnot
  /** The knot whose steps hysteresis and linearity are of: the current; on a bus, what the controller shows. */
  readonly main: JudgedKnot
}

export interface Judgement {
  readonly judged: readonly JudgedReading[]
  readonly result: CheckResult
}

const SAME_MAGNITUDE = 1e-9
const TOLERANCE_MET = 1e-9
const worse = (a: number, b: number) => Math.abs(b) > Math.abs(a) + SAME_MAGNITUDE
const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length

/** Largest error, hysteresis and linearity of errors at nominal points. */
export function resultOf(judged: readonly JudgedReading[], tolerancePct: number): CheckResult {
  const byPercent = new Map<number, Record<Direction, number[]>>()
  for (const { reading, main } of judged) {
    const met = byPercent.get(reading.percent) ?? { up: [], down: [] }
    met[reading.direction].push(main.errorPct)
    byPercent.set(reading.percent, met)
  }
  const both = [...byPercent.values()].filter((m) => m.up.length && m.down.length)
  const errorsPct = judged.map((j) => j.worst.errorPct)
  const maxErrorPct = errorsPct.reduce((a, b) => (worse(a, b) ? b : a))
  return {
    errorsPct,
    maxErrorPct,
    hysteresisPct: both.length ? Math.max(...both.map((m) => Math.abs(mean(m.up) - mean(m.down)))) : null,
    linearityPct: narrowestBandHalfWidth([...byPercent].map(([x, m]) => [x, mean([...m.up, ...m.down])] as const)),
    pass: Math.abs(maxErrorPct) <= tolerancePct + TOLERANCE_MET,
  }
}

/** Knots that the verdict rests on. */
const JUDGED: readonly Knot['role'][] = ['current', 'controller']

/** What a reading's knots should have read for its true input. Undefined where none that counts was read. */
function judgedAt(reading: RecordedReading, thread: Thread): JudgedReading | undefined {
  const scales = knotScales(thread)
  const expected = spread(thread, sure(thread.knots[0]).id, reading.applied)
  const knots = thread.knots.flatMap((knot, i): (JudgedKnot & { role: Knot['role'] })[] => {
    const read = reading.reads[knot.id]
    const should = expected[i]!
    const { low, high } = scales[i]!
    if (i === 0 || read === undefined || !should.known || low === undefined || high === undefined || low === high)
      return []
    const { name, unit, decimals, role } = knot
    const errorPct = errorOfSpan(read, should.value, high - low)
    return [{ knotId: knot.id, name, unit, decimals, role, expected: should.value, read, errorPct }]
  })
  const counting = knots.filter((k) => JUDGED.includes(k.role))
  const main = counting[0]
  if (!main) return undefined
  const worst = counting.reduce((a, b) => (worse(a.errorPct, b.errorPct) ? b : a))
  return { reading, knots, worst, main }
}

/**
 * Judges the standing readings at every knot that was read, each against what the thread expects there for the true
 * input: a root at either
 * end, a low-flow cutoff, a volume, a converter are right without further ado. Null without readings.
 */
export function judgeByThread(
  readings: readonly RecordedReading[],
  thread: Thread,
  tolerancePct: number,
): Judgement | null {
  const judged = standingReadings(readings).flatMap((r) => judgedAt(r, thread) ?? [])
  return judged.length ? { judged, result: resultOf(judged, tolerancePct) } : null
}

/**
 * Judges the standing readings as release 0.1 did: the current against the straight line over the range. Null without
 * readings.
 * Each reading is referred to its nominal point first (see `referToNominal`), which leaves its error as it is.
 * @throws Refusal `zero-span`
 */
export function judgeByRange(
  readings: readonly RecordedReading[],
  range: CheckRange,
  tolerancePct: number,
): Judgement | null {
  const standing = standingReadings(readings)
  if (standing.length === 0) return null
  const points = standing.map((r) =>
    referToNominal(
      { applied: r.applied, output: sure(r.reads['current']), direction: r.direction },
      range.lrv + (r.percent / 100) * (range.urv - range.lrv),
      range,
    ),
  )
  const result = multiPointCheck({ ...range, points, tolerancePct })
  return {
    result,
    judged: standing.map((reading, i) => {
      const errorPct = result.errorsPct[i]!
      const read = sure(reading.reads['current'])
      const knot: JudgedKnot = {
        knotId: 'current',
        name: 'Loop current',
        unit: 'mA',
        decimals: 3,
        expected: read - 0.16 * errorPct,
        read,
        errorPct,
      }
      return { reading, knots: [knot], worst: knot, main: knot }
    }),
  }
}
