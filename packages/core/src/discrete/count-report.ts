// What a point has counted, as a whole: by shift, together, what took long, and when it stood without anybody saying
// why.
import { endOf, risesOf, type EdgeTrain } from './edge-log.ts'
import {
  firstAtLeast,
  reportShift,
  shiftsBetween,
  silences,
  totalOf,
  type Calendar,
  type MachineStop,
  type Shift,
  type ShiftPattern,
  type ShiftReport,
} from './shifts.ts'
import { sure } from '../sure/index.ts'

export interface CountAsk {
  readonly trains: readonly EdgeTrain[]
  readonly patterns: readonly ShiftPattern[]
  /** Days worked, 0 is Sunday. */
  readonly days: readonly number[]
  readonly idealCycle_s: number | undefined
  readonly longCycle_s: number | undefined
  readonly stops: readonly MachineStop[]
  /** Rejected pieces by `day shift`. */
  readonly rejected: Readonly<Record<string, number>>
}
export interface LongCycle {
  readonly at_ms: number
  readonly seconds: number
}
export interface WatchedShift extends ShiftReport {
  /** Share of the shift in which changes were recorded, 0 to 1: what was not watched is not counted. */
  readonly watched: number
}
export interface CountReport {
  readonly first_ms: number
  readonly last_ms: number
  /** Rises in all, also those outside every shift. */
  readonly rises: number
  readonly shifts: readonly WatchedShift[]
  readonly total: ReturnType<typeof totalOf>
  /** Standstills within shifts that no stop covers, longest first. */
  readonly unnamed: readonly MachineStop[]
  /** A standstill is one from this on, s. */
  readonly stillFrom_s: number
  /** The longest cycles above the limit, longest first. */
  readonly long: readonly LongCycle[]
}

/** No standstill is shorter, s. */
export const LEAST_STILL_s = 120
const MOST_LISTED = 60

/** Whether stops cover at least half of a standstill. */
function isNamed(still: MachineStop, stops: readonly MachineStop[]): boolean {
  const covered = stops.reduce(
    (sum, s) => sum + Math.max(0, Math.min(s.to_ms, still.to_ms) - Math.max(s.from_ms, still.from_ms)),
    0,
  )
  return 2 * covered >= still.to_ms - still.from_ms
}

/** Recordings that follow one another at once are one stretch: the machine went on between them. */
const SEAM_ms = 5000
function joined(stretches: readonly MachineStop[]): MachineStop[] {
  const found: MachineStop[] = []
  for (const s of stretches) {
    const last = found.at(-1)
    if (last && s.from_ms - last.to_ms <= SEAM_ms) found[found.length - 1] = { ...last, to_ms: s.to_ms }
    else found.push(s)
  }
  return found
}

function longest(
  rises: Float64Array,
  shifts: readonly { from_ms: number; to_ms: number }[],
  limit_s: number,
): LongCycle[] {
  const found: LongCycle[] = []
  for (const { from_ms, to_ms } of shifts)
    for (let i = firstAtLeast(rises, from_ms) + 1; i < rises.length && rises[i]! < to_ms; i++) {
      const seconds = (rises[i]! - rises[i - 1]!) / 1000
      if (seconds > limit_s) found.push({ at_ms: rises[i]!, seconds })
    }
  return found.sort((a, b) => b.seconds - a.seconds).slice(0, MOST_LISTED)
}

/** The report over everything counted; undefined while nothing is. `told` hears the share done. */
export function countReport(
  ask: CountAsk,
  calendar: Calendar,
  told?: (share: number) => void,
): CountReport | undefined {
  const { trains } = ask
  if (!trains.length) return undefined
  const rises = risesOf(trains, told && ((share) => told(share * 0.8)))
  const ends = trains.map(endOf)
  const first_ms = sure(trains[0]).start_ms
  const last_ms = sure(ends.at(-1))
  const shifts = shiftsBetween({
    patterns: ask.patterns,
    days: new Set(ask.days),
    from_ms: first_ms,
    to_ms: last_ms,
    calendar,
  })
  const terms = {
    stops: ask.stops,
    idealCycle_s: ask.idealCycle_s,
    longCycle_s: ask.longCycle_s,
    rejected: ask.rejected,
  }
  // Only what was watched can have run, or stood still: of the rest nothing is known.
  const watchedIn = ({ from_ms, to_ms }: Shift): MachineStop[] =>
    joined(
      trains.flatMap((t, k) => {
        const [from, to] = [Math.max(t.start_ms, from_ms), Math.min(ends[k]!, to_ms)]
        return to > from ? [{ from_ms: from, to_ms: to }] : []
      }),
    )
  const stretches = shifts.map(watchedIn)
  const reports = shifts.map((shift, i) => {
    if (told && i % 16 === 0) told(0.8 + (0.2 * i) / shifts.length)
    const seen = sure(stretches[i])
    const watched = seen.reduce((ms, s) => ms + (s.to_ms - s.from_ms), 0) / (shift.to_ms - shift.from_ms)
    return { ...reportShift(rises, shift, terms, seen), watched }
  })
  const watched = stretches.flat()
  const stillFrom_s = Math.max(LEAST_STILL_s, ask.longCycle_s ?? 3 * (ask.idealCycle_s ?? 100))
  told?.(1)
  return {
    first_ms,
    last_ms,
    rises: rises.length,
    shifts: reports,
    total: totalOf(reports, ask.idealCycle_s),
    unnamed: silences(rises, watched, stillFrom_s)
      .filter((s) => !isNamed(s, ask.stops))
      .slice(0, MOST_LISTED),
    stillFrom_s,
    long: ask.longCycle_s === undefined ? [] : longest(rises, watched, ask.longCycle_s),
  }
}
