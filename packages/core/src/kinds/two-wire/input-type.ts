// The input of a converter's channel: what it takes for the two ends of its scale, and what it is to the circuit.
import type { Reader } from '../reader.ts'

interface InputType {
  readonly takes: 'current' | 'voltage'
  /** Ends of its scale, mA or V. */
  readonly low: number
  readonly high: number
}
/** Current after IEC 60381-1, voltage after IEC 60381-2. */
export const INPUT_TYPES = {
  '4–20 mA': { takes: 'current', low: 4, high: 20 },
  '0–20 mA': { takes: 'current', low: 0, high: 20 },
  '1–5 V': { takes: 'voltage', low: 1, high: 5 },
  '0–5 V': { takes: 'voltage', low: 0, high: 5 },
  '0–10 V': { takes: 'voltage', low: 0, high: 10 },
} as const satisfies Record<string, InputType>
export type InputTypeId = keyof typeof INPUT_TYPES

/** What a voltage input itself lets through, Ω: next to nothing of a loop's current. */
export const VOLTAGE_INPUT_OHM = 1e6

export const isConverter = (r: Reader): boolean => r.text('receiver').startsWith('converter')

/** Input type of the channel; undefined where there is no converter, or none of that name. */
export function inputTypeOf(r: Reader): (InputType & { readonly name: string }) | undefined {
  const name = isConverter(r) && r.has('inputType') ? r.text('inputType') : ''
  return name in INPUT_TYPES ? { name, ...INPUT_TYPES[name as InputTypeId] } : undefined
}

/** Share of the channel's scale at a loop current, 0 to 1 within it. @param shunt Ω, what turns the current to volts */
export const shareAt = (type: InputType, mA: number, shunt: number): number =>
  ((type.takes === 'current' ? mA : (mA * shunt) / 1000) - type.low) / (type.high - type.low)

/** Loop currents at the two ends of the channel's scale, mA. */
export const endsOf = (type: InputType, shunt: number): [low: number, high: number] =>
  type.takes === 'current' ? [type.low, type.high] : [(1000 * type.low) / shunt, (1000 * type.high) / shunt]

/** What the channel shows at a loop current, in `unit`; undefined while that cannot be told. */
export function channelAt(r: Reader, mA: number, unit: string): number | undefined {
  const type = inputTypeOf(r)
  const [low, high, shunt] = [r.in('channelLow', unit), r.in('channelHigh', unit), r.in('shunt', 'Ohm')]
  if (!type || low === undefined || high === undefined) return undefined
  if (type.takes === 'voltage' && (shunt === undefined || shunt <= 0)) return undefined
  return low + shareAt(type, mA, shunt ?? 250) * (high - low)
}

/**
 * What the controller shows at 4 and at 20 mA, in `unit`; undefined where it shows no such unit, or while that cannot
 * be told. Behind a converter its scale stands at the ends of the channel's, whatever the loop's are.
 */
export function controllerEnds(r: Reader, unit: string): [number | undefined, number | undefined] {
  if (r.text('shows') !== 'engineering units') return [undefined, undefined]
  const [low, high] = [r.in('receiverLow', unit), r.in('receiverHigh', unit)]
  const [type, shunt] = [inputTypeOf(r), r.in('shunt', 'Ohm')]
  if (!type || low === undefined || high === undefined) return [low, high]
  if (type.takes === 'voltage' && (shunt === undefined || shunt <= 0)) return [undefined, undefined]
  const at = (mA: number) => low + shareAt(type, mA, shunt ?? 250) * (high - low)
  return [at(4), at(20)]
}
