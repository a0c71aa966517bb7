// Counting half a million changes, and reading two million lines of a file, take longer than a frame: both are done
// here.
import { coreTrain, gapsText, type EdgeTrain } from '@calm-loop/contract'
import {
  countReport,
  edgeReader,
  type BadRow,
  type Calendar,
  type CountAsk,
  type CountReport,
} from '@calm-loop/core/discrete'
import { expose } from 'comlink'
import Papa from 'papaparse'

/** This device's own calendar. */
const calendar: Calendar = {
  dayOf(ms) {
    const t = new Date(ms)
    return { y: t.getFullYear(), m: t.getMonth() + 1, d: t.getDate(), weekday: t.getDay() }
  },
  moment: (y, m, d, minutes) => new Date(y, m - 1, d, 0, minutes).getTime(),
}

export interface FileRead {
  readonly rows: number
  readonly accepted: number
  readonly unchanged: number
  readonly badCount: number
  readonly bad: readonly BadRow[]
  readonly withoutZone: number
  readonly startMs: number | undefined
  readonly endMs: number | undefined
  readonly startState: boolean
  readonly gaps: string
}

const api = {
  report(
    trains: readonly Pick<EdgeTrain, 'startMs' | 'startState' | 'gaps'>[],
    terms: Omit<CountAsk, 'trains'>,
    told: (share: number) => void,
  ): CountReport | undefined {
    return countReport({ ...terms, trains: trains.map(coreTrain) }, calendar, told)
  },
  /** Reads an edge log; nothing is stored. Rejects when the file cannot be read at all. */
  readFile(file: File, told: (share: number) => void): Promise<FileRead> {
    const reader = edgeReader(calendar.moment)
    let line = 0
    return new Promise((resolve, reject) =>
      Papa.parse<string[]>(file, {
        chunk({ data, meta }) {
          for (const cells of data) {
            line++
            if (cells.length > 1 || cells[0]?.trim()) reader.row(line, cells)
          }
          told(Math.min(1, meta.cursor / file.size))
        },
        complete() {
          const { train, end_ms, ...report } = reader.report()
          resolve({
            ...report,
            startMs: train?.start_ms,
            endMs: end_ms,
            startState: train?.startState ?? false,
            gaps: train ? gapsText(train.gaps_ms) : '',
          })
        },
        error: reject,
      }),
    )
  },
}
export type CountWorker = typeof api
expose(api)
