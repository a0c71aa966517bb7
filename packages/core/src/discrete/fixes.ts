// What will make it work: every way that really does, each proved by computing it again.
import { attempt, Refusal } from '../refusal/index.ts'
import { biasResistor, isMismatch, largestE12 } from './bias-resistor.ts'
import {
  fitOf,
  verdictOf,
  type Contact,
  type InputReading,
  type OutputStage,
  type Pole,
  type SwitchCircuit,
  type SwitchInput,
  type Verdict,
} from './discrete-input.ts'
import { coilPole, contactPole, MOST_COIL, PICK_UP, relayFit, type Relay } from './relay.ts'
import { INPUT_TYPES } from './tables.ts'
import { sure } from '../sure/index.ts'

/** A sensor on what it drives: a controller's input, or a load straight on its output. */
export interface SwitchCase {
  readonly circuit: SwitchCircuit
  /** Highest current of the sensor's output, mA. */
  readonly maxOut_mA: number
  /** Current of a load that the sensor drives without a controller, mA; its circuit's input stands for it. */
  readonly load_mA?: number | undefined
}

export interface After {
  readonly present: InputReading
  readonly absent: InputReading
  readonly inverted: boolean
}
export type Fix = { readonly after: After } & (
  | { readonly way: 'other-common' | 'other-pole'; readonly common: Pole }
  | { readonly way: 'other-input'; readonly inputType: string }
  | { readonly way: 'other-sensor'; readonly output: OutputStage; readonly contact: Contact }
  | { readonly way: 'bias-resistor' | 'bleeder'; readonly to: Pole; readonly ohm: number; readonly watts: number }
  | { readonly way: 'relay'; readonly relay: Relay; readonly coilTo: Pole; readonly contactCommon: Pole }
)
export interface Fixes {
  readonly possible: readonly Fix[]
  /** Ways that were tried and why they do not work. */
  readonly ruledOut: readonly { readonly way: Fix['way']; readonly why: string }[]
}

/** A usual plug-in relay: 24 V coil of some 10 mA, 6 A contact. */
export const USUAL_RELAY: Omit<Relay, 'contact'> = { coilV: 24, coil_mA: 10, contactMax_mA: 6000 }
/** A usual contactor for what a relay's contact cannot carry: coil of 3 W, 16 A contact at DC. */
export const USUAL_CONTACTOR: Omit<Relay, 'contact'> = { coilV: 24, coil_mA: 125, contactMax_mA: 16_000 }
/**
 * What a three-wire sensor of the standard keeps to; IEC 60947-5-2: residual 3.5 V and leakage 0.5 mA at most, usually
 * far less.
 */
const THREE_WIRE = { residualV: 2, leakage_mA: 0.1 }

const after = (fit: { present: InputReading; absent: InputReading; compatible: boolean; inverted: boolean | null }) =>
  fit.compatible && fit.inverted !== null
    ? { present: fit.present, absent: fit.absent, inverted: fit.inverted }
    : undefined

const most_mA = (fit: { present: InputReading; absent: InputReading }) =>
  Math.max(fit.present.sensor_mA, fit.absent.sensor_mA)

/** A bleeder beside the input: draws a two-wire sensor's leakage away while it is off. */
function bleeder({ circuit, maxOut_mA }: SwitchCase): { ohm: number; watts: number; to: Pole; fit: After } | string {
  const { sensor, supplyV, input } = circuit
  if (sensor.leakage_mA === 0) return 'There is no leakage to draw away.'
  // Off: leak and the two in parallel to the common divide the supply; at most 0.8 of the off voltage is aimed at.
  const aim = 0.8 * input.offMaxV
  const leakOhm = (1000 * supplyV) / sensor.leakage_mA
  const both = (leakOhm * aim) / (supplyV - aim)
  const most = 1 / (1 / both - 1 / input.ohm)
  if (!(most > 0)) return 'The input alone already draws the leakage away.'
  const on = supplyV - sensor.residualV
  const spare = maxOut_mA - (1000 * on) / input.ohm
  if (!(spare > 0)) return 'The sensor has no current to spare for it.'
  const ohm = largestE12((1000 * on) / spare, most)
  if (ohm === null) return 'Any resistor small enough would overload the sensor.'
  const fit = after(fitOf({ ...circuit, extraResistor: { to: input.common, ohm } }))
  return fit
    ? { ohm, watts: on ** 2 / ohm, to: input.common, fit }
    : 'The residual voltage keeps the input from turning on.'
}

