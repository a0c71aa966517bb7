// What a survey comes to: mean, ends and standstills of its flow, the time that nobody logged, what the meter heard.

/** Time in ms since 1970, flow, total, sound speed in m/s, signal in %; null where the meter did not show it. */
export type LoggedRow = readonly [number, number | null, number, number | null, number | null]

export interface SurveyFigures {
  readonly rows: number
  /** First to last row, s. */
  readonly lasts_s: number
  /** Of it, in which flow was seen at all, s. */
  readonly seen_s: number
  /** Not logged, or without a signal, s. */
  readonly unseen_s: number
  /** In which the flow seen was none, s. */
  readonly still_s: number
  /** Over the time seen; undefined where nothing was. */
  readonly mean: number | undefined
  readonly least: number | undefined
  readonly most: number | undefined
  readonly soundSpeed: { readonly low: number; readonly high: number } | undefined
  readonly leastSignal: number | undefined
}

/** A pause longer than this was not logged: three intervals and 2 s. */
export const gapOf = (interval_s: number): number => 3 * interval_s + 2

/** Stretches without a gap and with a flow, of rows in time order. */
export function stretches(rows: readonly LoggedRow[], interval_s: number): LoggedRow[][] {
  const found: LoggedRow[][] = []
  let last: LoggedRow | undefined
  for (const row of rows) {
    const whole = last && last[1] !== null && (row[0] - last[0]) / 1000 <= gapOf(interval_s)
    if (row[1] !== null) {
      if (whole) found.at(-1)?.push(row)
      else found.push([row])
    }
    last = row
  }
  return found
}

/** @param rows in time order */
export function surveyFigures(rows: readonly LoggedRow[], interval_s: number): SurveyFigures {
  let [seen_s, still_s, sum] = [0, 0, 0]
  for (const stretch of stretches(rows, interval_s))
    stretch.forEach((row, i) => {
      const before = stretch[i - 1]
      if (!before) return
      const dt = (row[0] - before[0]) / 1000
      seen_s += dt
      sum += (row[1] ?? 0) * dt
      if (row[1] === 0) still_s += dt
    })
  const values = (of: (row: LoggedRow) => number | null) => rows.flatMap((row) => of(row) ?? [])
  const [flows, speeds, signals] = [values((r) => r[1]), values((r) => r[3]), values((r) => r[4])]
  const low = (of: readonly number[]) =>
    of.reduce<number | undefined>((a, b) => (a === undefined || b < a ? b : a), undefined)
  const high = (of: readonly number[]) =>
    of.reduce<number | undefined>((a, b) => (a === undefined || b > a ? b : a), undefined)
  const [slow, fast] = [low(speeds), high(speeds)]
  const lasts_s = rows.length ? ((rows.at(-1)?.[0] ?? 0) - (rows[0]?.[0] ?? 0)) / 1000 : 0
  return {
    rows: rows.length,
    lasts_s,
    seen_s,
    unseen_s: Math.max(0, lasts_s - seen_s),
    still_s,
    mean: seen_s > 0 ? sum / seen_s : flows[0],
    least: low(flows),
    most: high(flows),
    soundSpeed: slow === undefined || fast === undefined ? undefined : { low: slow, high: fast },
    leastSignal: low(signals),
  }
}

/** Bytes of one row in the file of a survey: time, flow, total, sound speed, signal. */
const ROW_BYTES = 64
/** What a survey of these hours will come to. */
export const surveyPlan = (hours: number, interval_s: number): { readonly rows: number; readonly bytes: number } => {
  const rows = Math.floor((hours * 3600) / interval_s) + 1
  return { rows, bytes: rows * ROW_BYTES }
}
