// What a thermocouple and its cable give at the transmitter's terminals, and what the transmitter makes of that.
import {
  THERMOCOUPLE_TYPES,
  thermocoupleEmf,
  thermocoupleTemperature,
  type ThermocoupleType,
} from '../../temperature/index.ts'
import type { Reader } from '../reader.ts'

export interface Couple {
  readonly type: ThermocoupleType
  /** Temperatures of head and terminals, and the one that the transmitter compensates for, °C. */
  readonly head: number
  readonly terminals: number
  readonly compensated: number
  /** Type of the cable's metals; copper gives nothing. */
  readonly cable: ThermocoupleType | 'copper'
  /** Sign with which element and cable count at the terminals. */
  readonly elementSign: 1 | -1
  readonly cableSign: 1 | -1
}

const typeFrom = (text: string): ThermocoupleType | undefined => THERMOCOUPLE_TYPES.find((t) => t === text)

/** The couple as entered; undefined while its type or its cable is not known. */
export function coupleOf(r: Reader): Couple | undefined {
  const type = typeFrom(r.text('type'))
  const cable = r.text('cable')
  const [head, terminals] = [r.in('head', 'degC'), r.in('terminals', 'degC')]
  const compensated = r.text('compensation') === 'fixed' ? r.in('fixedAt', 'degC') : terminals
  if (!type || cable === '' || head === undefined || terminals === undefined || compensated === undefined)
    return undefined
  const metals = cable === 'copper' ? 'copper' : cable === 'other' ? typeFrom(r.text('cableType')) : type
  if (!metals) return undefined
  const crossed = cable === 'none' ? 'right' : r.text('crossed')
  return {
    type,
    // Without a cable the element ends at the terminals.
    head: cable === 'none' ? terminals : head,
    terminals,
    compensated,
    cable: metals,
    elementSign: crossed === 'one' ? -1 : 1,
    cableSign: crossed === 'both' ? -1 : 1,
  }
}

/** Voltage that the cable adds, mV. @throws Refusal `out-of-range` */
function cable_mV(c: Couple): number {
  return c.cable === 'copper' ? 0 : c.cableSign * thermocoupleEmf(c.cable, c.head, c.terminals)
}

/** Voltage at the terminals for a temperature of the process, mV. @throws Refusal `out-of-range` */
export const terminals_mV = (c: Couple, temp_C: number): number =>
  c.elementSign * thermocoupleEmf(c.type, temp_C, c.head) + cable_mV(c)

/** The temperature of the process for a voltage at the terminals, °C. @throws Refusal `out-of-range` */
export const processFrom = (c: Couple, mV: number): number =>
  thermocoupleTemperature(c.type, c.elementSign * (mV - cable_mV(c)), c.head)

/** What the transmitter reports for a voltage at its terminals, °C, and back. @throws Refusal `out-of-range` */
export const reportedFrom = (c: Couple, mV: number): number => thermocoupleTemperature(c.type, mV, c.compensated)
export const voltageOfReport = (c: Couple, temp_C: number): number => thermocoupleEmf(c.type, temp_C, c.compensated)

/** Error of what is reported at a temperature of the process, K. @throws Refusal `out-of-range` */
export const errorAt = (c: Couple, temp_C: number): number => reportedFrom(c, terminals_mV(c, temp_C)) - temp_C
