// What was really read, and which single fault explains it best; and where to measure next when two explain it equally
// well.
import { attempt, Refusal } from '../refusal/index.ts'
import { endsOf, topologyOf, type Part, type Topology } from '../circuit/index.ts'
import { EARTH, energise, variantsOf, type Conditions, type Energised } from './energise.ts'
import { faultsOf, type Fault } from './faults.ts'
import type { Wiring } from './record.ts'
import { sure } from '../sure/index.ts'

/** A reading at the loop: volts from red to black, or mA along a conductor from its first end to its second. */
export type LoopReading =
  | { readonly of: 'volts'; readonly red: string; readonly black: string; readonly value: number }
  | { readonly of: 'current'; readonly conductor: string; readonly value: number }
export type Spot = LoopReading extends infer R ? (R extends LoopReading ? Omit<R, 'value'> : never) : never

/** What a hand meter’s reading is good for: 1 % and a little, in V and mA. */
export const spread = (value: number): number => 0.01 * Math.abs(value) + 0.05

export interface Explanation {
  readonly fault: Fault
  /** The figure found, in the fault’s unit. */
  readonly figure?: number
  /** Mean square of (predicted − read)/spread; 1 and below is within what a meter is good for. */
  readonly misfit: number
  /** Predicted readings, in their order. */
  readonly predicts: readonly number[]
  readonly energised: Energised
}

export interface Ranking {
  /** Best first. Explanations that the readings cannot tell apart stand in one group. */
  readonly groups: readonly (readonly Explanation[])[]
  /** Where to measure next, and what the explanations left expect there. */
  readonly next?: {
    readonly spot: Spot
    readonly expects: readonly { readonly fault: Fault; readonly value: number }[]
  }
}

/** What a spot would read in a solved loop. */
export function readAt(e: Energised, spot: Spot): number {
  if (spot.of === 'current') return e.milliamps(spot.conductor) ?? 0
  return e.between(spot.red, spot.black)
}

function misfitOf(e: Energised, readings: readonly LoopReading[]): { misfit: number; predicts: number[] } {
  const predicts = readings.map((r) => readAt(e, r))
  const sum = readings.reduce((total, r, i) => {
    // Far off is far off: one wild reading must not drown the others.
    const z = Math.min(40, Math.abs(predicts[i]! - r.value) / spread(r.value))
    return total + z * z
  }, 0)
  return { misfit: sum / Math.max(1, readings.length), predicts }
}

const COARSE = 7
const FINE = 7
/** So many of the explanations are worth finding their figure exactly. */
const REFINED = 10

interface Trial extends Explanation {
  /** Place of the figure between its limits, 0 … 1. */
  readonly u: number
  readonly at: (u: number) => Trial | undefined
}

/** A fault that only changes figures leaves the circuit as it hangs together. */
function topologyFor(base: Energised, asDrawn: Topology, parts: readonly Part[]): Topology {
  const same =
    parts.length === base.parts.length &&
    parts.every((p, i) => {
      const before = base.parts[i]!
      if (p === before) return true
      const [[a, b], [c, d]] = [endsOf(p), endsOf(before)]
      return a === c && b === d && p.kind === before.kind
    })
  return same ? asDrawn : topologyOf({ ground: EARTH, parts })
}

/** The loop with one fault, its figure roughly so that it fits the readings best. */
function tryFault({
  solve,
  base,
  asDrawn,
  fault,
  readings,
}: {
  readonly solve: ReturnType<typeof variantsOf>
  readonly base: Energised
  readonly asDrawn: Topology
  readonly fault: Fault
  readonly readings: readonly LoopReading[]
}): Trial | undefined {
  const { low = 0, high = 0, decades = false } = fault.figure ?? {}
  let topology: Topology | undefined
  const at = (u: number): Trial | undefined => {
    const figure = decades ? low * (high / low) ** u : low + (high - low) * u
    const solved = attempt(() => {
      const alter = fault.alter(figure)
      topology ??= topologyFor(base, asDrawn, alter([...base.parts]))
      return solve(alter, topology)
    })
    if (solved instanceof Refusal) return undefined
    return { fault, u, at, energised: solved, ...misfitOf(solved, readings), ...(fault.figure ? { figure } : {}) }
  }
  if (!fault.figure) return at(0)
  let best: Trial | undefined
  for (let i = 0; i < COARSE; i++) best = better(best, at(i / (COARSE - 1)))
  return best
}

const better = (a: Trial | undefined, b: Trial | undefined): Trial | undefined =>
  !a || (b && b.misfit < a.misfit) ? b : a

