// Cycles by shift: when shifts are, which rises fall into each, and what each amounts to.
import { Refusal } from '../refusal/index.ts'
import { factorsOf, intervalsOf, stoppedTime, type Factors } from './cycle-metrics.ts'
import { sure } from '../sure/index.ts'

export interface ShiftPattern {
  readonly name: string
  /** Minutes after midnight; `to` beyond 1440 when it ends the next day. */
  readonly from_min: number
  readonly to_min: number
}

const WEEK = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat']

/** Shifts as a person writes them: `Early 06:00–14:00, Late 14:00–22:00`. @throws Refusal `shifts-unreadable` */
export function parseShifts(text: string): ShiftPattern[] {
  const shifts = text
    .split(/[,;\n]+/)
    .filter((part) => part.trim() !== '')
    .map((part) => {
      const m = /^\s*(.*?)\s*(\d{1,2}):(\d{2})\s*(?:–|-|to)\s*(\d{1,2}):(\d{2})\s*$/.exec(part)
      const [from, to] = m ? [Number(m[2]) * 60 + Number(m[3]), Number(m[4]) * 60 + Number(m[5])] : [NaN, NaN]
      const sound = m && Number(m[3]) < 60 && Number(m[5]) < 60 && from < 1440 && to <= 1440
      if (!sound) throw new Refusal('shifts-unreadable', `“${part.trim()}” is no shift; write it as Early 06:00–14:00.`)
      return { name: m[1] || `${m[2]}:${m[3]}`, from_min: from, to_min: to > from ? to : to + 1440 }
    })
  if (!shifts.length) throw new Refusal('shifts-unreadable', 'Write at least one shift, such as Day 07:00–15:30.')
  const starts = [...shifts].sort((a, b) => a.from_min - b.from_min)
  starts.forEach((s, i) => {
    const next = starts[i + 1] ?? { ...sure(starts[0]), from_min: sure(starts[0]).from_min + 1440 }
    if (s.to_min > next.from_min)
      throw new Refusal('shifts-unreadable', `${s.name} and ${next.name} overlap: one cycle would count for both.`)
  })
  return shifts
}

/** Days of the week, 0 is Sunday: `Mon–Fri`, `Mon, Wed, Sat`, `every day`. @throws Refusal `days-unreadable` */
export function parseDays(text: string): ReadonlySet<number> {
  const clean = text.trim().toLowerCase()
  if (clean === 'every day') return new Set([0, 1, 2, 3, 4, 5, 6])
  const days = new Set<number>()
  const at = (word: string) => {
    const i = WEEK.indexOf(word.slice(0, 3))
    if (i < 0) throw new Refusal('days-unreadable', `“${word}” is no day; write Mon–Fri, or Mon, Wed, Sat.`)
    return i
  }
  for (const part of clean.split(/[,;\s]*,\s*|\s+and\s+/).filter(Boolean)) {
    const [a, b] = part.split(/\s*(?:–|-|to)\s*/) as [string, string?]
    if (b === undefined) days.add(at(a))
    else
      for (let d = at(a), n = 0; n < 7; n++, d = (d + 1) % 7) {
        days.add(d)
        if (d === at(b)) break
      }
  }
  if (!days.size) throw new Refusal('days-unreadable', 'Write the days worked, such as Mon–Fri.')
  return days
}

export interface Shift {
  readonly name: string
  /** Day it begins on, e.g. 2027-03-12, in local time. */
  readonly day: string
  readonly from_ms: number
  readonly to_ms: number
}

/** Local calendar, given from outside: the core knows no time zone. */
export interface Calendar {
  /** Year, month 1 … 12, day and weekday (0 is Sunday) of a moment. */
  dayOf(ms: number): { y: number; m: number; d: number; weekday: number }
  /** The moment so many minutes after a day's midnight; days and minutes beyond a month or a day run over. */
  moment(y: number, m: number, d: number, minutes: number): number
}

/** Every shift that lies at least partly in [from_ms, to_ms], in order. */
export function shiftsBetween({
  patterns,
  days,
  from_ms,
  to_ms,
  calendar,
}: {
  readonly patterns: readonly ShiftPattern[]
  readonly days: ReadonlySet<number>
  readonly from_ms: number
  readonly to_ms: number
  readonly calendar: Calendar
}): Shift[] {
  const found: Shift[] = []
  const begin = calendar.dayOf(from_ms)
  for (let i = -1; ; i++) {
    const noon = calendar.moment(begin.y, begin.m, begin.d + i, 720)
    const { y, m, d, weekday } = calendar.dayOf(noon)
    if (calendar.moment(y, m, d, 0) > to_ms) break
    if (!days.has(weekday)) continue
    for (const p of patterns) {
      const shift = {
        name: p.name,
        day: `${y}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`,
        from_ms: calendar.moment(y, m, d, p.from_min),
        to_ms: calendar.moment(y, m, d, p.to_min),
      }
      if (shift.to_ms > from_ms && shift.from_ms < to_ms) found.push(shift)
    }
  }
  return found.sort((a, b) => a.from_ms - b.from_ms)
}

/** First index of a sorted array whose value is at least `value`. */
export function firstAtLeast(sorted: ArrayLike<number>, value: number): number {
  let low = 0
  let high = sorted.length
  while (low < high) {
    const mid = (low + high) >>> 1
    if (sorted[mid]! < value) low = mid + 1
    else high = mid
  }
  return low
}

