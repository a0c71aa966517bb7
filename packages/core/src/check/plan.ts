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