/** The figure that fits best, by secant steps on what each reading is off, from the best of the coarse ones. */
function refine(coarse: Trial, readings: readonly LoopReading[]): Trial {
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

/** A figure that may be chosen freely fits more by chance, and a rare fault needs better grounds. */
const handicap = (fault: Fault): number => (fault.figure ? 1.5 : 0) - 2 * Math.log(fault.usual)
const scoreOf = (e: Explanation, readings: number): number => e.misfit * readings + handicap(e.fault)

/**
 * Ranks every single fault by how well the loop with it reproduces all readings.
 * @param spots where a next measurement could be made
 */
export function explain(
  wiring: Wiring,
  conditions: Conditions,
  readings: readonly LoopReading[],
  spots: readonly Spot[] = spotsOf(wiring),
): Ranking {
  const base = energise({ wiring, conditions })
  if (!readings.length) return { groups: [] }
  const solve = variantsOf(wiring, conditions, base)
  const asDrawn = topologyOf({ ground: EARTH, parts: base.parts })
  const byScore = (a: Explanation, b: Explanation) => scoreOf(a, readings.length) - scoreOf(b, readings.length)
  const rough = faultsOf(wiring, base).flatMap((fault) => tryFault({ solve, base, asDrawn, fault, readings }) ?? [])
  const figured = rough.filter((e) => e.fault.figure).sort(byScore)
  const ranked = [
    ...rough.filter((e) => !e.fault.figure),
    ...figured.map((e, i) => (i < REFINED ? refine(e, readings) : e)),
  ].sort(byScore)
  const groups: Explanation[][] = []
  for (const e of ranked.slice(0, 40)) {
    const like = groups.find((g) => sameReadings(sure(g[0]), e, readings))
    if (like) like.push(e)
    else groups.push([e])
  }
  const left = ranked
    .filter((e) => scoreOf(e, readings.length) <= scoreOf(sure(ranked[0]), readings.length) + 6)
    .slice(0, 12)
  const next = nextSpot(left, spots, readings)
  return { groups: groups.slice(0, 6), ...(next ? { next } : {}) }
}

const sameReadings = (a: Explanation, b: Explanation, readings: readonly LoopReading[]): boolean =>
  readings.every((r, i) => Math.abs(a.predicts[i]! - b.predicts[i]!) <= spread(r.value))

/** The spot at which the explanations left differ most, counted in what a reading there is good for. */
function nextSpot(
  left: readonly Explanation[],
  spots: readonly Spot[],
  readings: readonly LoopReading[],
): Ranking['next'] {
  if (left.length < 2) return undefined
  let best: { spot: Spot; apart: number } | undefined
  for (const spot of spots) {
    if (readings.some((r) => sameSpot(r, spot))) continue
    const values = left.map((e) => readAt(e.energised, spot))
    let apart = 0
    for (let i = 0; i < values.length; i++)
      for (let j = i + 1; j < values.length; j++) {
        const z = Math.abs(values[i]! - values[j]!) / (spread(values[i]!) + spread(values[j]!))
        // Pairs told apart for certain count once; what matters is how many there are. A current costs a broken loop.
        apart += Math.min(1, z / 2) * (spot.of === 'current' ? 0.8 : 1)
      }
    if (!best || apart > best.apart) best = { spot, apart }
  }
  if (!best || best.apart < 0.5) return undefined
  const { spot } = best
  return { spot, expects: left.slice(0, 6).map((e) => ({ fault: e.fault, value: readAt(e.energised, spot) })) }
}

const sameSpot = (r: LoopReading | Spot, spot: Spot): boolean =>
  r.of === 'current'
    ? spot.of === 'current' && r.conductor === spot.conductor
    : spot.of === 'volts' && r.red === spot.red && r.black === spot.black

/**
 * Where one can measure without taking anything apart: volts between terminals that carry a conductor, current in the
 * conductors.
 */
export function spotsOf(wiring: Wiring): Spot[] {
  const used = [
    ...new Set(wiring.conductors.flatMap((c) => (c.core === 'shield' || !c.from || !c.to ? [] : [c.from, c.to]))),
  ]
  const volts: Spot[] = []
  for (let i = 0; i < used.length; i++)
    for (let j = i + 1; j < used.length; j++) {
      // Leads reach only so far: within a device, or along one conductor.
      const near = used[i]!.split(':')[0] === used[j]!.split(':')[0]
      const joined = wiring.conductors.some(
        (c) => [c.from, c.to].includes(used[i]!) && [c.from, c.to].includes(used[j]!),
      )
      if (near || joined) volts.push({ of: 'volts', red: used[i]!, black: used[j]! })
    }
  const currents = wiring.conductors.flatMap((c): Spot[] =>
    c.core === 'shield' || !c.from || !c.to ? [] : [{ of: 'current', conductor: c.id }],
  )
  return [...volts, ...currents]
}
