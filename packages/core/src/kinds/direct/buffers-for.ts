// Which buffers a range wants: two that lie about it, or three where it is wide.
import { buffersOf } from '../../analysis/index.ts'
import { USUAL, type Thing } from '../../round/index.ts'
import type { Reader } from '../reader.ts'

/** The usual thing that the buffers of a range are more exactly. */
export const BUFFERS = USUAL.ph.bring[0]?.what ?? ''
/** Of the technical set, those about which a calibration is usually made. */
const STEPS = [4, 7, 10]

/** The names of two or more neighbouring buffers that hold a range between them, as far as any do. */
export function bufferNames(low: number, high: number): readonly string[] {
  const names = buffersOf('technical').filter((b) => STEPS.includes(Math.round(Number(b))))
  const from = Math.max(
    0,
    names.findLastIndex((n) => Number(n) <= low),
  )
  const found = names.findIndex((n) => Number(n) >= high)
  const to = found < 0 ? names.length - 1 : found
  return to > from ? names.slice(from, to + 1) : names.slice(Math.max(0, to - 1), Math.max(0, to - 1) + 2)
}
export function buffersFor(r: Reader): readonly Thing[] {
  const [low, high] = [r.in('lrv', 'pH'), r.in('urv', 'pH')]
  if (low === undefined || high === undefined) return []
  const names = bufferNames(Math.min(low, high), Math.max(low, high))
  return [
    {
      what: `buffers pH ${names.join(', ')}, each in date and shut since it was opened`,
      each: false,
      instead: BUFFERS,
    },
  ]
}
