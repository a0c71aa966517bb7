// The log of a point's changes: packed as gaps in milliseconds, and read from rows of time and state with every bad
// row named.
import { Refusal } from '../refusal/index.ts'

/** Changes of one point: from `startState` at `start_ms`, the state turns over after each gap. */
export interface EdgeTrain {
  /** Milliseconds since 1970-01-01 UTC. */
  readonly start_ms: number
  readonly startState: boolean
  /** Whole milliseconds to the next change, each 1 or more. */
  readonly gaps_ms: readonly number[]
}

/** Time of the last change, ms since 1970. */
export const endOf = (train: EdgeTrain): number => train.gaps_ms.reduce((t, gap) => t + gap, train.start_ms)

/**
 * Every edge of trains that follow one another, the starting state of each train included only where it is a change.
 */
export function* edgesOf(trains: readonly EdgeTrain[]): Generator<{ t_ms: number; state: boolean; first: boolean }> {
  let state: boolean | undefined
  for (const train of trains) {
    let t = train.start_ms
    if (train.startState !== state) yield { t_ms: t, state: train.startState, first: state === undefined }
    state = train.startState
    for (const gap of train.gaps_ms) {
      t += gap
      state = !state
      yield { t_ms: t, state, first: false }
    }
  }
}

/** Times of all changes from off to on, ms since 1970. The first state known is no change. */
export function risesOf(trains: readonly EdgeTrain[], told?: (share: number) => void): Float64Array {
  const most = trains.reduce((n, t) => n + t.gaps_ms.length + 1, 0)
  const rises = new Float64Array(most)
  let n = 0
  let done = 0
  let state: boolean | undefined
  for (const { start_ms, startState, gaps_ms } of trains) {
    let t = start_ms
    if (startState && state === false) rises[n++] = t
    state = startState
    for (let i = 0; i < gaps_ms.length; i++) {
      t += gaps_ms[i]!
      state = !state
      if (state) rises[n++] = t
      if (told && (++done & 0xffff) === 0) told(done / most)
    }
  }
  told?.(1)
  return rises.subarray(0, n)
}

/**
 * @throws Refusal `train-unsound` for gaps that are not whole milliseconds of 1 or more, or for times beyond the
 * calendar
 */
export function refuseUnsound(train: EdgeTrain): void {
  let t = train.start_ms
  for (const gap of train.gaps_ms) {
    if (!Number.isSafeInteger(gap) || gap < 1)
      throw new Refusal('train-unsound', 'Each gap between changes must be a whole number of milliseconds, 1 or more.')
    t += gap
  }
  if (!Number.isSafeInteger(train.start_ms) || train.start_ms < EARLIEST_ms || t > LATEST_ms)
    throw new Refusal('train-unsound', 'The changes must lie between the years 2000 and 2100.')
}

/**
 * Milliseconds from 1970 to midnight UTC of a day. Source: days of the proleptic Gregorian calendar, counted from
 * March.
 */
function midnight(y: number, m: number, d: number): number {
  const years = m <= 2 ? y - 1 : y
  const era = Math.floor(years / 400)
  const inEra = years - era * 400
  const inYear = Math.floor((153 * ((m + 9) % 12) + 2) / 5) + d - 1
  const days = era * 146_097 + inEra * 365 + Math.floor(inEra / 4) - Math.floor(inEra / 100) + inYear - 719_468
  return days * 86_400_000
}
const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
const daysIn = (y: number, m: number) =>
  m === 2 && ((y % 4 === 0 && y % 100 !== 0) || y % 400 === 0) ? 29 : LENGTHS[m - 1]!

const EARLIEST_ms = midnight(2000, 1, 1)
const LATEST_ms = midnight(2100, 1, 1)
const ON = new Set(['1', 'true', 'on', 'yes', 'high'])
const OFF = new Set(['0', 'false', 'off', 'no', 'low'])

const ISO = /^(\d{4})-(\d{2})-(\d{2})[T ](\d{2}):(\d{2})(?::(\d{2}(?:[.,]\d{1,9})?))?(?:(Z)|([+-])(\d{2}):?(\d{2}))?$/

/** What a local time of day is in milliseconds since 1970: the core knows no zone. */
export type LocalMoment = (y: number, m: number, d: number, minutes: number) => number

