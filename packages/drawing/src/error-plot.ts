// The error plot: error in % of span over the range, with the tolerance as a clear band and hatching outside it.
import { formatNumber } from '@calm-loop/core/quantity'
import { worseShare, type Direction, type WholeJudgement } from '@calm-loop/core/check'
import { hatching, valueAxis } from './plot-parts.ts'
import type { Scene, Shape } from './scene.ts'

export interface PlottedReading {
  /** Nominal point, % of range. */
  readonly percent: number
  readonly direction: Direction
  /** % of span. */
  readonly errorPct: number
  /** Standard uncertainty of that error, % of span; 0 or absent: not known. */
  readonly u_pct?: number | undefined
  /** That the true error lies within tolerance, 0 to 1. */
  readonly probabilityInside?: number | undefined
}

/**
 * What of a judgement the plot draws: the places that share the tolerance of the one that errs most against its own.
 */
export function plottedOf(
  judgement: WholeJudgement | null,
  tolerancePct: number,
): Pick<ErrorPlotInput, 'readings' | 'tolerancePct'> {
  const loop = judgement?.loop
  if (!loop) {
    const readings = (judgement?.judged ?? []).map(({ reading: { percent, direction }, worst: { errorPct } }) => ({
      percent,
      direction,
      errorPct,
    }))
    return { readings, tolerancePct }
  }
  const drawn = loop.worst.tolerancePct
  const readings = loop.judged.flatMap(({ reading: { percent, direction }, knots }): PlottedReading[] => {
    const alike = knots.filter((k) => k.tolerancePct === drawn)
    if (!alike.length) return []
    const { errorPct, u_pct, probabilityInside } = alike.reduce(worseShare)
    return [{ percent, direction, errorPct, u_pct, probabilityInside }]
  })
  return { readings, tolerancePct: drawn }
}

export interface ErrorPlotInput {
  readonly readings: readonly PlottedReading[]
  /** ± % of span. */
  readonly tolerancePct: number
  /** As found is drawn open, as left filled. */
  readonly filled: boolean
  /** Points still to come, % of range: ticks on the axis. */
  readonly planned: readonly number[]
  readonly width: number
  readonly height: number
}

const LEFT = 66
const RIGHT = 22
const TOP = 30
const BOTTOM = 50
const MARK = 4.5
/** Below this the key says less, so that it stays inside. */
const NARROW = 460

/** Largest error the plot must show, with head room, % of span. */
export function plotReach(readings: readonly PlottedReading[], tolerancePct: number): number {
  return Math.max(tolerancePct * 1.6, ...readings.map((r) => (Math.abs(r.errorPct) + 2 * (r.u_pct ?? 0)) * 1.15))
}

/** What surely passes or surely fails is not written beside its point. */
const [HOPELESS, SURE] = [0.005, 0.95]
/** The expanded uncertainty (k = 2) as a bar; how probable it is that the loop is inside, where that is a question. */
function doubtOf(r: PlottedReading, x: (percent: number) => number, y: (error: number) => number): Shape[] {
  if (!r.u_pct) return []
  // Up and down of one point lie beside one another.
  const at = x(r.percent) + (r.direction === 'up' ? -1.5 : 1.5)
  const [top, foot] = [y(r.errorPct + 2 * r.u_pct), y(r.errorPct - 2 * r.u_pct)]
  const line = (x1: number, y1: number, x2: number, y2: number): Shape => ({
    kind: 'line',
    x1,
    y1,
    x2,
    y2,
    stroke: 'signal',
    width: 1.5,
  })
  const p = r.probabilityInside
  // At the right edge there is room on the left only: one above the other.
  const left = r.direction === 'up' || r.percent > 85
  const lower = r.direction === 'down' && r.percent > 85
  return [
    line(at, top, at, foot),
    line(at - 4, top, at + 4, top),
    line(at - 4, foot, at + 4, foot),
    ...(p === undefined || p >= SURE || p < HOPELESS
      ? []
      : [
          {
            kind: 'text' as const,
            x: at + (left ? -8 : 8),
            y: y(r.errorPct) + (lower ? 18 : 4),
            text: `${formatNumber(100 * p, { decimals: 0 })} %`,
            size: 13,
            anchor: left ? ('end' as const) : ('start' as const),
            fill: 'signal' as const,
            mono: true,
          },
        ]),
  ]
}