/** Relay contacts that work, the one that keeps the logic right first. */
function relays(c: SwitchCase, relay: Omit<Relay, 'contact'>): (Fix & { way: 'relay' })[] | string {
  const { supplyV, input, sensor } = c.circuit
  if (supplyV > MOST_COIL * relay.coilV || supplyV < PICK_UP * relay.coilV)
    return `A coil of ${relay.coilV} V is not for a supply of ${supplyV} V.`
  if (c.load_mA !== undefined && c.load_mA > relay.contactMax_mA)
    return `The contact carries ${relay.contactMax_mA} mA, the load takes ${c.load_mA} mA: use a contactor.`
  const found = (['NO', 'NC'] as const).flatMap((contact) => {
    const fit = relayFit(c.circuit, { ...relay, contact })
    const good = after(fit)
    if (!good || most_mA(fit) > c.maxOut_mA) return []
    const whole = { ...relay, contact }
    return [
      {
        way: 'relay' as const,
        relay: whole,
        coilTo: coilPole(sensor.output),
        contactCommon: contactPole(input.common),
        after: good,
      },
    ]
  })
  if (found.length) return found.sort((a, b) => Number(a.after.inverted) - Number(b.after.inverted))
  return most_mA(relayFit(c.circuit, { ...relay, contact: 'NO' })) > c.maxOut_mA
    ? `The coil takes ${relay.coil_mA} mA, more than the ${c.maxOut_mA} mA that the sensor may switch.`
    : 'The sensor’s leakage would hold the coil, or its residual voltage keep it from picking up.'
}

/** Share of its rated voltage by which a supply may be off an input’s. */
const OFF_RATED = 0.3

/** Every way to make it work, each already computed; and the ways that do not. */
export function fixesOf(c: SwitchCase, relay: Omit<Relay, 'contact'> = USUAL_RELAY): Fixes {
  const possible: Fix[] = []
  const ruledOut: { way: Fix['way']; why: string }[] = []
  const { circuit } = c
  const { sensor, input } = circuit
  const bare: SwitchCircuit = { sensor, supplyV: circuit.supplyV, input }
  const fits = (next: SwitchCircuit): After | undefined => {
    const fit = fitOf(next)
    return most_mA(fit) <= c.maxOut_mA ? after(fit) : undefined
  }

  if (c.load_mA === undefined) {
    const common: Pole = input.common === 'negative' ? 'positive' : 'negative'
    const turned = fits({ ...bare, input: { ...input, common } })
    if (turned) possible.push({ way: 'other-common', common, after: turned })
    else ruledOut.push({ way: 'other-common', why: 'The other common does not tell the two states apart either.' })
    for (const row of INPUT_TYPES) {
      if (Math.abs(circuit.supplyV - row.rated_V) > OFF_RATED * row.rated_V) continue
      const like: SwitchInput = { common: input.common, ohm: row.ohm, onMinV: row.onMinV, offMaxV: row.offMaxV }
      const good = JSON.stringify(like) === JSON.stringify(input) ? undefined : fits({ ...bare, input: like })
      if (good) possible.push({ way: 'other-input', inputType: row.id, after: good })
    }
    const output: OutputStage = input.common === 'negative' ? 'PNP' : 'NPN'
    const other = fits({ ...bare, sensor: { output, contact: sensor.contact, ...THREE_WIRE } })
    if (other && (sensor.output !== output || verdictOf(fitOf(bare)) !== 'works'))
      possible.push({ way: 'other-sensor', output, contact: sensor.contact, after: other })
    if (isMismatch(sensor, input)) {
      const bias = biasResistor({ supplyV: circuit.supplyV, sensor: { ...sensor, maxOut_mA: c.maxOut_mA }, input })
      const good =
        bias.pickOhm === null ? undefined : fits({ ...bare, extraResistor: { to: bias.to, ohm: bias.pickOhm } })
      if (bias.feasible && good)
        possible.push({
          way: 'bias-resistor',
          to: bias.to,
          ohm: sure(bias.pickOhm),
          watts: sure(bias.pickWatts),
          after: good,
        })
      else
        ruledOut.push({
          way: 'bias-resistor',
          why:
            !bias.feasible && sensor.residualV > input.offMaxV
              ? 'With the sensor on, its residual voltage is above what the input calls off.'
              : 'A resistor small enough for the input is too small for the sensor.',
        })
    }
    const weak = attempt(() => bleeder({ ...c, circuit: bare }))
    if (sensor.output === 'two-wire' && !(weak instanceof Refusal)) {
      if (typeof weak === 'string') ruledOut.push({ way: 'bleeder', why: weak })
      else possible.push({ way: 'bleeder', to: weak.to, ohm: weak.ohm, watts: weak.watts, after: weak.fit })
    }
  }
  if (c.load_mA !== undefined && isMismatch(sensor, input)) {
    const common: Pole = input.common === 'negative' ? 'positive' : 'negative'
    const moved = fits({ ...bare, input: { ...input, common } })
    if (moved) possible.push({ way: 'other-pole', common, after: moved })
  }
  const relayed = relays({ ...c, circuit: bare }, relay)
  if (typeof relayed === 'string') ruledOut.push({ way: 'relay', why: relayed })
  else possible.push(...relayed)
  return { possible, ruledOut }
}

/** The verdict with the sensor's current rating taken in. */
export function verdictWith(c: SwitchCase): Verdict | 'overloaded' {
  const fit = fitOf(c.circuit)
  return most_mA(fit) > c.maxOut_mA ? 'overloaded' : verdictOf(fit)
}
