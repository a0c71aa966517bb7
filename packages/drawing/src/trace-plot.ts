// The trace of a survey: flow over the time of day, broken where nobody logged.
import { stretches, type LoggedRow } from '@calm-loop/core/flow'
import { decimalsOfSpan, formatNumber, unitOf } from '@calm-loop/core/quantity'
import { hatching, niceStep } from './plot-parts.ts'
import type { Scene, Shape } from './scene.ts'

export interface TracePlotInput {
  readonly rows: readonly LoggedRow[]
  readonly interval_s: number
  /** Of the flow. */
  readonly unit: string
  readonly width: number
  readonly height: number
  /** A moment as its reader writes it. */
  readonly clock: (ms: number) => string
}

const [LEFT, RIGHT, TOP, BOTTOM] = [66, 14, 30, 26]

/** A row for each pixel at most: the least and the most that it holds. */
function thinned(stretch: readonly LoggedRow[], columns: (t: number) => number): LoggedRow[] {
  const kept: LoggedRow[] = []
  let [low, high]: (LoggedRow | undefined)[] = []
  let column: number | undefined
  const close = () => {
    if (low && high) kept.push(...(low === high ? [low] : low[0] < high[0] ? [low, high] : [high, low]))
  }
  for (const row of stretch) {
    const at = Math.round(columns(row[0]))
    if (at !== column) {
      close()
      ;[column, low, high] = [at, row, row]
    }
    if ((row[1] ?? 0) < (low?.[1] ?? 0)) low = row
    if ((row[1] ?? 0) > (high?.[1] ?? 0)) high = row
  }
  close()
  return kept
}

/** Draws it; an empty frame where nothing was logged yet. */
export function tracePlot({ rows, interval_s, unit, width, height, clock }: TracePlotInput): Scene {
  const flows = rows.flatMap((r) => r[1] ?? [])
  const least = flows.reduce((a, b) => Math.min(a, b), 0)
  const most = flows.reduce((a, b) => Math.max(a, b), 0)
  const span = Math.max(most - least, 1e-9)
  const [w, h] = [width - LEFT - RIGHT, height - TOP - BOTTOM]
  const [first, last] = [rows[0]?.[0] ?? 0, rows.at(-1)?.[0] ?? 1]
  const x = (t: number) => LEFT + ((t - first) / Math.max(1, last - first)) * w
  const y = (v: number) => TOP + h - ((v - least) / (span * 1.08)) * h
  const parts = stretches(rows, interval_s)
  const step = niceStep(span / 3)
  const decimals = decimalsOfSpan(span, 0)
  const ticks = Array.from({ length: 9 }, (_, i) => (Math.ceil(least / step) + i) * step).filter((v) => v <= most)
  const shapes: Shape[] = [
    { kind: 'text', x: 4, y: 16, text: `flow, ${unitOf(unit).label}`, size: 14, fill: 'second' },
    ...ticks.flatMap((v): Shape[] => [
      { kind: 'line', x1: LEFT, y1: y(v), x2: LEFT + w, y2: y(v), stroke: v === 0 ? 'ink' : 'hairline' },
      {
        ...{ kind: 'text', x: LEFT - 8, y: y(v) + 4, text: formatNumber(v, { decimals, trim: true }), size: 14 },
        ...{ anchor: 'end', fill: 'second', mono: true },
      },
    ]),
    // Between two stretches nobody knows.
    ...parts.flatMap((part, i) => {
      const [end, next] = [part.at(-1)?.[0], parts[i + 1]?.[0]?.[0]]
      const wide = end !== undefined && next !== undefined && x(next) - x(end) > 2
      return wide ? [hatching(x(end), TOP, x(next) - x(end), h)] : []
    }),
    ...parts.map((part): Shape => {
      const points = thinned(part, x).map((r) => `${x(r[0]).toFixed(1)} ${y(r[1] ?? 0).toFixed(1)}`)
      return { kind: 'path', d: `M${points.join('L')}${points.length === 1 ? 'h1' : ''}`, stroke: 'signal', width: 1.8 }
    }),
    ...(rows.length
      ? [first, last].map((t, i): Shape => ({
          ...{ kind: 'text', x: i ? LEFT + w : LEFT, y: height - 6, text: clock(t), size: 14 },
          ...{ anchor: i ? 'end' : 'start', fill: 'second' },
        }))
      : []),
  ]
  const ends = flows.length
    ? `between ${formatNumber(least, { decimals, trim: true })} and ${formatNumber(most, { decimals, trim: true })}`
    : 'none yet'
  const broken = parts.length > 1 ? `, in ${parts.length} stretches` : ''
  return { width, height, title: `Flow of the survey in ${unitOf(unit).label}: ${ends}${broken}.`, shapes }
}
