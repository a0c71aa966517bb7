// An interposing relay: its coil as the sensor's load, its contact as what the input feels.
import { actsAs, fitOf, type Contact, type InputReading, type Pole, type SwitchCircuit } from './discrete-input.ts'

export interface Relay {
  /** Rated coil voltage, V. */
  readonly coilV: number
  /** Coil current at rated voltage, mA. */
  readonly coil_mA: number
  /** Contact that the input is wired to. */
  readonly contact: Contact
  /** Highest current of the contact, mA. */
  readonly contactMax_mA: number
}

/**
 * A relay picks up at this share of its rated voltage, and surely drops out at this. Source: IEC 61810-1, operative
 * range class 1 (80 to 110 %), release at 5 %.
 */
export const PICK_UP = 0.8
export const DROP_OUT = 0.05
export const MOST_COIL = 1.1

/** Pole that the coil's far end goes to: the one that the sensor does not switch its signal wire to. */
export const coilPole = (output: SwitchCircuit['sensor']['output']): Pole =>
  actsAs(output, 'negative') === 'NPN' ? 'positive' : 'negative'

/** Pole that the contact's common goes to: the one that the input's own common does not lead to. */
export const contactPole = (inputCommon: Pole): Pole => (inputCommon === 'negative' ? 'positive' : 'negative')

export interface RelayFit {
  /** The coil as an input of the sensor: on is picked up, off is dropped out. */
  readonly coil: {
    readonly present: InputReading
    readonly absent: InputReading
    readonly compatible: boolean
    readonly inverted: boolean | null
  }
  readonly present: InputReading
  readonly absent: InputReading
  readonly compatible: boolean
  readonly inverted: boolean | null
}

/**
 * The input behind a relay's contact: the supply across it while the contact is closed, nothing while open; undefined
 * while the coil
 * neither surely holds nor surely drops.
 */
export function relayFit(circuit: SwitchCircuit, relay: Relay): RelayFit {
  const { sensor, supplyV, input } = circuit
  const coil = fitOf({
    sensor,
    supplyV,
    input: {
      common: coilPole(sensor.output),
      ohm: (1000 * relay.coilV) / relay.coil_mA,
      onMinV: PICK_UP * relay.coilV,
      offMaxV: DROP_OUT * relay.coilV,
    },
  })
  const behind = (c: InputReading): InputReading => {
    const closed = (c.state === 'on') === (relay.contact === 'NO')
    const inputV = closed ? supplyV : 0
    const state =
      c.state === 'undefined'
        ? 'undefined'
        : inputV >= input.onMinV
          ? 'on'
          : inputV <= input.offMaxV
            ? 'off'
            : 'undefined'
    return {
      conducting: c.conducting,
      // An open contact leaves the input's wire at the input's own pole.
      signalV: input.common === 'negative' ? inputV : supplyV - inputV,
      inputV,
      input_mA: (1000 * inputV) / input.ohm,
      sensor_mA: c.sensor_mA,
      state,
    }
  }
  const present = behind(coil.present)
  const absent = behind(coil.absent)
  const states = [present.state, absent.state]
  const compatible = states.includes('on') && states.includes('off')
  return {
    coil,
    present,
    absent,
    compatible,
    inverted: compatible ? (present.state === 'on') !== present.conducting : null,
  }
}