/** Draws the plot; it grows as readings come, and rescales when one lies far out. */
export function errorPlot(input: ErrorPlotInput): Scene {
  const { readings, tolerancePct: tol, width, height } = input
  const reach = plotReach(readings, tol)
  const w = width - LEFT - RIGHT
  const h = height - TOP - BOTTOM
  const x = (percent: number) => LEFT + 14 + (percent / 100) * (w - 28)
  const y = (error: number) => TOP + h / 2 - (error / reach) * (h / 2)
  const shapes: Shape[] = [
    hatching(LEFT, TOP, w, y(tol) - TOP),
    hatching(LEFT, y(-tol), w, TOP + h - y(-tol)),
    { kind: 'rect', x: LEFT, y: y(tol), w, h: y(-tol) - y(tol), fill: 'sheet', stroke: 'none' },
    { kind: 'line', x1: LEFT, y1: y(tol), x2: LEFT + w, y2: y(tol), stroke: 'second', dash: '1 0' },
    { kind: 'line', x1: LEFT, y1: y(-tol), x2: LEFT + w, y2: y(-tol), stroke: 'second', dash: '1 0' },
    { kind: 'line', x1: LEFT, y1: y(0), x2: LEFT + w, y2: y(0), stroke: 'ink' },
    { kind: 'text', x: LEFT - 62, y: 16, text: 'error, % of span', size: 14, fill: 'second' },
    {
      kind: 'text',
      x: LEFT + w,
      y: 14,
      text: `tolerance ±${formatNumber(tol, { decimals: 3, trim: true })} %`,
      size: 14,
      anchor: 'end',
      fill: 'second',
    },
  ]
  shapes.push(...valueAxis({ left: LEFT, reach, y }))
  const planned = [...new Set([...input.planned, ...readings.map((r) => r.percent)])].sort((a, b) => a - b)
  planned.forEach((percent) => {
    shapes.push({ kind: 'line', x1: x(percent), y1: TOP + h, x2: x(percent), y2: TOP + h + 5, stroke: 'second' })
    shapes.push({
      kind: 'text',
      x: x(percent),
      y: TOP + h + 19,
      text: `${formatNumber(percent, { decimals: 1, trim: true })} %`,
      size: 14,
      anchor: 'middle',
      fill: 'second',
      mono: true,
    })
  })
  for (const direction of ['up', 'down'] as const) {
    const line = readings.filter((r) => r.direction === direction)
    if (line.length > 1)
      shapes.push({
        kind: 'path',
        stroke: 'signal',
        width: 1.5,
        dash: direction === 'up' ? '1 0' : '5 4',
        d: line.map((r, i) => `${i ? 'L' : 'M'}${x(r.percent).toFixed(1)} ${y(r.errorPct).toFixed(1)}`).join(''),
      })
  }
  for (const r of readings) shapes.push(...doubtOf(r, x, y))
  for (const r of readings)
    shapes.push({
      kind: 'rect',
      x: x(r.percent) - MARK,
      y: y(r.errorPct) - MARK,
      w: MARK * 2,
      h: MARK * 2,
      stroke: 'signal',
      width: 2,
      fill: input.filled ? 'signal' : 'sheet',
    })
  const keyY = height - 4
  shapes.push({
    kind: 'text',
    x: LEFT + w,
    y: keyY,
    text: readings.some((r) => r.u_pct)
      ? width < NARROW
        ? 'up ———   down – – –   bars: ±U, k = 2'
        : 'up ———   down – – –   bars: ±U (k = 2); %: probably inside'
      : 'up ———   down – – –   of range',
    size: 14,
    anchor: 'end',
    fill: 'second',
  })
  const worst = readings.reduce<PlottedReading | undefined>(
    (a, r) => (!a || Math.abs(r.errorPct) > Math.abs(a.errorPct) ? r : a),
    undefined,
  )
  return {
    width,
    height,
    shapes,
    title: worst
      ? `Error plot of ${readings.length} readings: largest error ` +
        `${formatNumber(worst.errorPct, { sign: true })} % of span at ${worst.percent} % ${worst.direction}, ` +
        `tolerance ±${tol} %.`
      : `Empty error plot, tolerance ±${tol} %.`,
  }
}
