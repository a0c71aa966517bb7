// The thread: where rings and dots sit on the scales, and the small drawing of it for lists and certificates.
import { formatNumber, unitOf } from '@calm-loop/core/quantity'
import type { Knot, KnotValue } from '@calm-loop/core/thread'
import type { Scene, Shape } from './scene.ts'

/**
 * Place of a value on its scale: 0 at the range's low end, 1 at its high end; beyond the ends it is held there and
 * `beyond` says which way.
 */
export function placeOnScale(
  value: number,
  low: number | undefined,
  high: number | undefined,
): { at: number; beyond: -1 | 0 | 1 } | undefined {
  if (low === undefined || high === undefined || low === high) return undefined
  const at = (value - low) / (high - low)
  if (at < -0.06) return { at: -0.06, beyond: -1 }
  if (at > 1.06) return { at: 1.06, beyond: 1 }
  return { at, beyond: 0 }
}

export interface StripKnot {
  readonly knot: Knot
  readonly low: number | undefined
  readonly high: number | undefined
  readonly expected: KnotValue
  readonly read?: number | undefined
}

/** The thread as a still drawing with its figures. */
export function threadStrip(knots: readonly StripKnot[], width: number, height: number): Scene {
  const top = 44
  const bottom = height - 48
  const step = width / knots.length
  const x = (i: number) => step * (i + 0.5)
  const y = (at: number) => bottom - at * (bottom - top)
  const shapes: Shape[] = []
  const joined = (tone: 'ink' | 'signal', points: (readonly [number, number])[]) => {
    if (points.length > 1)
      shapes.push({
        kind: 'path',
        stroke: tone,
        width: 1.2,
        d: points.map(([px, py], i) => `${i ? 'L' : 'M'}${px.toFixed(1)} ${py.toFixed(1)}`).join(''),
      })
  }
  const rings: (readonly [number, number])[] = []
  const dots: (readonly [number, number])[] = []
  knots.forEach((k, i) => {
    const show = (value: number) => formatNumber(value, { decimals: k.knot.decimals })
    const unit = unitOf(k.knot.unit).label
    shapes.push({
      kind: 'text',
      x: x(i),
      y: 14,
      text: k.knot.name,
      size: 10,
      anchor: 'middle',
      fill: 'ink',
      bold: true,
    })
    shapes.push({ kind: 'text', x: x(i), y: 27, text: unit, size: 10, anchor: 'middle', fill: 'second' })
    shapes.push({ kind: 'line', x1: x(i), y1: top, x2: x(i), y2: bottom, stroke: 'second', width: 1 })
    for (const end of [0, 1])
      shapes.push({ kind: 'line', x1: x(i) - 4, y1: y(end), x2: x(i) + 4, y2: y(end), stroke: 'second', width: 1 })
    const expected = k.expected.known ? placeOnScale(k.expected.value, k.low, k.high) : undefined
    const read = k.read === undefined ? undefined : placeOnScale(k.read, k.low, k.high)
    if (expected) rings.push([x(i), y(expected.at)])
    if (read) dots.push([x(i), y(read.at)])
    shapes.push({
      kind: 'text',
      x: x(i),
      y: bottom + 18,
      text: k.expected.known ? show(k.expected.value) : '—',
      size: 10,
      anchor: 'middle',
      fill: 'ink',
      mono: true,
    })
    if (k.read !== undefined)
      shapes.push({
        kind: 'text',
        x: x(i),
        y: bottom + 32,
        text: show(k.read),
        size: 10,
        anchor: 'middle',
        fill: 'signal',
        mono: true,
      })
  })
  joined('ink', rings)
  joined('signal', dots)
  for (const [rx, ry] of rings)
    shapes.push({ kind: 'circle', x: rx, y: ry, r: 4.5, stroke: 'ink', width: 1.5, fill: 'sheet' })
  for (const [dx, dy] of dots) shapes.push({ kind: 'circle', x: dx, y: dy, r: 2.8, fill: 'signal' })
  shapes.push({
    kind: 'text',
    x: 2,
    y: height - 4,
    text: 'ring and upper figure: expected; dot and lower figure: read',
    size: 9,
    fill: 'second',
  })
  return { width, height, shapes, title: 'Thread from the process to the controller, expected and read.' }
}
