// What meters would show in a loop with a fault: ranges where nobody can say exactly, as at a transmitter that has
// no current: it may be open, leak or show a diode’s drop, and meter and moisture carry what little flows.
import type { Part } from '../circuit/index.ts'
import { EARTH, type Alter, type Energised } from './energise.ts'
import { readAt, spread, type LoopReading } from './readings.ts'
import type { Wiring } from './record.ts'
import { sure } from '../sure/index.ts'

/** From what to what a display may show. */
export interface Shown {
  readonly low: number
  readonly high: number
}

/** Below it a transmitter is not at work, mA. */
const DEAD_mA = 0.1
/** What a transmitter without its current may be, as a resistance: from open to leaky, Ω. */
const DEAD_OHM = [1e9, 1e8, 3e7, 1e7, 3e6, 1e6, 4e5, 1.5e5] as const
/** A moist cable’s insulation to earth, Ω, where nothing is found fault with. */
const MOIST_OHM = 4e6
/** Resistance of a meter set to volts, from a cheap one to a good one, Ω. */
const METERS_OHM = [1e6, 2e6, 4.5e6, 1e7] as const

/** The worst meter and the best. */
const ENDS = [METERS_OHM[0], METERS_OHM[3]] as const
/** A reading that lies so far outside of all that could be is explained by none of it. */
const FAR = 4

const prefixOf = (id: string) => id.slice(0, id.indexOf('/') + 1)

/** Devices whose transmitter carries nothing in a solved loop, by the head of their parts' ids. */
function deadOf({ parts, solution }: Energised): ReadonlySet<string> {
  return new Set(
    parts.flatMap((p) =>
      p.kind === 'loop-transmitter' && Math.abs(solution.parts[p.id]?.mA ?? 0) < DEAD_mA ? [prefixOf(p.id)] : [],
    ),
  )
}

/** Those transmitters as a resistance, with no diode beside them. */
const asOhm =
  (dead: ReadonlySet<string>, ohm: number): Alter =>
  (parts) =>
    parts.map((p): Part => {
      if (!dead.has(prefixOf(p.id))) return p
      if (p.kind === 'loop-transmitter') return { kind: 'resistor', id: p.id, a: p.plus, b: p.minus, ohm }
      return p.kind === 'diode' ? { kind: 'resistor', id: p.id, a: p.anode, b: p.cathode, ohm: 1 } : p
    })

/** Those transmitters with nothing of their test diode to be seen. */
const withoutDiode =
  (dead: ReadonlySet<string>): Alter =>
  (parts) =>
    parts.map((p): Part =>
      p.kind === 'diode' && dead.has(prefixOf(p.id))
        ? { kind: 'resistor', id: p.id, a: p.anode, b: p.cathode, ohm: 1 }
        : p,
    )

/** Every core of a cable leaking to earth. */
function moist(wiring: Wiring): Alter {
  const ends = wiring.conductors.flatMap((c) =>
    c.cable !== undefined && c.core !== 'shield' && c.from && c.to ? [c.from, c.to] : [],
  )
  const leaks = [...new Set(ends)].map((ref): Part => ({
    kind: 'resistor',
    id: `moist:${ref}`,
    a: ref,
    b: EARTH,
    ohm: MOIST_OHM,
  }))
  return (parts) => [...parts, ...leaks]
}

const meterAt =
  (reading: LoopReading, ohm: number): Alter =>
  (parts) =>
    reading.of === 'volts'
      ? [...parts, { kind: 'resistor', id: 'meter', a: reading.red, b: reading.black, ohm }]
      : [...parts]

/** Ways in which a loop without current can be, each list from one end to the other. */
function waysOf(wiring: Wiring, dead: ReadonlySet<string>): (readonly Alter[])[] {
  const asIs: Alter = (parts) => parts
  const wet = moist(wiring)
  const open = asOhm(dead, DEAD_OHM[0])
  return [
    DEAD_OHM.map((ohm) => asOhm(dead, ohm)),
    [asIs, wet],
    [asIs, withoutDiode(dead)],
    [open, (parts) => wet(open(parts))],
  ]
}

/** What each reading shows at each of the meters, one way. */
type AtMeters = readonly (readonly number[])[]
const boxOf = (of: readonly (readonly number[])[]): Shown[] =>
  sure(of[0]).map((_, i) => {
    const values = of.map((v) => v[i]!)
    return { low: Math.min(...values), high: Math.max(...values) }
  })

/**
 * What the readings would show in a solved loop, together: one row where that is certain; where it is not, a row for
 * each piece of the ways that it can be, each row with the range of every reading on that piece.
 * @param solve the loop with further changes
 */
export function predict(
  wiring: Wiring,
  energised: Energised,
  readings: readonly LoopReading[],
  solve: (alter: Alter) => Energised | undefined,
): Shown[][] {
  const plain = boxOf([readings.map((r) => readAt(energised, r))])
  const dead = deadOf(energised)
  if (!dead.size) return [plain]
  const atMeters = (way: Alter, meters: readonly number[] = METERS_OHM): AtMeters =>
    meters.map((ohm) =>
      readings.map((reading, i) => {
        const solved = solve((parts) => meterAt(reading, ohm)(way(parts)))
        return solved ? readAt(solved, reading) : sure(plain[i]).low
      }),
    )
  const lists = waysOf(wiring, dead)
  // From end to end of everything that it can be: what lies outside of that need not be looked at piece by piece.
  const ends = lists.flatMap((ways) => [sure(ways[0]), sure(ways.at(-1))]).flatMap((way) => [...atMeters(way, ENDS)])
  const hull = boxOf([plain.map((s) => s.low), ...ends])
  if (hull.some((s, i) => offBy(s, readings[i]!.value) > FAR)) return [plain, hull]
  const boxes = lists.flatMap((ways) => {
    const found = ways.map((way) => atMeters(way))
    return found
      .slice(1)
      .flatMap((here, w) =>
        METERS_OHM.slice(1).map((_, m) => boxOf([here, found[w]!].flatMap((at) => [at[m]!, at[m + 1]!]))),
      )
  })
  return [plain, ...boxes]
}

/** How far a reading lies outside of what would be shown, in what a reading is good for. */
export function offBy({ low, high }: Shown, value: number): number {
  const away = value < low ? low - value : value > high ? value - high : 0
  return away / spread(value)
}

/** What in the range lies next to the reading. */
export const nearest = ({ low, high }: Shown, value: number): number => Math.min(high, Math.max(low, value))

/** The most that it is held against an explanation that it says little: the ranges hang together. */
const MOST_VAGUE = 4

/** A wide range fits by chance: what that is worth against an explanation that says exactly what is read. */
export function vague(shown: readonly Shown[], readings: readonly LoopReading[]): number {
  const width = (s: Shown, i: number) => (s.high - s.low) / (2.5 * spread(readings[i]!.value))
  return Math.min(
    MOST_VAGUE,
    shown.reduce((sum, s, i) => sum + 2 * Math.log(1 + width(s, i)), 0),
  )
}
