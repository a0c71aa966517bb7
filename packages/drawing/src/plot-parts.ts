// What the plots have in common: hatching outside of a tolerance, and an axis of errors.
import { formatNumber } from '@calm-loop/core/quantity'
import type { Shape } from './scene.ts'

/** Smallest of 1, 2, 2.5, 5 · 10ⁿ at or above `value`. */
export function niceStep(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  return ([1, 2, 2.5, 5, 10].find((m) => m * power >= value * (1 - 1e-9)) ?? 10) * power
}

export function hatching(x: number, y: number, w: number, h: number): Shape {
  const lines: string[] = []
  for (let start = -h; start < w; start += 9) {
    const a = Math.max(0, start)
    const b = Math.min(w, start + h)
    if (b > a)
      lines.push(
        `M${(x + a).toFixed(1)} ${(y + h - (a - start)).toFixed(1)}L${(x + b).toFixed(1)} ` +
          `${(y + h - (b - start)).toFixed(1)}`,
      )
  }
  return { kind: 'path', d: lines.join(''), stroke: 'hairline', width: 1 }
}

/** Ticks and figures of errors of either sign up to `reach`, left of a plot. */
export function valueAxis({ left, reach, y }: { left: number; reach: number; y: (error: number) => number }): Shape[] {
  const step = niceStep(reach / 3)
  const most = Math.floor(reach / step)
  return Array.from({ length: 2 * most + 1 }, (_, i) => (i - most) * step).flatMap((value): Shape[] => [
    { kind: 'line', x1: left - 4, y1: y(value), x2: left, y2: y(value), stroke: 'second' },
    {
      kind: 'text',
      x: left - 8,
      y: y(value) + 4,
      text: formatNumber(value, { decimals: step < 0.01 ? 3 : step < 1 ? 2 : 1, sign: true }),
      size: 14,
      anchor: 'end',
      fill: 'second',
      mono: true,
    },
  ])
}
