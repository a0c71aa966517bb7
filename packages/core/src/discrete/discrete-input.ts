// Sensor on input: what the signal wire does with and without a target, what the controller reads, and whether the two
// fit.

export type OutputStage = 'PNP' | 'NPN' | 'push-pull' | 'two-wire'
export type Contact = 'NO' | 'NC'
/** The pole that a terminal or a resistor leads to. */
export type Pole = 'positive' | 'negative'

export interface SwitchSensor {
  readonly output: OutputStage
  readonly contact: Contact
  /** Voltage left across the conducting stage, V, 0 or more. */
  readonly residualV: number
  /** Current through the stage while it does not conduct, mA, 0 or more. */
  readonly leakage_mA: number
}

export interface SwitchInput {
  /** Pole that the input's other end is joined to: negative makes a sinking input, positive a sourcing one. */
  readonly common: Pole
  /** Ω, above 0. */
  readonly ohm: number
  /** Surely on at this voltage across the input and above, V. */
  readonly onMinV: number
  /** Surely off at this voltage and below, V. */
  readonly offMaxV: number
}

/** A resistor from the signal wire to a pole. */
export interface ExtraResistor {
  readonly to: Pole
  /** Ω, above 0. */
  readonly ohm: number
}

export interface SwitchCircuit {
  readonly sensor: SwitchSensor
  /** V between the poles. */
  readonly supplyV: number
  readonly input: SwitchInput
  readonly extraResistor?: ExtraResistor | undefined
}

export type LogicState = 'on' | 'off' | 'undefined'

export interface InputReading {
  readonly conducting: boolean
  /** Signal wire to the negative pole, V. */
  readonly signalV: number
  /** Magnitude across the input, V. */
  readonly inputV: number
  /** Magnitude through the input, mA. */
  readonly input_mA: number
  /** Magnitude through the conducting stage, mA; 0 while it does not conduct. */
  readonly sensor_mA: number
  readonly state: LogicState
}

export interface DiscreteResult extends InputReading {
  /** Over both targets, one state is on and the other off. */
  readonly compatible: boolean
  /** Compatible, and on while the stage does not conduct; null when not compatible. */
  readonly inverted: boolean | null
}

/** Whether the output stage conducts: with a target when normally open, without one when normally closed. */
export const conducts = (contact: Contact, target: boolean): boolean => (contact === 'NO' ? target : !target)

/** The stage that a two-wire sensor behaves as: it pulls up a sinking input and pulls down a sourcing one. */
export function actsAs(output: OutputStage, common: Pole): Exclude<OutputStage, 'two-wire'> {
  if (output !== 'two-wire') return output
  return common === 'negative' ? 'PNP' : 'NPN'
}

/** Voltage of a node held by resistors to the two poles, V. */
function divided(supplyV: number, resistors: readonly ExtraResistor[]): number {
  let mho = 0
  let up = 0
  for (const { to, ohm } of resistors) {
    mho += 1 / ohm
    if (to === 'positive') up += 1 / ohm
  }
  return (supplyV * up) / mho
}

/**
 * The signal wire with or without a target.
 *
 * Conducting, a PNP can only push the signal up to the supply less its residual voltage, an NPN only pull it down to
 * its residual
 * voltage; a push-pull stage holds both. Not conducting, a PNP leaks from the positive pole, an NPN to the negative
 * one.
 * Source: node voltage of the signal wire, Kirchhoff; residual voltage and leakage as defined in IEC 60947-5-2.
 */
export function readInput(circuit: SwitchCircuit, target: boolean): InputReading {
  const { sensor, supplyV, input, extraResistor } = circuit
  const conducting = conducts(sensor.contact, target)
  const stage = actsAs(sensor.output, input.common)
  const held: ExtraResistor[] = [{ to: input.common, ohm: input.ohm }, ...(extraResistor ? [extraResistor] : [])]
  const rest = divided(supplyV, held)
  let signalV: number
  if (stage === 'push-pull') signalV = conducting ? supplyV - sensor.residualV : sensor.residualV
  else if (conducting)
    signalV = stage === 'PNP' ? Math.max(supplyV - sensor.residualV, rest) : Math.min(sensor.residualV, rest)
  else if (sensor.leakage_mA === 0) signalV = rest
  else {
    const leak = { to: stage === 'PNP' ? 'positive' : 'negative', ohm: (1000 * supplyV) / sensor.leakage_mA } as const
    signalV = divided(supplyV, [...held, leak])
  }
  const volts = (to: Pole) => signalV - (to === 'positive' ? supplyV : 0)
  const inputV = Math.abs(volts(input.common))
  const drawn = held.reduce((sum, r) => sum + (1000 * volts(r.to)) / r.ohm, 0)
  return {
    conducting,
    signalV,
    inputV,
    input_mA: (1000 * inputV) / input.ohm,
    sensor_mA: conducting ? Math.abs(drawn) : 0,
    state: inputV >= input.onMinV ? 'on' : inputV <= input.offMaxV ? 'off' : 'undefined',
  }
}

/** Both targets at once, and whether they can be told apart. */
export function fitOf(circuit: SwitchCircuit): {
  present: InputReading
  absent: InputReading
  compatible: boolean
  inverted: boolean | null
} {
  const present = readInput(circuit, true)
  const absent = readInput(circuit, false)
  const states = [present.state, absent.state]
  const compatible = states.includes('on') && states.includes('off')
  return {
    present,
    absent,
    compatible,
    inverted: compatible ? (present.state === 'on') !== present.conducting : null,
  }
}

/** One target, and the verdict over both. */
export function discreteInput(circuit: SwitchCircuit & { readonly target: boolean }): DiscreteResult {
  const { present, absent, compatible, inverted } = fitOf(circuit)
  return { ...(circuit.target ? present : absent), compatible, inverted }
}

export type Verdict = 'works' | 'works-inverted' | 'undefined' | 'cannot-work'

/** Four answers: told apart the right way or the wrong way round, never sure, or never told apart. */
export function verdictOf(fit: ReturnType<typeof fitOf>): Verdict {
  if (fit.compatible) return fit.inverted ? 'works-inverted' : 'works'
  return [fit.present.state, fit.absent.state].includes('undefined') ? 'undefined' : 'cannot-work'
}
