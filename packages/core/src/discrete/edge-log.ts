// The log of a point's changes: packed as gaps in milliseconds, and read from rows of time and state with every bad row named.
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

/** Every edge of trains that follow one another, the starting state of each train included only where it is a change. */
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

/** @throws Refusal `train-unsound` for gaps that are not whole milliseconds of 1 or more, or for times beyond the calendar */
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

const EARLIEST_ms = Date.UTC(2000, 0, 1)
const LATEST_ms = Date.UTC(2100, 0, 1)
const ON = new Set(['1', 'true', 'on', 'yes', 'high'])
const OFF = new Set(['0', 'false', 'off', 'no', 'low'])

/** A time: ISO 8601 with or without zone, or seconds or milliseconds since 1970. */
export function readTime(text: string): { ms: number; local: boolean } | string {
  const clean = text.trim()
  let ms: number
  let local = false
  if (/^\d{9,10}(\.\d+)?$/.test(clean)) ms = Math.round(Number(clean) * 1000)
  else if (/^\d{12,13}$/.test(clean)) ms = Number(clean)
  else {
    const parts = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2}(?::\d{2}(?:[.,]\d{1,9})?)?)(Z|[+-]\d{2}:?\d{2})?$/.exec(clean)
    if (!parts) return 'no time such as 2027-03-12T14:02:07.250Z'
    const zone = parts[3] ?? ''
    local = zone === ''
    ms = Date.parse(`${parts[1]}T${parts[2]!.replace(',', '.')}${zone.replace(/^([+-]\d{2})(\d{2})$/, '$1:$2')}`)
  }
  if (!Number.isFinite(ms)) return 'no such date or time of day'
  if (ms < EARLIEST_ms || ms > LATEST_ms) return 'not between the years 2000 and 2100'
  return { ms, local }
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
export function edgeReader(): { row(line: number, cells: readonly string[]): void; report(): EdgeReport } {
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
      if (cells.length <= Math.max(columns.time, columns.state)) return refuse(line, 'two columns are wanted, time and state')
      const time = readTime(cells[columns.time]!)
      if (typeof time === 'string') return refuse(line, `“${cells[columns.time]!.slice(0, 40)}”: ${time}`)
      const word = cells[columns.state]!.trim().toLowerCase()
      const on = ON.has(word)
      if (!on && !OFF.has(word)) return refuse(line, `“${word.slice(0, 40)}” is no state; 1 and 0, on and off, true and false are`)
      if (time.local) withoutZone++
      if (!start) {
        start = { ms: time.ms, state: on }
        last = { ms: time.ms, state: on, line }
        return
      }
      if (time.ms < last.ms)
        return refuse(line, `${((last.ms - time.ms) / 1000).toFixed(3)} s before line ${last.line}: rows out of order, or the clock was put back`)
      if (time.ms === last.ms)
        return refuse(line, on === last.state ? `the same as line ${last.line}` : `another state at the very time of line ${last.line}`)
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
  } // prettier-ignore
}
