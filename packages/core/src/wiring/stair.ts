// The volts of a loop along its way: a stair that falls from the supply’s plus to its minus, step by step.
import { endsOf, type Part } from '../circuit/index.ts'
import { energise, type Conditions, type Energised } from './energise.ts'
import { feedOf, outputsOf, type Output } from './loops.ts'
import type { Device, Wiring } from './record.ts'
import { drawing, PROBES_mA } from './supplied.ts'
import { typeOf } from './types.ts'

/**
 * The device that feeds the first output of a wiring; undefined where nothing does, or more than one.
 * @throws Refusal `no-solution`
 */
export function feederOf(wiring: Wiring, conditions: Omit<Conditions, 'mA'>): Device | undefined {
  const output = outputsOf(wiring).find((o) => o.kind !== 'repeats')
  if (output?.kind !== 'sinks') return undefined
  const first = { ...conditions, mA: PROBES_mA[0] }
  const [source, second] = feedOf(wiring, first, output, energise({ wiring, conditions: first })).sources
  return source && !second ? wiring.devices.find((d) => source.part.startsWith(`${d.id}/`)) : undefined
}

/** One part that the current passes on its way. */
export interface StairStep {
  readonly kind: 'conductor' | 'device' | 'transmitter'
  /** What it is, such as `Home run` or `Input card`. */
  readonly name: string
  /** Conductors, or the device, it is made of. */
  readonly where: readonly string[]
  /** Volts lost in it, at each of the currents asked for; at the transmitter what is left for it. */
  readonly volts: readonly number[]
}
export interface Stair {
  /** Volts at the top, with no current. */
  readonly feedV: number
  readonly currents_mA: readonly number[]
  readonly steps: readonly StairStep[]
}

/** The lift-off margin at one current, as it falls along the loop. */
export interface Margin {
  readonly mA: number
  /** Volts before the first step and behind each of them, with the transmitter taking its lift-off and no more. */
  readonly at: readonly number[]
  /** What is left at the end: below zero, what the transmitter lacks. */
  readonly spare: number
}

/** Volts that a step takes of the margin at one of the stair’s currents. */
export const takes = (step: StairStep, i: number, liftOffV: number): number =>
  step.kind === 'transmitter' ? liftOffV : (step.volts[i] ?? 0)

/** The margin along a stair at each of its currents. */
export const marginsOf = (stair: Stair, liftOffV: number): Margin[] =>
  stair.currents_mA.map((mA, i) => {
    const at = [stair.feedV]
    for (const step of stair.steps) at.push((at.at(-1) ?? 0) - takes(step, i, liftOffV))
    return { mA, at, spare: at.at(-1) ?? 0 }
  })

/** Less than this does not belong to the loop, mA of the one that is probed with. */
const IN_LOOP_mA = 0.5
/** A way that comes no nearer to its end. */
const MOST_STEPS = 300

interface Edge {
  readonly part: Part
  readonly from: string
  readonly to: string
}

interface LoopEnds {
  readonly top: string
  readonly bottom: string
  /** The output that drives the current is no part of its way. */
  readonly without?: string
}

/** The parts that carry the loop’s current, in its order, from one node to another. */
function wayOf(e: Energised, { top, bottom, without }: LoopEnds): Edge[] {
  const edges = e.parts.flatMap((part): Edge[] => {
    if (part.id === without || part.kind === 'source') return []
    const mA = e.solution.parts[part.id]?.mA ?? 0
    if (Math.abs(mA) < IN_LOOP_mA) return []
    const [a, b] = endsOf(part)
    return [mA > 0 ? { part, from: a, to: b } : { part, from: b, to: a }]
  })
  // A supply may feed other things too: the loop’s own current is the one that is probed with.
  const off = (edge: Edge) => Math.abs(Math.abs(e.solution.parts[edge.part.id]?.mA ?? 0) - PROBES_mA[0])
  const way: Edge[] = []
  const seen = new Set<Edge>()
  for (let at = top; at !== bottom && way.length < MOST_STEPS;) {
    const next = edges
      .filter((x) => x.from === at && !seen.has(x))
      .reduce<Edge | undefined>((best, x) => (best && off(best) <= off(x) ? best : x), undefined)
    if (!next) return []
    seen.add(next)
    way.push(next)
    at = next.to
  }
  return way
}

