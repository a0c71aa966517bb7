// The plan of a check: which points, in which direction, in what order.
import type { Direction } from './multi-point-check.ts'

export interface PlannedPoint {
  /** Place in the order of work, from 0. */
  readonly index: number
  /** Per cent of range. */
  readonly percent: number
  readonly direction: Direction
}

/** The points up, then the same points down. The default plan is 0, 25, 50, 75, 100 %. */
export function upAndDown(percents: readonly number[] = [0, 25, 50, 75, 100]): PlannedPoint[] {
  const up = [...percents].sort((a, b) => a - b)
  return [
    ...up.map((percent) => ({ percent, direction: 'up' as const })),
    ...up.reverse().map((percent) => ({ percent, direction: 'down' as const })),
  ].map((point, index) => ({ index, ...point }))
}

/** A planned point as a person says it, e.g. `25 % up`. */
export function pointWords(point: { readonly percent: number; readonly direction: Direction }): string {
  return `${point.percent} % ${point.direction}`
}

/** The plan of a discrete check: the target brought up and taken away again, so many times. */
export function backAndForth(times: number): PlannedPoint[] {
  return Array.from({ length: 2 * times }, (_, index) =>
    index % 2 === 0 ? { index, percent: 100, direction: 'up' } : { index, percent: 0, direction: 'down' },
  )
}

/** Whether a planned point of a discrete check is one with the target there. */
export const withTarget = (point: { readonly percent: number }): boolean => point.percent > 50

/** A planned point of a discrete check as a person says it, e.g. `target brought up, 2nd time`. */
export function targetWords(point: { readonly index: number; readonly percent: number }): string {
  const time = Math.floor(point.index / 2) + 1
  const nth = ['1st', '2nd', '3rd'][time - 1] ?? `${time}th`
  return `target ${withTarget(point) ? 'brought up' : 'taken away'}, ${nth} time`
}
