// The multi-point check: error at each reading, worst error, hysteresis, linearity, and the verdict.
import { Refusal } from '../refusal/index.ts'
import { narrowestBandHalfWidth } from './narrowest-band.ts'

export type Direction = 'up' | 'down'

export interface CheckPoint {
  /** True input, in the unit of the range values. */
  readonly applied: number
  /** What was read at the output. */
  readonly output: number
  readonly direction: Direction
}

export interface CheckInput {
  readonly lrv: number
  readonly urv: number
  /** Output at lrv; 4 when not given. */
  readonly outputLow?: number | undefined
  /** Output at urv; 20 when not given. */
  readonly outputHigh?: number | undefined
  /** One or more. */
  readonly points: readonly CheckPoint[]
  /** ± per cent of output span. */
  readonly tolerancePct: number
}

export interface CheckResult {
  /** Per cent of output span, in the order of the points. */
  readonly errorsPct: number[]
  /** Error of largest magnitude, with its sign. */
  readonly maxErrorPct: number
  /** Largest mean up less mean down at one applied value, unsigned; null when no value was met both ways. */
  readonly hysteresisPct: number | null
  /** Independent linearity: half-width of the narrowest straight band, unsigned. */
  readonly linearityPct: number
  readonly pass: boolean
}

const SAME_MAGNITUDE = 1e-9
const TOLERANCE_MET = 1e-9

const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length

/** Ideal output for an applied value on a linear range. */
export function idealOutput({
  applied,
  lrv,
  urv,
  low = 4,
  high = 20,
}: {
  readonly applied: number
  readonly lrv: number
  readonly urv: number
  readonly low?: number
  readonly high?: number
}): number {
  return low + ((applied - lrv) / (urv - lrv)) * (high - low)
}

/**
 * Errors and verdict of readings taken at several applied values, up and down.
 * @throws Refusal `zero-span` (lrv = urv or outputLow = outputHigh), `invalid-input` without points
 * Source: IEC 61298-2 (error, hysteresis), IEC 60770-1; independent linearity as the minimax straight line.
 */
export function multiPointCheck(input: CheckInput): CheckResult {
  const { lrv, urv, outputLow = 4, outputHigh = 20, points, tolerancePct } = input
  if (points.length === 0) throw new Refusal('invalid-input', 'A check needs at least one reading.')
  if (lrv === urv) throw new Refusal('zero-span', 'The range has no span: lower and upper range value are equal.')
  if (outputLow === outputHigh) throw new Refusal('zero-span', 'The output has no span.')
  const span = outputHigh - outputLow
  const errorsPct = points.map(
    (p) => (100 * (p.output - idealOutput({ applied: p.applied, lrv, urv, low: outputLow, high: outputHigh }))) / span,
  )
  const maxErrorPct = errorsPct.reduce((worst, e) => (Math.abs(e) > Math.abs(worst) + SAME_MAGNITUDE ? e : worst))

  const byApplied = new Map<number, { up: number[]; down: number[] }>()
  for (const p of points) {
    const met = byApplied.get(p.applied) ?? { up: [], down: [] }
    met[p.direction].push(p.output)
    byApplied.set(p.applied, met)
  }
  let hysteresisPct: number | null = null
  for (const { up, down } of byApplied.values())
    if (up.length && down.length)
      hysteresisPct = Math.max(hysteresisPct ?? 0, Math.abs((100 * (mean(up) - mean(down))) / span))

  const means = [...byApplied].map(([x, { up, down }]) => [x, mean([...up, ...down])] as const)
  return {
    errorsPct,
    maxErrorPct,
    hysteresisPct,
    linearityPct: Math.abs((100 * narrowestBandHalfWidth(means)) / span),
    pass: Math.abs(maxErrorPct) <= tolerancePct + TOLERANCE_MET,
  }
}

/**
 * A hand-stopped input is never exactly on its nominal point. This moves a reading along the ideal line to the
 * nominal point:
 * its error stays what it was, and readings up and down at the same nominal point can be compared.
 */
export function referToNominal(
  reading: { readonly applied: number; readonly output: number; readonly direction: Direction },
  nominal: number,
  range: { readonly lrv: number; readonly urv: number; readonly outputLow?: number; readonly outputHigh?: number },
): CheckPoint {
  if (range.lrv === range.urv)
    throw new Refusal('zero-span', 'The range has no span: lower and upper range value are equal.')
  const { outputLow = 4, outputHigh = 20 } = range
  const slope = (outputHigh - outputLow) / (range.urv - range.lrv)
  return {
    applied: nominal,
    output: reading.output + slope * (nominal - reading.applied),
    direction: reading.direction,
  }
}
