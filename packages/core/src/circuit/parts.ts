// The parts a loop is made of, each with its terminals and how it conducts, as the solver takes them.
import { Refusal } from '../refusal/index.ts'

/** A voltage source with its inner resistance; 0.05 Ω when not given. */
export interface SourcePart {
  readonly kind: 'source'
  readonly id: string
  readonly plus: string
  readonly minus: string
  readonly volts: number
  readonly seriesOhm?: number | undefined
}
export interface ResistorPart {
  readonly kind: 'resistor'
  readonly id: string
  readonly a: string
  readonly b: string
  readonly ohm: number
}
/** 0.01 Ω closed, 1 GΩ open. */
export interface SwitchPart {
  readonly kind: 'switch'
  readonly id: string
  readonly a: string
  readonly b: string
  readonly closed: boolean
}
/** A meter set to mA: its shunt, and a fuse that opens (1 GΩ) above its rating. */
export interface AmmeterPart {
  readonly kind: 'ammeter'
  readonly id: string
  readonly plus: string
  readonly minus: string
  readonly ohm: number
  readonly fusemA: number
}
export interface VoltmeterPart {
  readonly kind: 'voltmeter'
  readonly id: string
  readonly plus: string
  readonly minus: string
  readonly ohm: number
}
/** 1 GΩ, and beside it 0.7 V + 1 Ω once forward voltage exceeds 0.7 V. */
export interface DiodePart {
  readonly kind: 'diode'
  readonly id: string
  readonly anode: string
  readonly cathode: string
}
/** Draws its current from plus to minus once it has its lift-off voltage; below it, proportionally less. */
export interface LoopTransmitterPart {
  readonly kind: 'loop-transmitter'
  readonly id: string
  readonly plus: string
  readonly minus: string
  readonly mA: number
  readonly liftOffV: number
  /** What it does with its terminals exchanged. */
  readonly reverse: 'blocks' | 'conducts'
}
/** Drives its current out of plus and back into minus, up to the voltage it can reach. */
export interface CurrentOutputPart {
  readonly kind: 'current-output'
  readonly id: string
  readonly plus: string
  readonly minus: string
  readonly mA: number
  readonly maxV: number
}
export type Part =
  | SourcePart
  | ResistorPart
  | SwitchPart
  | AmmeterPart
  | VoltmeterPart
  | DiodePart
  | LoopTransmitterPart
  | CurrentOutputPart

/** First and second terminal of a part; its current is counted into the first and its voltage from first to second. */
export function endsOf(part: Part): readonly [string, string] {
  switch (part.kind) {
    case 'resistor':
    case 'switch':
      return [part.a, part.b]
    case 'diode':
      return [part.anode, part.cathode]
    default:
      return [part.plus, part.minus]
  }
}

export const CLOSED_OHM = 0.01
export const OPEN_OHM = 1e9
export const SOURCE_OHM = 0.05
export const DIODE_V = 0.7
export const DIODE_OHM = 1

/**
 * One straight piece of a part's characteristic: between `from` and `to` volts across it, the current into its first
 * terminal is
 * `mho`·(v − `emf`) + `amps`.
 */
export interface Piece {
  readonly from: number
  readonly to: number
  /** Slope, S, 0 or more: no part here pushes harder the more it is pushed against. */
  readonly mho: number
  readonly emf: number
  readonly amps: number
}

/** Volts over which an output at its highest voltage goes from its full current to none. */
const HELD_V = 1e-6
const piece = ({
  from,
  to,
  mho,
  emf = 0,
  amps = 0,
}: {
  readonly from: number
  readonly to: number
  readonly mho: number
  readonly emf?: number
  readonly amps?: number
}): Piece => ({ from, to, mho, emf, amps })
const straight = (mho: number, emf = 0): Piece[] => [piece({ from: -Infinity, to: Infinity, mho, emf })]

/** 1 GΩ with 0.7 V + 1 Ω beside it, as one straight piece above 0.7 V. */
const ON_MHO = 1 / OPEN_OHM + 1 / DIODE_OHM
const ON_EMF = DIODE_V / DIODE_OHM / ON_MHO

/** A part's characteristic in order of rising voltage; `blown` for a meter whose fuse has opened. */
export function piecesOf(part: Part, blown: boolean): Piece[] {
  switch (part.kind) {
    case 'source':
      return straight(1 / (part.seriesOhm ?? SOURCE_OHM), part.volts)
    case 'resistor':
    case 'voltmeter':
      return straight(1 / part.ohm)
    case 'switch':
      return straight(1 / (part.closed ? CLOSED_OHM : OPEN_OHM))
    case 'ammeter':
      return straight(1 / (blown ? OPEN_OHM : part.ohm))
    case 'diode':
      return [
        piece({ from: -Infinity, to: DIODE_V, mho: 1 / OPEN_OHM }),
        piece({ from: DIODE_V, to: Infinity, mho: ON_MHO, emf: ON_EMF }),
      ]
    case 'loop-transmitter': {
      const amps = part.mA / 1000
      const working = [
        piece({ from: 0, to: part.liftOffV, mho: amps / part.liftOffV }),
        piece({ from: part.liftOffV, to: Infinity, mho: 0, emf: 0, amps }),
      ]
      return part.reverse === 'blocks'
        ? [piece({ from: -Infinity, to: 0, mho: 0 }), ...working]
        : [
            piece({ from: -Infinity, to: -DIODE_V, mho: ON_MHO, emf: -ON_EMF }),
            piece({ from: -DIODE_V, to: 0, mho: 1 / OPEN_OHM }),
            ...working,
          ]
    }
    case 'current-output': {
      const amps = part.mA / 1000
      if (amps === 0) return straight(0)
      return [
        piece({ from: -Infinity, to: part.maxV, mho: 0, emf: 0, amps: -amps }),
        piece({ from: part.maxV, to: part.maxV + HELD_V, mho: amps / HELD_V, emf: part.maxV + HELD_V }),
        piece({ from: part.maxV + HELD_V, to: Infinity, mho: 0 }),
      ]
    }
  }
}

const POSITIVE = ['ohm', 'seriesOhm', 'fusemA', 'liftOffV', 'maxV'] as const

/** @throws Refusal `invalid-input` for a value no such part can have, and for two parts of one id */
export function refuseBadParts(parts: readonly Part[]): void {
  const seen = new Set<string>()
  for (const part of parts) {
    if (seen.has(part.id)) throw new Refusal('invalid-input', `Two parts are called “${part.id}”.`)
    seen.add(part.id)
    for (const key of POSITIVE) {
      const value = (part as unknown as Record<string, unknown>)[key]
      if (value !== undefined && !(typeof value === 'number' && value > 0 && Number.isFinite(value)))
        throw new Refusal('invalid-input', `${part.id}: ${key} must be above 0.`)
    }
    if ('mA' in part && !(part.mA >= 0 && Number.isFinite(part.mA)))
      throw new Refusal('invalid-input', `${part.id}: mA must be 0 or more.`)
    if ('volts' in part && !Number.isFinite(part.volts))
      throw new Refusal('invalid-input', `${part.id}: volts must be a figure.`)
  }
}
