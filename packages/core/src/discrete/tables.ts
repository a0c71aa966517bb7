// Tables of discrete sensing: input types, target metals, connector pins, each row with its source.
import pinRows from './connector-pins.json' with { type: 'json' }
import inputRows from './input-types.json' with { type: 'json' }
import metalRows from './target-metals.json' with { type: 'json' }
import type { Contact, OutputStage } from './discrete-input.ts'

export interface InputType {
  readonly id: string
  readonly name: string
  /** Supply that it is made for, V. */
  readonly rated_V: number
  readonly onMinV: number
  readonly offMaxV: number
  /** Least current that the standard wants at the least on voltage, mA. */
  readonly least_mA: number
  /** Current up to which it stays off whatever the voltage, mA. */
  readonly off_mA: number
  /** Highest resistance that still draws the least current, Ω. */
  readonly ohm: number
  readonly for: string
  readonly source: string
}
export const INPUT_TYPES: readonly InputType[] = inputRows

export interface TargetMetal {
  readonly id: string
  readonly name: string
  /** Factors on the rated operating distance: usual lowest, typical, usual highest. */
  readonly low: number
  readonly typical: number
  readonly high: number
  readonly source: string
}
export const TARGET_METALS: readonly TargetMetal[] = metalRows

export interface ConnectorPins {
  readonly id: string
  readonly name: string
  readonly plus: string
  readonly minus: string
  readonly no: string
  readonly nc: string
  /** Terminal of a second output; null where the connector has no room for one. */
  readonly second: string | null
  readonly source: string
}
export const CONNECTOR_PINS: readonly ConnectorPins[] = pinRows

/** Insulation colour of each lead by its two-letter code, IEC 60757. */
export const LEAD_COLOURS: Readonly<Record<string, string>> = {
  BN: 'brown',
  BU: 'blue',
  BK: 'black',
  WH: 'white',
  RD: 'red',
  GN: 'green',
}

/**
 * Terminals of a sensor on a connector. A two-wire sensor has no signal terminal of its own: its output takes the
 * place of minus.
 */
export function terminalsOfSensor(
  pins: ConnectorPins,
  output: OutputStage,
  contact: Contact,
): { plus: string; minus: string; signal: string } {
  const signal = contact === 'NO' ? pins.no : pins.nc
  if (output !== 'two-wire') return { plus: pins.plus, minus: pins.minus, signal }
  const back = pins.id.startsWith('leads') ? pins.minus : signal
  return { plus: pins.plus, minus: back, signal: back }
}

/**
 * Insulation colour at each terminal of a connector: its lead's own, or that of the pin's core in a ready-made cable.
 * Source: IEC 60947-5-2.
 */
export function coreColour(terminal: string): string {
  return LEAD_COLOURS[terminal] ?? { '1': 'brown', '2': 'white', '3': 'blue', '4': 'black' }[terminal] ?? 'grey'
}
