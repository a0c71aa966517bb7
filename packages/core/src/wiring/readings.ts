// A reading at the loop, where it can be taken, and what it is good for.
import type { Energised } from './energise.ts'
import { shuntsOf } from './loops.ts'
import type { Wiring } from './record.ts'
import { terminalsOf, typeOf } from './types.ts'

/** A reading at the loop: volts from red to black, or mA along a conductor from its first end to its second. */
export type LoopReading =
  | { readonly of: 'volts'; readonly red: string; readonly black: string; readonly value: number }
  | { readonly of: 'current'; readonly conductor: string; readonly value: number }
export type Spot = LoopReading extends infer R ? (R extends LoopReading ? Omit<R, 'value'> : never) : never

/** What a hand meter’s reading is good for: 1 % and a little, in V and mA. */
export const spread = (value: number): number => 0.01 * Math.abs(value) + 0.05

/** What a spot would read in a solved loop. */
export function readAt(e: Energised, spot: Spot): number {
  if (spot.of === 'current') return e.milliamps(spot.conductor) ?? 0
  return e.between(spot.red, spot.black)
}

export const sameSpot = (r: LoopReading | Spot, spot: Spot): boolean =>
  r.of === 'current'
    ? spot.of === 'current' && r.conductor === spot.conductor
    : spot.of === 'volts' && r.red === spot.red && r.black === spot.black

/**
 * Where one can measure without taking anything apart: volts between terminals that carry a conductor, current in the
 * conductors.
 */
export function spotsOf(wiring: Wiring): Spot[] {
  const used = [
    ...new Set([
      ...wiring.conductors.flatMap((c) => (c.core === 'shield' || !c.from || !c.to ? [] : [c.from, c.to])),
      // The terminals of an input can be probed whatever is landed on them.
      ...shuntsOf(wiring).flatMap((s) => (typeOf(s.device)?.role === 'receiver' ? [s.plus, s.minus] : [])),
    ]),
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

/** Minutes that it takes to open what stands in the way, by where the terminals are. */
const TO_OPEN_min = { cabinet: 1, way: 2, field: 3 } as const
/** Minutes more to break a loop, and to close it again. */
const TO_BREAK_min = 6

/** How long a measurement takes, in minutes: volts at open terminals are cheap, a broken loop is dear. */
export function minutesFor(wiring: Wiring, spot: Spot): number {
  const spots = terminalsOf(wiring)
  const place = (ref: string) => TO_OPEN_min[spots.get(ref)?.type.place ?? 'field']
  if (spot.of === 'volts') return Math.max(place(spot.red), place(spot.black))
  const core = wiring.conductors.find((c) => c.id === spot.conductor)
  return TO_BREAK_min + (core ? Math.min(...[core.from, core.to].filter(Boolean).map(place)) : TO_OPEN_min.field)
}

/** Whether a spot is still in the wiring: a reading at a terminal taken out since tells nothing of what is drawn. */
export function isThere(wiring: Wiring, spot: Spot): boolean {
  if (spot.of === 'current') return wiring.conductors.some((c) => c.id === spot.conductor)
  const spots = terminalsOf(wiring)
  return spots.has(spot.red) && spots.has(spot.black)
}
