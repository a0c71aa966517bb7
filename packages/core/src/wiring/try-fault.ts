// One fault tried: the loop solved with it, its figure found so that it fits the readings best.
import { attempt, Refusal } from '../refusal/index.ts'
import type { variantsOf } from './energise.ts'
import type { Explanation } from './explanation.ts'
import type { Fault } from './fault.ts'
import { nearest, offBy, type Shown } from './predict.ts'
import { readAt, spread, type LoopReading } from './readings.ts'
import { sure } from '../sure/index.ts'

/** What every fault is tried in. */
export interface Tries {
  readonly solve: ReturnType<typeof variantsOf>
  readonly readings: readonly LoopReading[]
}

export interface Trial extends Explanation {
  /** Place of the figure between its limits, 0 … 1. */
  readonly u: number
  readonly at: (u: number) => Trial | undefined
}

/** Mean square of how far the readings are off what would be shown. */
export function misfitOf(shown: readonly Shown[], readings: readonly LoopReading[]): number {
  const sum = readings.reduce((total, r, i) => {
    // Far off is far off: one wild reading must not drown the others.
    const z = Math.min(40, offBy(shown[i]!, r.value))
    return total + z * z
  }, 0)
  return sum / Math.max(1, readings.length)
}

const COARSE = 7
const FINE = 7

/** The loop with one fault, its figure roughly so that it fits the readings best. */
export function tryFault({ solve, readings }: Tries, fault: Fault, coarse = COARSE): Trial | undefined {
  const { low = 0, high = 0, decades = false } = fault.figure ?? {}
  const at = (u: number): Trial | undefined => {
    const figure = decades ? low * (high / low) ** u : low + (high - low) * u
    const energised = attempt(() => solve(fault.alter(figure)))
    if (energised instanceof Refusal) return undefined
    const shown = readings.map((r, i): Shown => {
      const value = readAt(energised, r)
      return fault.seen?.({ low: value, high: value }, r, i) ?? { low: value, high: value }
    })
    const predicts = shown.map((s, i) => nearest(s, readings[i]!.value))
    const found = { fault, u, at, energised, shown, predicts, misfit: misfitOf(shown, readings) }
    return { ...found, ...(fault.figure ? { figure } : {}) }
  }
  if (!fault.figure) return at(0)
  let best: Trial | undefined
  for (let i = 0; i < coarse; i++) best = better(best, at(i / (coarse - 1)))
  return best
}

const better = (a: Trial | undefined, b: Trial | undefined): Trial | undefined =>
  !a || (b && b.misfit < a.misfit) ? b : a

/** The figure that fits best, by secant steps on what each reading is off, from the best of the coarse ones. */
export function refine(coarse: Trial, readings: readonly LoopReading[]): Trial {
  if (!coarse.fault.figure) return coarse
  const off = (t: Trial) => t.predicts.map((p, i) => (p - readings[i]!.value) / spread(readings[i]!.value))
  let best = coarse
  let other = coarse.at(coarse.u + (coarse.u > 0.5 ? -0.02 : 0.02))
  let [low, high] = [Math.max(0, coarse.u - 1 / (COARSE - 1)), Math.min(1, coarse.u + 1 / (COARSE - 1))]
  for (let i = 0; i < FINE && other; i++) {
    const [z0, z1] = [off(best), off(other)]
    const slope = z0.map((z, k) => (z1[k]! - z) / (sure(other).u - best.u))
    const steep = slope.reduce((sum, j) => sum + j * j, 0)
    if (!(steep > 0)) break
    const u = best.u - slope.reduce((sum, j, k) => sum + j * z0[k]!, 0) / steep
    const next = coarse.at(Math.min(high, Math.max(low, u)))
    if (!next || Math.abs(next.u - best.u) < 1e-5) break
    if (next.misfit < best.misfit) [best, other] = [next, best]
    else {
      // Too far: come closer from that side.
      if (next.u > best.u) high = (best.u + next.u) / 2
      else low = (best.u + next.u) / 2
      other = next
    }
  }
  return best
}