export interface ShiftReport extends Factors {
  readonly shift: Shift
  readonly count: number
  readonly meanCycle_s: number | null
  readonly longCycles: number | null
  /** Planned time that was watched. */
  readonly planned_s: number
  readonly stopped_s: number
  readonly rejected: number
  /** Cycles a minute over the run time; null without run time. */
  readonly perMinute: number | null
}
export interface MachineStop {
  readonly from_ms: number
  readonly to_ms: number
}
export interface ShiftTerms {
  readonly stops: readonly MachineStop[]
  readonly idealCycle_s: number | undefined
  readonly longCycle_s?: number | undefined
  /** Rejected pieces by `day name`, as in `2027-03-12 Early`. */
  readonly rejected: Readonly<Record<string, number>>
}

export const shiftKey = (shift: Pick<Shift, 'day' | 'name'>): string => `${shift.day} ${shift.name}`

/** Of several stretches: the mean over all intervals, and how many of them were long. */
function intervalsIn(rises_ms: ArrayLike<number>, stretches: readonly MachineStop[], long_ms: number | undefined) {
  const found = stretches.map(({ from_ms, to_ms }) => {
    const [from, to] = [firstAtLeast(rises_ms, from_ms), firstAtLeast(rises_ms, to_ms)]
    return { n: Math.max(0, to - from - 1), ...intervalsOf({ rises: rises_ms, long: long_ms, from, to, spare: 1e-6 }) }
  })
  const n = found.reduce((sum, f) => sum + f.n, 0)
  return {
    mean: n ? found.reduce((sum, f) => sum + f.n * (f.mean ?? 0), 0) / n : null,
    long: long_ms === undefined ? null : found.reduce((sum, f) => sum + (f.long ?? 0), 0),
  }
}

/**
 * One shift's cycles and factors; a rise counts for the shift it falls into. Time that nobody watched is no run time
 * and no standstill: nothing is known of it.
 * @param watched stretches of the shift in which changes were recorded, in order; the whole of it without them
 */
export function reportShift(
  rises_ms: ArrayLike<number>,
  shift: Shift,
  terms: ShiftTerms,
  watched: readonly MachineStop[] = [shift],
): ShiftReport {
  const count = firstAtLeast(rises_ms, shift.to_ms) - firstAtLeast(rises_ms, shift.from_ms)
  const planned_s = watched.reduce((sum, w) => sum + (w.to_ms - w.from_ms) / 1000, 0)
  const stopped_s = watched.reduce((sum, w) => {
    const at = (ms: number) => (ms - w.from_ms) / 1000
    const stops = terms.stops.map((s) => ({ from_s: at(s.from_ms), to_s: at(s.to_ms) }))
    return sum + stoppedTime(stops, at(w.to_ms))
  }, 0)
  const rejected = terms.rejected[shiftKey(shift)] ?? 0
  const long_ms = terms.longCycle_s === undefined ? undefined : terms.longCycle_s * 1000
  const { mean, long } = intervalsIn(rises_ms, watched, long_ms)
  return {
    shift,
    count,
    meanCycle_s: mean === null ? null : mean / 1000,
    longCycles: long,
    planned_s,
    stopped_s,
    rejected,
    perMinute: planned_s - stopped_s > 0 ? (60 * count) / (planned_s - stopped_s) : null,
    ...factorsOf({ count, plannedTime_s: planned_s, stopped_s, idealCycle_s: terms.idealCycle_s, rejected }),
  }
}

/** All shifts together: times and counts are added, the factors computed from the sums. */
export function totalOf(
  reports: readonly ShiftReport[],
  idealCycle_s: number | undefined,
): Omit<ShiftReport, 'shift' | 'meanCycle_s'> & { meanCycle_s: number | null } {
  const sum = (of: (r: ShiftReport) => number) => reports.reduce((n, r) => n + of(r), 0)
  const count = sum((r) => r.count)
  const planned_s = sum((r) => r.planned_s)
  const stopped_s = sum((r) => r.stopped_s)
  const rejected = sum((r) => r.rejected)
  const intervals = sum((r) => Math.max(0, r.count - 1))
  return {
    count,
    planned_s,
    stopped_s,
    rejected,
    meanCycle_s: intervals ? sum((r) => (r.meanCycle_s ?? 0) * Math.max(0, r.count - 1)) / intervals : null,
    longCycles: reports.some((r) => r.longCycles === null) ? null : sum((r) => r.longCycles ?? 0),
    perMinute: planned_s - stopped_s > 0 ? (60 * count) / (planned_s - stopped_s) : null,
    ...factorsOf({ count, plannedTime_s: planned_s, stopped_s, idealCycle_s, rejected }),
  }
}

/**
 * Times without a cycle for longer than `least_s` within the shifts: stops that nobody has named yet, longest first.
 */
export function silences(rises_ms: ArrayLike<number>, shifts: readonly MachineStop[], least_s: number): MachineStop[] {
  const found: MachineStop[] = []
  for (const shift of shifts) {
    const from = firstAtLeast(rises_ms, shift.from_ms)
    const to = firstAtLeast(rises_ms, shift.to_ms)
    let before = shift.from_ms
    for (let i = from; i <= to; i++) {
      const next = i < to ? rises_ms[i]! : shift.to_ms
      if (next - before > least_s * 1000) found.push({ from_ms: before, to_ms: next })
      before = next
    }
  }
  return found.sort((a, b) => b.to_ms - b.from_ms - (a.to_ms - a.from_ms))
}