/** Where an edge belongs: its cable, the panel, or its device. */
function placeOf(wiring: Wiring, { part }: Edge): Pick<StairStep, 'kind' | 'name' | 'where'> {
  if (part.id.startsWith('w:')) {
    const conductor = wiring.conductors.find((c) => `w:${c.id}` === part.id)
    const cable = wiring.cables.find((c) => c.id === conductor?.cable)
    return { kind: 'conductor', name: cable?.name ?? 'Panel', where: conductor ? [conductor.id] : [] }
  }
  const device = wiring.devices.find((d) => part.id.startsWith(`${d.id}/`))
  return { kind: 'device', name: device?.name ?? part.id, where: device ? [device.id] : [] }
}

/** Steps of one place that follow each other are one. */
function merged(steps: readonly StairStep[]): StairStep[] {
  const out: StairStep[] = []
  for (const step of steps) {
    const last = out.at(-1)
    if (last && last.kind === step.kind && last.name === step.name)
      out[out.length - 1] = {
        ...last,
        where: [...new Set([...last.where, ...step.where])],
        volts: last.volts.map((v, i) => v + (step.volts[i] ?? 0)),
      }
    else out.push(step)
  }
  return out
}

/** Where the current of a loop starts and where it comes back to: its one supply, or the output that drives it. */
function endsOfLoop(wiring: Wiring, conditions: Conditions, output: Output, base: Energised): LoopEnds | undefined {
  if (output.kind !== 'sinks') return { top: output.plus, bottom: output.minus, without: output.part }
  const { sources } = feedOf(wiring, conditions, output, base)
  const [source, second] = sources
  return source && !second ? { top: source.plus, bottom: source.minus } : undefined
}

/**
 * The stair of the loop’s first output at each current. Volts at a current follow from two small ones, so that a step
 * is told at currents too that the loop could never carry: what is left for the transmitter may be below zero there.
 * Undefined where nothing feeds the loop, more than one supply does, or its way cannot be followed.
 * @param currents_mA from 0 on
 * @throws Refusal `no-solution`
 */
export function stairOf(
  wiring: Wiring,
  conditions: Omit<Conditions, 'mA'>,
  currents_mA: readonly number[],
): Stair | undefined {
  const output = outputsOf(wiring).find((o) => o.kind !== 'repeats')
  if (!output) return undefined
  const first = { ...conditions, mA: PROBES_mA[0] }
  const base = energise({ wiring, conditions: first })
  const ends = endsOfLoop(wiring, first, output, base)
  if (!ends) return undefined
  const [low, high] = PROBES_mA.map((mA) =>
    energise({ wiring, conditions: { ...conditions, mA }, alter: drawing(output, mA), start: base.powered }),
  ) as [Energised, Energised]
  const own = typeOf(output.device)
  const along = wayOf(low, ends)
  const at = (v1: number, v2: number) =>
    currents_mA.map((mA) => v1 + ((v2 - v1) / (PROBES_mA[1] - PROBES_mA[0])) * (mA - PROBES_mA[0]))
  const dropOf = ({ from, to }: Pick<Edge, 'from' | 'to'>) => at(low.between(from, to), high.between(from, to))
  if (!along.length) return undefined
  const steps = along.map((edge): StairStep => {
    // The test diode in its lead belongs to the transmitter: its lift-off is stated over both.
    const device = wiring.devices.find((d) => edge.part.id.startsWith(`${d.id}/`))
    const transmitter = device?.id === output.device.id && own?.role === 'transmitter'
    const place = placeOf(wiring, edge)
    return { ...place, ...(transmitter ? { kind: 'transmitter' as const } : {}), volts: dropOf(edge) }
  })
  return {
    feedV: output.kind === 'sinks' ? low.between(ends.top, ends.bottom) : (conditions.figures['maxV'] ?? 0),
    currents_mA,
    steps: merged(steps),
  }
}
