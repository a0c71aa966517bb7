// The drift plot: what was found and what was left at each check, against the tolerance, and on to the day it is due.
import { dayNumber, errorAt, type DueAgain, type Occasion } from '@calm-loop/core/check'
import { formatNumber } from '@calm-loop/core/quantity'
import { hatching, valueAxis } from './plot-parts.ts'
import type { Scene, Shape } from './scene.ts'

export interface DriftPlotInput {
  readonly due: Pick<DueAgain, 'occasions' | 'drift' | 'history'>
  /** ± , that holds now. */
  readonly tolerancePct: number
  /** The day it is due again, `2027-11-28`; null before the first check. */
  readonly nextDue: string | null
  /** What the errors are of, such as `error, % of span`. */
  readonly measure: string
  readonly width: number
  readonly height: number
}

const [LEFT, RIGHT, TOP, BOTTOM] = [66, 22, 30, 50]
const MARK = 4.5
const DAYS_A_YEAR = 365.25

/** A day as a plot writes it: `Nov 2026`. */
const monthWords = (day: number) =>
  new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' })
    .format(new Date(day * 86_400_000))
    .replace('Sept', 'Sep')

interface Mark {
  readonly day: number
  readonly error: number
}
/** What was found and what was left on an occasion, each on its own day; one of them at least. */
interface Placed {
  readonly found: Mark | undefined
  readonly left: Mark | undefined
  /** The last of it. */
  readonly end: Mark
}

/** Errors at the tolerance that holds now. */
function placed(occasions: readonly Occasion[], tolerancePct: number): Placed[] {
  const markOf = (check: Occasion['found']): Mark | undefined => {
    const error = errorAt(check, tolerancePct)
    return check && error !== undefined ? { day: dayNumber(check.day), error } : undefined
  }
  return occasions.flatMap((o) => {
    const [found, left] = [markOf(o.found), markOf(o.left)]
    const end = left ?? found
    return end ? [{ found, left, end }] : []
  })
}

/** Draws it; empty of marks where nothing has an error yet. */
export function driftPlot({ due, tolerancePct: tol, nextDue, measure, width, height }: DriftPlotInput): Scene {
  const marks = placed(due.occasions, tol)
  const all = marks.flatMap(({ found, left }) => [found, left].flatMap((m) => m ?? []))
  const [first, last] = [all[0], all.at(-1)]
  const until = nextDue === null ? undefined : dayNumber(nextDue)
  const from = first?.day ?? 0
  const to = Math.max(from + 30, last?.day ?? 0, until ?? 0)
  const reach = Math.max(tol * 1.6, ...all.map((m) => Math.abs(m.error) * 1.15))
  const w = width - LEFT - RIGHT
  const h = height - TOP - BOTTOM
  const x = (day: number) => LEFT + 14 + ((day - from) / (to - from)) * (w - 28)
  const y = (error: number) => TOP + h / 2 - (error / reach) * (h / 2)
  const shapes: Shape[] = [
    hatching(LEFT, TOP, w, y(tol) - TOP),
    hatching(LEFT, y(-tol), w, TOP + h - y(-tol)),
    { kind: 'rect', x: LEFT, y: y(tol), w, h: y(-tol) - y(tol), fill: 'sheet', stroke: 'none' },
    { kind: 'line', x1: LEFT, y1: y(tol), x2: LEFT + w, y2: y(tol), stroke: 'second' },
    { kind: 'line', x1: LEFT, y1: y(-tol), x2: LEFT + w, y2: y(-tol), stroke: 'second' },
    { kind: 'line', x1: LEFT, y1: y(0), x2: LEFT + w, y2: y(0), stroke: 'ink' },
    { kind: 'text', x: LEFT - 62, y: 16, text: measure, size: 14, fill: 'second' },
    ...valueAxis({ left: LEFT, reach, y }),
  ]
  // What it drifts to by the day it is due, at two spreads to either side.
  if (last && until !== undefined && until > last.day && due.drift) {
    const { driftPctPerDay: mean, driftSpread: s } = due.drift
    const end = (rate: number) => Math.max(-reach, Math.min(reach, last.error + rate * (until - last.day)))
    const [up, down] = [end(mean + 2 * s), end(mean - 2 * s)]
    shapes.push(
      {
        kind: 'path',
        d: `M${x(last.day)} ${y(last.error)}L${x(until)} ${y(up)}L${x(until)} ${y(down)}Z`,
        fill: 'signal',
        opacity: 0.14,
      },
      {
        kind: 'line',
        x1: x(last.day),
        y1: y(last.error),
        x2: x(until),
        y2: y(end(mean)),
        stroke: 'signal',
        dash: '2 4',
      },
    )
  }
  if (until !== undefined && last && until > last.day) {
    shapes.push(
      { kind: 'line', x1: x(until), y1: TOP, x2: x(until), y2: TOP + h, stroke: 'look', width: 1.5, dash: '6 3' },
      { kind: 'text', x: x(until), y: 16, text: `due ${monthWords(until)}`, size: 14, anchor: 'end', fill: 'look' },
    )
  }
  const join = (a: Mark | undefined, b: Mark | undefined, stroke: 'signal' | 'second') =>
    a && b && shapes.push({ kind: 'line', x1: x(a.day), y1: y(a.error), x2: x(b.day), y2: y(b.error), stroke })
  marks.forEach(({ found, left }, i) => {
    join(marks[i - 1]?.end, found, 'signal')
    join(found, left, 'second')
  })
  const mark = (m: Mark | undefined, filled: boolean) =>
    m &&
    shapes.push({
      kind: 'rect',
      x: x(m.day) - MARK,
      y: y(m.error) - MARK,
      w: MARK * 2,
      h: MARK * 2,
      stroke: 'signal',
      width: 2,
      fill: filled ? 'signal' : 'sheet',
    })
  for (const { found, left } of marks) {
    mark(found, false)
    mark(left, true)
  }
  // Days under the plot, as many as there is room for.
  let free = LEFT - 60
  for (const { day } of marks.map((m) => m.end)) {
    shapes.push({ kind: 'line', x1: x(day), y1: TOP + h, x2: x(day), y2: TOP + h + 5, stroke: 'second' })
    const at = Math.min(LEFT + w - 34, Math.max(LEFT + 34, x(day)))
    if (at < free + 92) continue
    free = at
    shapes.push({
      kind: 'text',
      x: at,
      y: TOP + h + 19,
      text: monthWords(day),
      size: 14,
      anchor: 'middle',
      fill: 'second',
      mono: true,
    })
  }
  shapes.push({
    kind: 'text',
    x: LEFT + w,
    y: height - 4,
    text: '□ as found   ■ as left',
    size: 14,
    anchor: 'end',
    fill: 'second',
  })
  return { width, height, title: titleOf(marks, due, tol), shapes }
}

function titleOf(marks: readonly Placed[], { drift }: DriftPlotInput['due'], tol: number): string {
  const error = (e: number) => `${formatNumber(e, { decimals: 3, sign: true })} %`
  const words = marks.map(
    ({ found, left, end }) =>
      `${monthWords(end.day)}: ` +
      [found && `found ${error(found.error)}`, left && `left ${error(left.error)}`].filter(Boolean).join(', '),
  )
  const rate = drift ? ` Drift ${error(drift.driftPctPerDay * DAYS_A_YEAR)} a year.` : ''
  return (
    `Errors over the years, tolerance ±${formatNumber(tol, { decimals: 3, trim: true })} %. ` +
    `${words.join('; ') || 'Nothing measured yet'}.${rate}`
  )
}