/** A time: ISO 8601, or seconds or milliseconds since 1970. One without a zone is read with `local`. */
export function readTime(text: string, local: LocalMoment): { ms: number; local: boolean } | string {
  const clean = text.trim()
  let ms: number
  let without = false
  if (/^\d{9,10}(\.\d+)?$/.test(clean)) ms = Math.round(Number(clean) * 1000)
  else if (/^\d{12,13}$/.test(clean)) ms = Number(clean)
  else {
    const parts = ISO.exec(clean)
    if (!parts) return 'no time such as 2027-03-12T14:02:07.250Z'
    const [y, m, d, h, min] = parts.slice(1, 6).map(Number) as [number, number, number, number, number]
    const s = Number((parts[6] ?? '0').replace(',', '.'))
    if (m < 1 || m > 12 || d < 1 || d > daysIn(y, m) || h > 23 || min > 59 || s >= 60)
      return 'no such date or time of day'
    without = !parts[7] && !parts[8]
    const zone = parts[8] ? (parts[8] === '-' ? -1 : 1) * (Number(parts[9]) * 60 + Number(parts[10])) : 0
    const minutes = h * 60 + min
    const start = without ? local(y, m, d, minutes) : midnight(y, m, d) + (minutes - zone) * 60_000
    ms = start + Math.round(s * 1000)
  }
  if (!Number.isFinite(ms) || ms < EARLIEST_ms || ms > LATEST_ms) return 'not between the years 2000 and 2100'
  return { ms, local: without }
}

export interface BadRow {
  readonly line: number
  readonly reason: string
}
export interface EdgeReport {
  /** Undefined while no row was good. */
  readonly train: EdgeTrain | undefined
  readonly rows: number
  /** Rows taken: the first state, and each change. */
  readonly accepted: number
  /** Rows that repeat the state at a later time: true, and no change. */
  readonly unchanged: number
  readonly badCount: number
  /** The first of them. */
  readonly bad: readonly BadRow[]
  /** Rows whose time names no zone: read in the zone of this device. */
  readonly withoutZone: number
  readonly end_ms: number | undefined
}

const MOST_LISTED = 1000
const STATE_NAMES = ['state', 'value', 'on']
const TIME_NAMES = ['time', 'timestamp', 'at', 't', 'date']

/** Reads rows of an edge log, one after the other. The first row may name the columns. */
export function edgeReader(local: LocalMoment): {
  row(line: number, cells: readonly string[]): void
  report(): EdgeReport
} {
  let columns: { time: number; state: number } | undefined
  let start: { ms: number; state: boolean } | undefined
  let last = { ms: 0, state: false, line: 0 }
  const gaps: number[] = []
  const bad: BadRow[] = []
  let badCount = 0
  let unchanged = 0
  let rows = 0
  let withoutZone = 0
  const refuse = (line: number, reason: string) => {
    badCount++
    if (bad.length < MOST_LISTED) bad.push({ line, reason })
  }
  return {
    row(line, cells) {
      if (!columns) {
        const names = cells.map((c) => c.trim().toLowerCase())
        const time = names.findIndex((n) => TIME_NAMES.includes(n))
        const state = names.findIndex((n) => STATE_NAMES.includes(n))
        columns = time >= 0 && state >= 0 ? { time, state } : { time: 0, state: 1 }
        if (time >= 0 && state >= 0) return
      }
      rows++
      if (cells.length <= Math.max(columns.time, columns.state))
        return refuse(line, 'two columns are wanted, time and state')
      const time = readTime(cells[columns.time]!, local)
      if (typeof time === 'string') return refuse(line, `“${cells[columns.time]!.slice(0, 40)}”: ${time}`)
      const word = cells[columns.state]!.trim().toLowerCase()
      const on = ON.has(word)
      if (!on && !OFF.has(word))
        return refuse(line, `“${word.slice(0, 40)}” is no state; 1 and 0, on and off, true and false are`)
      if (time.local) withoutZone++
      if (!start) {
        start = { ms: time.ms, state: on }
        last = { ms: time.ms, state: on, line }
        return
      }
      if (time.ms < last.ms)
        return refuse(
          line,
          `${((last.ms - time.ms) / 1000).toFixed(3)} s before line ${last.line}: rows out of order, or the ` +
            'clock was put back',
        )
      if (time.ms === last.ms)
        return refuse(
          line,
          on === last.state ? `the same as line ${last.line}` : `another state at the very time of line ${last.line}`,
        )
      if (on === last.state) {
        unchanged++
        return
      }
      gaps.push(time.ms - last.ms)
      last = { ms: time.ms, state: on, line }
    },
    report: () => ({
      train: start && { start_ms: start.ms, startState: start.state, gaps_ms: gaps },
      rows,
      accepted: start ? gaps.length + 1 : 0,
      unchanged,
      badCount,
      bad,
      withoutZone,
      end_ms: start && last.ms,
    }),
  }
}
