// Counting a machine by its sensor: cycles, how long they take, and the three factors of its effectiveness.

export interface Edge {
  readonly t_s: number
  readonly state: boolean
}
export interface Stop {
  readonly from_s: number
  readonly to_s: number
}
export interface CycleInput {
  /** In time order; the first fixes the starting state and is no transition. */
  readonly edges: readonly Edge[]
  readonly plannedTime_s: number
  /** From the start of planned time; may overlap. */
  readonly stops: readonly Stop[]
  readonly idealCycle_s: number
  readonly rejected: number
  readonly longCycle_s?: number | undefined
}
export interface Factors {
  /** Run time over planned time. */
  readonly availability: number | null
  /** Ideal cycle times count over run time; not clamped: above 1 says that the ideal cycle is entered too long. */
  readonly performance: number | null
  /** Good ones over all. */
  readonly quality: number | null
  /** Product of the three. */
  readonly oee: number | null
}
export interface CycleResult extends Factors {
  /** Transitions from off to on. */
  readonly count: number
  /** Mean between successive such transitions, s; null under two. */
  readonly meanCycle_s: number | null
  /** Intervals between such transitions above longCycle_s; null without it. */
  readonly longCycles: number | null
}

/**
 * Spare in comparing an interval with a limit, s: a difference of two times is not always the decimal it looks like.
 */
const SPARE_s = 1e-9

/** Time in stops within 0 … plannedTime_s, overlaps counted once, s. */
export function stoppedTime(stops: readonly Stop[], plannedTime_s: number): number {
  let stopped = 0
  let until = 0
  for (const { from_s, to_s } of [...stops].sort((a, b) => a.from_s - b.from_s)) {
    const from = Math.max(from_s, until)
    const to = Math.min(to_s, plannedTime_s)
    if (to > from) stopped += to - from
    until = Math.max(until, Math.min(to_s, plannedTime_s))
  }
  return stopped
}

/**
 * Availability, performance, quality and their product. A factor whose divisor is 0, or whose ideal cycle is not
 * known, is null, and then the product.
 */
export function factorsOf({
  count,
  plannedTime_s,
  stopped_s,
  idealCycle_s,
  rejected,
}: {
  readonly count: number
  readonly plannedTime_s: number
  readonly stopped_s: number
  readonly idealCycle_s: number | undefined
  readonly rejected: number
}): Factors {
  const runTime = plannedTime_s - stopped_s
  const availability = plannedTime_s === 0 ? null : runTime / plannedTime_s
  const performance = runTime === 0 || idealCycle_s === undefined ? null : (idealCycle_s * count) / runTime
  const quality = count === 0 ? null : (count - rejected) / count
  return {
    availability,
    performance,
    quality,
    oee:
      availability === null || performance === null || quality === null ? null : availability * performance * quality,
  }
}

/**
 * Mean interval and number of long ones between rises from index `from` up to but not including `to`; times in any
 * unit.
 */
export function intervalsOf({
  rises,
  long,
  from = 0,
  to = rises.length,
  spare = SPARE_s,
}: {
  readonly rises: ArrayLike<number>
  readonly long: number | undefined
  readonly from?: number
  readonly to?: number
  readonly spare?: number
}): { mean: number | null; long: number | null } {
  if (to - from < 2) return { mean: null, long: long === undefined ? null : 0 }
  let longOnes = 0
  if (long !== undefined) for (let i = from + 1; i < to; i++) if (rises[i]! - rises[i - 1]! > long + spare) longOnes++
  return { mean: (rises[to - 1]! - rises[from]!) / (to - from - 1), long: long === undefined ? null : longOnes }
}

/** Cycles and factors from edges. OEE = availability × performance × quality, as defined in ISO 22400-2. */
export function cycleMetrics(input: CycleInput): CycleResult {
  const rises: number[] = []
  input.edges.forEach((edge, i) => {
    if (i > 0 && edge.state && !input.edges[i - 1]!.state) rises.push(edge.t_s)
  })
  const intervals = intervalsOf({ rises, long: input.longCycle_s })
  const stopped = stoppedTime(input.stops, input.plannedTime_s)
  return {
    count: rises.length,
    meanCycle_s: intervals.mean,
    ...factorsOf({
      count: rises.length,
      plannedTime_s: input.plannedTime_s,
      stopped_s: stopped,
      idealCycle_s: input.idealCycle_s,
      rejected: input.rejected,
    }),
    longCycles: intervals.long,
  }
}
