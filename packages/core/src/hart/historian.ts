// What a device keeps of its own past: rows of its value, and events, alarms and changes. Read in pieces by number.
import { floatAt, floatBytes, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { latinBytes, latinText, need } from './fields.ts'

/** Commands of the device’s own. */
export const HISTORY = { info: 132, rows: 133, events: 134 } as const
/** Rows, and events, that one answer holds. */
export const ROWS_AT_ONCE = 20
export const EVENTS_AT_ONCE = 6
const EVENT_TEXT = 28

export interface HistoryInfo {
  /** Rows that are kept; the oldest is row 0. */
  readonly rows: number
  readonly interval_s: number
  /** Of the newest row, s since 1970. */
  readonly newest_s: number
  readonly events: number
}
export interface HistoryRow {
  readonly row: number
  /** s since 1970. */
  readonly t_s: number
  readonly value: number | null
}
export const EVENT_KINDS = ['event', 'alarm', 'change'] as const
export interface HistoryEvent {
  readonly t_s: number
  readonly kind: (typeof EVENT_KINDS)[number]
  readonly says: string
}

export const infoBytes = ({ rows, interval_s, newest_s, events }: HistoryInfo): number[] => [
  ...unsignedBytes(rows, 3),
  ...unsignedBytes(interval_s, 2),
  ...unsignedBytes(newest_s, 4),
  ...unsignedBytes(events, 2),
]
/** @throws Refusal `too-short` */
export function readInfo(data: Uint8Array): HistoryInfo {
  need(data, 11)
  return {
    rows: unsignedAt(data, 0, 3),
    interval_s: unsignedAt(data, 3, 2),
    newest_s: unsignedAt(data, 5, 4),
    events: unsignedAt(data, 9, 2),
  }
}

/** Asks for every `step`-th row from one on. */
export const askRows = (from: number, step: number, count: number): number[] => [
  ...unsignedBytes(from, 3),
  ...unsignedBytes(step, 2),
  count,
]
export const readAskRows = (data: Uint8Array): { from: number; step: number; count: number } => ({
  from: unsignedAt(data, 0, 3),
  step: unsignedAt(data, 3, 2),
  count: unsignedAt(data, 5, 1),
})
export const rowBytes = ({ row, t_s, value }: HistoryRow): number[] => [
  ...unsignedBytes(row, 3),
  ...unsignedBytes(t_s, 4),
  ...floatBytes(value),
]
export const readRows = (data: Uint8Array): HistoryRow[] =>
  Array.from({ length: Math.floor(data.length / 11) }, (_, i) => ({
    row: unsignedAt(data, 11 * i, 3),
    t_s: unsignedAt(data, 11 * i + 3, 4),
    value: floatAt(data, 11 * i + 7),
  }))

export const eventBytes = ({ t_s, kind, says }: HistoryEvent): number[] => [
  ...unsignedBytes(t_s, 4),
  EVENT_KINDS.indexOf(kind),
  ...latinBytes(says.slice(0, EVENT_TEXT), EVENT_TEXT),
]
export function readEvents(data: Uint8Array): HistoryEvent[] {
  const size = 5 + EVENT_TEXT
  return Array.from({ length: Math.floor(data.length / size) }, (_, i) => ({
    t_s: unsignedAt(data, size * i, 4),
    kind: EVENT_KINDS[data[size * i + 4] ?? 0] ?? 'event',
    says: latinText(data.subarray(size * i + 5, size * (i + 1))),
  }))
}

export interface HistoryWish {
  /** From when, s since 1970, and for how long. */
  readonly from_s: number
  readonly hours: number
  /** Between two rows, s; a multiple of the device’s own interval is taken. */
  readonly every_s: number
}
export interface HistoryPlan {
  /** First row, how many of the device’s rows between two, and how many in all. */
  readonly first: number
  readonly step: number
  readonly rows: number
  readonly bytes: number
  /** On a line of this speed. */
  readonly seconds: number
}

/** What a download comes to before it is begun. @param line time of a byte and of an exchange besides, ms */
export function planHistory(
  info: HistoryInfo,
  wish: HistoryWish,
  line: { readonly byte_ms: number; readonly exchange_ms: number },
): HistoryPlan {
  const oldest_s = info.newest_s - (info.rows - 1) * info.interval_s
  const at = (t: number) => Math.round((t - oldest_s) / info.interval_s)
  const first = Math.min(info.rows, Math.max(0, at(wish.from_s)))
  const last = Math.min(info.rows - 1, at(wish.from_s + wish.hours * 3600))
  const step = Math.min(65_535, Math.max(1, Math.round(wish.every_s / info.interval_s)))
  const rows = last < first ? 0 : Math.floor((last - first) / step) + 1
  const exchanges = Math.ceil(rows / ROWS_AT_ONCE)
  // Both ways, with preambles, addresses and check bytes.
  const bytes = rows * 11 + exchanges * (5 + 15 + 5 + 12)
  return { first, step, rows, bytes, seconds: (bytes * line.byte_ms + exchanges * line.exchange_ms) / 1000 }
}

/** Starts of the pieces that are still to be read, given the rows that are here. */
export function missingPieces(plan: HistoryPlan, here: ReadonlySet<number>): { from: number; count: number }[] {
  const pieces: { from: number; count: number }[] = []
  for (let i = 0; i < plan.rows; i++) {
    const row = plan.first + i * plan.step
    if (here.has(row)) continue
    const last = pieces.at(-1)
    if (last && last.from + last.count * plan.step === row && last.count < ROWS_AT_ONCE) last.count++
    else pieces.push({ from: row, count: 1 })
  }
  return pieces
}
