// The wiring of a discrete point: what the controller would see with and without a target as it is drawn, and what is
// wrong with it.
import { DROP_OUT, PICK_UP } from '../discrete/index.ts'
import { gravestFirst } from '../findings/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { colourFindings } from './judge-colours.ts'
import { mainsFindings } from './judge-mains.ts'
import { looseFindings, type Judged } from './judge.ts'
import { powerFindings } from './judge-power.ts'
import { energise, insidePart, missingFigures, type Conditions, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import type { Wiring } from './record.ts'
import { refOf, typeOf } from './types.ts'
import { sure } from '../sure/index.ts'

/** What the drawn circuit does with one state of the target. */
export interface DrawnState {
  readonly conducting: boolean
  /** Sensor's signal terminal to the negative pole, V. */
  readonly signalV: number
  /** Magnitude across input or load, V, and through it, mA. */
  readonly inputV: number
  readonly input_mA: number
  /** Magnitude through the conducting stage, mA. */
  readonly sensor_mA: number
  /**
   * Whether the first relay is picked up; undefined without one, or while its coil neither surely holds nor surely
   * drops.
   */
  readonly pickedUp: boolean | undefined
  /** Whether that coil is sure of itself; true without one. */
  readonly coilSure: boolean
  readonly energised: Energised
}

/** The terminals that a discrete wiring is read at. */
export interface SwitchSpots {
  readonly sensor: string
  readonly stage: string
  readonly signal: string
  readonly minus: string
  readonly input: string
  readonly inputEnd: string
  readonly relay: { readonly id: string; readonly coil: string; readonly closes: string | undefined } | undefined
}

/** Where to look in a wiring: its first sensor, its supply, its input or load. Undefined where one of them is gone. */
export function switchSpots(wiring: Wiring): SwitchSpots | undefined {
  const at = (role: string) => wiring.devices.find((d) => typeOf(d)?.role === role)
  const sensor = at('sensor')
  const supply = at('supply')
  const receiver = at('receiver') ?? at('load')
  const relay = at('relay')
  if (!sensor || !supply || !receiver) return undefined
  const index = sure(typeOf(sensor)).inside.findIndex((p) => p.part === 'outputs')
  const stage = sure(typeOf(sensor)).inside[index]
  const input = sure(typeOf(receiver)).inside.findIndex((p) => p.part === 'resists')
  const resists = sure(typeOf(receiver)).inside[input]
  const minus = sure(typeOf(supply)).terminals.find((t) => t.does === 'feeds-')
  if (stage?.part !== 'outputs' || resists?.part !== 'resists' || !minus) return undefined
  const signal = refOf(sensor.id, stage.signal)
  // A two-wire sensor that stands on the minus side has its signal at its plus lead.
  const ends = wiring.conductors.find((c) => [c.from, c.to].includes(signal))
  const low = stage.minus === stage.signal && ends && [ends.from, ends.to].includes(refOf(supply.id, minus.id))
  const contacts = relay ? sure(typeOf(relay)).inside : []
  return {
    sensor: sensor.id,
    stage: insidePart(sensor.id, index),
    signal: low ? refOf(sensor.id, stage.plus) : signal,
    minus: refOf(supply.id, minus.id),
    input: insidePart(receiver.id, input),
    inputEnd: refOf(receiver.id, resists.a),
    relay: relay && {
      id: relay.id,
      coil: insidePart(
        relay.id,
        contacts.findIndex((p) => p.part === 'resists'),
      ),
      closes: contacts.flatMap((p, i) =>
        p.part === 'contact' && p.rest === 'open' ? [insidePart(relay.id, i)] : [],
      )[0],
    },
  }
}

/** The drawn circuit with or without a target. @throws Refusal of the solver */
export function drawnState(wiring: Wiring, conditions: Conditions, spots: SwitchSpots, target: boolean): DrawnState {
  const energised = energise({ wiring, conditions: { ...conditions, target } })
  const { parts } = energised.solution
  const stage = parts[spots.stage]
  const powered = energised.powered.get(spots.sensor) ?? true
  const sensor = sure(wiring.devices.find((d) => d.id === spots.sensor))
  const own = sure(typeOf(sensor)).inside.find((p) => p.part === 'outputs')
  const conducting = powered && own?.part === 'outputs' && (own.contact === 'NO') === target
  const input = parts[spots.input]
  const coilV = spots.relay ? Math.abs(parts[spots.relay.coil]?.volts ?? 0) : 0
  const rated = conditions.figures['coilV'] ?? 24
  const coilSure = coilV >= PICK_UP * rated || coilV <= DROP_OUT * rated
  const closes = energised.parts.find((p) => p.id === spots.relay?.closes)
  return {
    conducting,
    signalV: energised.between(spots.signal, spots.minus),
    inputV: Math.abs(input?.volts ?? 0),
    input_mA: Math.abs(input?.mA ?? 0),
    sensor_mA: conducting ? Math.abs(stage?.mA ?? 0) : 0,
    pickedUp: closes?.kind === 'switch' && coilSure ? closes.closed : undefined,
    coilSure,
    energised,
  }
}

function relayFindings(wiring: Wiring): WiringFinding[] {
  return wiring.devices.flatMap((device) => {
    const type = typeOf(device)
    if (type?.role !== 'relay' || type.inside.some((p) => p.part === 'diode')) return []
    return [
      finding({
        code: 'coil-without-diode',
        grade: 'look',
        where: [device.id],
        what: `The coil of ${device.name} (${device.id}) has no suppression diode.`,
        why:
          'A coil switched off answers with some hundred volts the other way: enough to kill the sensor’s ' +
          'output, and to prick a finger.',
        action:
          'Fit a diode across the coil: cathode (the ring) at A1, plus; anode at A2, minus. Or take a relay ' +
          'that has one.',
      }),
    ]
  })
}

export interface JudgedSwitch extends Judged {
  readonly spots: SwitchSpots | undefined
  readonly present: DrawnState | undefined
  readonly absent: DrawnState | undefined
}

/**
 * Findings of a discrete wiring, gravest first, and what it does in both states. What the controller makes of that is
 * the kind's to say.
 */
export function judgeSwitchWiring(wiring: Wiring, conditions: Conditions): JudgedSwitch {
  const needs = missingFigures(wiring, conditions)
  const found: WiringFinding[] = [
    ...looseFindings(wiring),
    ...mainsFindings(wiring),
    ...colourFindings(wiring),
    ...relayFindings(wiring),
  ]
  const spots = switchSpots(wiring)
  if (!spots)
    found.push(
      finding({
        code: 'switch-not-whole',
        grade: 'stop',
        where: [],
        what: 'Sensor, supply or input is not in this wiring.',
        why: 'Without all three no current has a way to go.',
        action: 'Take the proposal, or add what is missing.',
      }),
    )
  const states =
    !spots || needs.length
      ? undefined
      : attempt(() => [true, false].map((t) => drawnState(wiring, conditions, spots, t)))
  if (states instanceof Refusal)
    found.push(
      finding({
        code: 'no-solution',
        grade: 'stop',
        where: [],
        what: 'No voltages satisfy this circuit.',
        why: states.message,
        action: 'Undo the last change and look at it again.',
      }),
    )
  const [present, absent] = states instanceof Refusal || !states ? [] : states
  for (const state of [present, absent])
    for (const f of state ? powerFindings(wiring, state.energised, conditions) : [])
      if (!found.some((g) => g.code === f.code && g.where.join() === f.where.join())) found.push(f)
  return { findings: gravestFirst(found) as WiringFinding[], needs, spots, present, absent }
}
