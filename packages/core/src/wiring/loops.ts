// The current loops of a wiring, each seen from the output that drives it: what feeds it, how much, and what it ends
// in.
import type { Part } from '../circuit/index.ts'
import { energise, insidePart, type Alter, type Conditions, type Energised } from './energise.ts'
import type { Device, Wiring } from './record.ts'
import { isWired, refOf, typeOf } from './types.ts'

/** A current output: of a transmitter or of an isolator. */
export interface Output {
  readonly device: Device
  readonly part: string
  readonly kind: 'sinks' | 'drives' | 'repeats'
  readonly plus: string
  readonly minus: string
}

/** A resistance across which a receiver reads the current. */
export interface Shunt {
  readonly device: Device
  readonly part: string
  /** What the device calls it, such as `shunt 2`. */
  readonly name: string
  readonly plus: string
  readonly minus: string
}

export function outputsOf(wiring: Wiring): Output[] {
  return wiring.devices.flatMap((device) =>
    (typeOf(device)?.inside ?? []).flatMap((p, i): Output[] => {
      if (p.part !== 'transmitter' && p.part !== 'drives' && p.part !== 'repeats') return []
      const kind = p.part === 'transmitter' ? 'sinks' : p.part
      // A channel that nothing is wired to drives no loop; it is judged once it is.
      const ends = [refOf(device.id, p.plus), refOf(device.id, p.minus)]
      const channel = typeOf(device)?.channels?.some((c) => c.plus === p.plus)
      if (channel && !ends.some((ref) => isWired(wiring, ref))) return []
      return [
        {
          device,
          part: insidePart(device.id, i),
          kind,
          plus: refOf(device.id, p.plus),
          minus: refOf(device.id, p.minus),
        },
      ]
    }),
  )
}

export function shuntsOf(wiring: Wiring): Shunt[] {
  return wiring.devices.flatMap((device) => {
    const type = typeOf(device)
    if (type?.role !== 'receiver' && type?.role !== 'isolator') return []
    return type.inside.flatMap((p, i): Shunt[] =>
      p.part === 'resists' && p.id !== 'termination'
        ? [
            {
              device,
              part: insidePart(device.id, i),
              name: p.id,
              plus: refOf(device.id, p.a),
              minus: refOf(device.id, p.b),
            },
          ]
        : [],
    )
  })
}

/** What feeds an output’s loop. */
export interface Feed {
  /** Volts at the output’s terminals with it drawing nothing. */
  readonly openV: number
  /** What each source adds to that, by part; only those that count. */
  readonly sources: readonly {
    readonly part: string
    readonly volts: number
    readonly plus: string
    readonly minus: string
  }[]
  /** Whether a current could flow at all if there were a supply. */
  readonly closed: boolean
}

/** Current that a source of 24 V in the output’s place would drive, below which the loop is open, mA. */
const CLOSED_mA = 0.05

/** Holds the probe to 1 mA. */
const PROBE_OHM = 24_000

const without =
  (id: string, instead: (part: Part) => Part): Alter =>
  (parts) =>
    parts.map((p) => (p.id === id ? instead(p) : p))

/**
 * What feeds the loop of an output, for whatever is drawn: by superposition, each source is taken out in turn and the
 * voltage at the
 * open terminals looked at.
 */
export function feedOf(wiring: Wiring, conditions: Conditions, output: Output, base: Energised): Feed {
  const [plus, minus] = [output.plus, output.minus]
  const open = without(output.part, (p) => ({ kind: 'switch', id: p.id, a: plus, b: minus, closed: false }))
  const volts = (e: Energised) => e.between(plus, minus)
  const openV = volts(energise({ wiring, conditions, alter: open, start: base.powered, frozen: true }))
  const sources = base.parts.flatMap((source) => {
    if (source.kind !== 'source') return []
    const dead = without(source.id, (p) => ({ ...p, volts: 0 }) as Part)
    const left = volts(
      energise({ wiring, conditions, alter: (parts) => dead(open(parts)), start: base.powered, frozen: true }),
    )
    return Math.abs(openV - left) > 1
      ? [{ part: source.id, volts: openV - left, plus: source.plus, minus: source.minus }]
      : []
  })
  // The probe drives the way the output would: a passive one out of its minus, an active one out of its plus.
  const [from, back] = output.kind === 'sinks' ? [minus, plus] : [plus, minus]
  const probe = without(output.part, (p) => ({
    kind: 'source',
    id: p.id,
    plus: from,
    minus: back,
    volts: 24,
    // Enough to tell a closed loop, and less than any fuse in it would blow at.
    seriesOhm: PROBE_OHM,
  }))
  const quiet: Alter = (parts) =>
    parts.map((p) => (p.kind === 'source' && p.id !== output.part ? { ...p, volts: 0 } : p))
  const probed = energise({
    wiring,
    conditions,
    alter: (parts) => probe(quiet(parts)),
    start: base.powered,
    frozen: true,
  })
  return { openV, sources, closed: Math.abs(probed.solution.parts[output.part]?.mA ?? 0) > CLOSED_mA }
}
