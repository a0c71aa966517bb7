// A device’s own past, read in pieces: what is here stays here when the line breaks.
import type { DeviceHistory } from '@calm-loop/contract'
import {
  askRows,
  EVENTS_AT_ONCE,
  HISTORY,
  missingPieces,
  planHistory,
  readEvents,
  readInfo,
  readRows,
  type HistoryEvent,
  type HistoryInfo,
  type HistoryPlan,
  type HistoryRow,
  type HistoryWish,
} from '@calm-loop/core/hart'
import { unsignedBytes } from '@calm-loop/core/bytes'

/** Asks the device; undefined where it does not answer, or refuses. */
export type AskDevice = (command: number, data: Uint8Array) => Promise<Uint8Array | undefined>

export interface History {
  /** Reads how much there is, and all events. Says whether the device keeps a past. */
  look(ask: AskDevice): Promise<boolean>
  /** Reads what is missing, piece by piece; ends early when `goOn` says so, or nothing is answered. */
  download(ask: AskDevice, wish: HistoryWish, goOn: (done: number, of: number) => boolean): Promise<'whole' | 'broken'>
  view(line: DeviceHistory['line'], unit: string): DeviceHistory
}

export function historyOf(): History {
  let info: HistoryInfo | undefined
  let events: HistoryEvent[] = []
  const rows = new Map<number, HistoryRow>()
  let plan: HistoryPlan | undefined
  const missing = () => (plan ? missingPieces(plan, new Set(rows.keys())) : [])
  return {
    async look(ask) {
      const told = await ask(HISTORY.info, new Uint8Array())
      if (!told) return false
      const now = readInfo(told)
      // Rows are numbered from the oldest: when that moves on, the numbers here are of another past.
      if (info && now.newest_s !== info.newest_s) rows.clear()
      info = now
      const read: HistoryEvent[] = []
      for (let from = 0; from < info.events; from += EVENTS_AT_ONCE) {
        const some = await ask(HISTORY.events, Uint8Array.from(unsignedBytes(from, 2)))
        if (!some) break
        read.push(...readEvents(some))
      }
      events = read
      return true
    },
    async download(ask, wish, goOn) {
      if (!info) return 'broken'
      plan = planHistory(info, wish, { byte_ms: 0, exchange_ms: 0 })
      const pieces = missing()
      const of = pieces.reduce((sum, p) => sum + p.count, 0)
      let done = 0
      for (const { from, count } of pieces) {
        if (!goOn(done, of)) return 'broken'
        const told = await ask(HISTORY.rows, Uint8Array.from(askRows(from, plan.step, count)))
        if (!told) return 'broken'
        for (const row of readRows(told)) rows.set(row.row, row)
        done += count
      }
      return 'whole'
    },
    view: (line, unit) => ({
      info: info ?? null,
      line,
      unit,
      events,
      rows: [...rows.values()].sort((a, b) => a.t_s - b.t_s).map((r) => [r.t_s, r.value]),
      missing: missing().reduce((sum, p) => sum + p.count, 0),
    }),
  }
}
