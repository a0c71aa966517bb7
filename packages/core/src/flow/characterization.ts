// A Coriolis sensor's own constants: read as printed, compared digit by digit, judged for a lost decimal point.
import { Refusal } from '../refusal/index.ts'

/** A constant as printed: digits and at most one decimal mark. */
const PRINTED = /^[+-]?\d+(?:[.,]\d+)?(?:e[+-]?\d+)?$/i

/** Value of a constant as printed on a tag; undefined when empty. @throws Refusal `not-a-number` */
export function constantValue(text: string): number | undefined {
  const body = text.trim().replace(/[\s ]/g, '').replace('−', '-')
  if (body === '') return undefined
  if (!PRINTED.test(body)) throw new Refusal('not-a-number', `“${text}” is not a number as printed on a tag.`)
  return Number(body.replace(',', '.'))
}

export interface DigitComparison {
  readonly same: boolean
  /** The same value written with other zeros. */
  readonly equalValue: boolean
  /** Character by character, the marks aligned at the decimal point: tag’s, other’s, and whether they agree. */
  readonly columns: readonly { readonly a: string; readonly b: string; readonly agrees: boolean }[]
}

/** Two printed constants digit by digit; decimal comma and point count as the same mark. */
export function compareDigits(a: string, b: string): DigitComparison {
  const tidy = (t: string) => t.trim().replace(/\s/g, '').replace(',', '.').replace('−', '-')
  const split = (t: string) => {
    const [whole = '', rest] = tidy(t).split('.')
    return { whole, rest: rest === undefined ? '' : `.${rest}` }
  }
  const [x, y] = [split(a), split(b)]
  const wide = Math.max(x.whole.length, y.whole.length)
  const long = Math.max(x.rest.length, y.rest.length)
  const line = (s: { whole: string; rest: string }) => s.whole.padStart(wide) + s.rest.padEnd(long)
  const [p, q] = [line(x), line(y)]
  const columns = Array.from({ length: wide + long }, (_, i) => ({ a: p[i]!, b: q[i]!, agrees: p[i] === q[i] }))
  return { same: tidy(a) === tidy(b), equalValue: Number(tidy(a)) === Number(tidy(b)), columns }
}

/** Sizes of a Coriolis sensor with the flow calibration factors that are usual for them, g/s per µs. */
export const CORIOLIS_SIZES: readonly {
  readonly id: string
  readonly name: string
  readonly flowCal: readonly [number, number]
  readonly fullFlow_kgph: number
}[] = [
  { id: 'DN 6', name: 'DN 6', flowCal: [0.8, 4], fullFlow_kgph: 600 },
  { id: 'DN 15', name: 'DN 15', flowCal: [8, 35], fullFlow_kgph: 4000 },
  { id: 'DN 25', name: 'DN 25', flowCal: [40, 160], fullFlow_kgph: 14_000 },
  { id: 'DN 50', name: 'DN 50', flowCal: [250, 900], fullFlow_kgph: 60_000 },
  { id: 'DN 80', name: 'DN 80', flowCal: [900, 3500], fullFlow_kgph: 200_000 },
]

/**
 * What a factor would have to be multiplied by to be usual for the size: 1 when it is; a power of ten hints at a lost
 * decimal point.
 */
export function lostDecimal(flowCal: number, size: string): { usual: boolean; factor?: number } {
  const row = CORIOLIS_SIZES.find((s) => s.id === size)
  if (!row) return { usual: true }
  const inside = (v: number) => v >= row.flowCal[0] && v <= row.flowCal[1]
  if (inside(flowCal)) return { usual: true }
  for (const factor of [0.1, 0.01, 0.001, 1e-4, 1e-5, 1e-6, 10, 100, 1000])
    if (inside(flowCal * factor)) return { usual: false, factor }
  return { usual: false }
}
