// What a loop as drawn leaves for its transmitter: everything in it counts, wherever it stands.
import type { Part } from '../circuit/index.ts'
import { energise, type Conditions } from './energise.ts'
import { feedOf, outputsOf, type Output } from './loops.ts'
import type { Wiring } from './record.ts'
import { refOf, typeOf } from './types.ts'

/** The drawn circuit as its output sees it: a voltage behind a resistance. */
export interface Supplied {
  /**
   * Volts at the transmitter’s terminals with no current; of an output that drives the loop itself, what it can reach.
   */
  readonly openV: number
  /** Resistance of all that stands outside of it, Ω. */
  readonly outsideOhm: number
}

/** Small currents, at which no supply gives way and every diode conducts, mA. */
export const PROBES_mA = [1, 2] as const
/** Below it nothing feeds the loop, V. */
const LEAST_V = 1

/** Where its current leaves the device: behind the test diode, where it has one in that lead. */
function leavesAt(output: Output): string {
  const inside = typeOf(output.device)?.inside ?? []
  const diode = inside.find((p) => p.part === 'diode' && refOf(output.device.id, p.anode) === output.minus)
  return diode?.part === 'diode' ? refOf(output.device.id, diode.cathode) : output.minus
}

/** The output replaced by one that drives so much, whatever it is left with. */
export function drawing(output: Output, mA: number) {
  return (parts: Part[]): Part[] =>
    parts.map((p): Part => {
      if (p.id !== output.part) return p
      const { plus, minus } = output
      return output.kind === 'sinks'
        ? { kind: 'loop-transmitter', id: p.id, plus, minus, mA, liftOffV: 1e-3, reverse: 'blocks' }
        : { ...p, kind: 'current-output', id: p.id, plus, minus, mA, maxV: 1000 }
    })
}

/**
 * Voltage and resistance that the circuit as drawn shows to the output that drives its current: from two small
 * currents through it.
 * Undefined where nothing feeds it, or where it drives into nothing.
 * @throws Refusal `no-solution`
 */
export function suppliedBy(wiring: Wiring, conditions: Omit<Conditions, 'mA'>): Supplied | undefined {
  const output = outputsOf(wiring).find((o) => o.kind !== 'repeats')
  if (!output) return undefined
  const minus = leavesAt(output)
  const base = energise({ wiring, conditions: { ...conditions, mA: PROBES_mA[0] } })
  const [low, high] = PROBES_mA.map((mA) =>
    energise({ wiring, conditions: { ...conditions, mA }, alter: drawing(output, mA), start: base.powered }).between(
      output.plus,
      minus,
    ),
  ) as [number, number]
  const step_A = (PROBES_mA[1] - PROBES_mA[0]) / 1000
  if (output.kind === 'drives') {
    if (!feedOf(wiring, { ...conditions, mA: 1 }, output, base).closed) return undefined
    return { openV: conditions.figures['maxV'] ?? 0, outsideOhm: (high - low) / step_A }
  }
  const outsideOhm = (low - high) / step_A
  const openV = low + (outsideOhm * PROBES_mA[0]) / 1000
  return openV > LEAST_V && outsideOhm >= 0 ? { openV, outsideOhm } : undefined
}
