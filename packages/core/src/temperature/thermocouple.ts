// Thermocouples: temperature to thermoelectric voltage and back, with a cold junction of any temperature.
import { Refusal } from '../refusal/index.ts'
import functions from './thermocouple-functions.json' with { type: 'json' }
import { sure } from '../sure/index.ts'

export const THERMOCOUPLE_TYPES = ['B', 'E', 'J', 'K', 'N', 'R', 'S', 'T'] as const
export type ThermocoupleType = (typeof THERMOCOUPLE_TYPES)[number]
export const THERMOCOUPLE_SOURCE: string = functions.source

interface Piece {
  readonly from_C: number
  readonly to_C: number
  readonly coefficients: readonly number[]
  readonly exponential?: readonly number[]
}
const PIECES = functions.types as Readonly<Record<ThermocoupleType, readonly Piece[]>>

/** Highest temperature used, where the standard's own limit has a decimal, °C. */
const HIGHEST_C: Partial<Record<ThermocoupleType, number>> = { R: 1768, S: 1768 }
/** Below it an emf tells no temperature: the function is flat or turns back, °C. */
const LOWEST_BACK_C: Partial<Record<ThermocoupleType, number>> = { B: 250, E: -200, K: -200, N: -200, T: -200 }
const STEPS = 100
const CLOSE_ENOUGH_C = 1e-10

export interface ThermocoupleRange {
  /** Range of the reference function, °C. */
  readonly low: number
  readonly high: number
  /** Lowest temperature that can be found from an emf, °C. */
  readonly lowBack: number
}

/** Range of a type's reference function, and of its inverse, °C. Source: IEC 60584-1. */
export function thermocoupleRange(type: ThermocoupleType): ThermocoupleRange {
  const pieces = PIECES[type]
  const low = sure(pieces[0]).from_C
  return { low, high: HIGHEST_C[type] ?? sure(pieces.at(-1)).to_C, lowBack: LOWEST_BACK_C[type] ?? low }
}

function pieceAt(type: ThermocoupleType, temp_C: number): Piece {
  const pieces = PIECES[type]
  return pieces.find((p) => temp_C <= p.to_C) ?? sure(pieces.at(-1))
}

/** E(t), mV, of the reference function; not checked for its range. */
function reference_mV(type: ThermocoupleType, t: number): number {
  const { coefficients, exponential } = pieceAt(type, t)
  const polynomial = coefficients.reduceRight((sum, c) => sum * t + c, 0)
  if (!exponential) return polynomial
  const [a0, a1, a2] = exponential as [number, number, number]
  return polynomial + a0 * Math.exp(a1 * (t - a2) ** 2)
}

/**
 * Sensitivity dE/dt, mV/K, at a temperature in °C within the type's range.
 * Source: derivative of the reference function of IEC 60584-1.
 */
export function seebeck_mVperK(type: ThermocoupleType, temp_C: number): number {
  const { coefficients, exponential } = pieceAt(type, temp_C)
  const slope = coefficients.reduceRight((sum, c, i) => (i === 0 ? sum : sum * temp_C + i * c), 0)
  if (!exponential) return slope
  const [a0, a1, a2] = exponential as [number, number, number]
  return slope + 2 * a0 * a1 * (temp_C - a2) * Math.exp(a1 * (temp_C - a2) ** 2)
}

function checkRange(type: ThermocoupleType, temp_C: number, what: string): number {
  const { low, high } = thermocoupleRange(type)
  if (!(temp_C >= low && temp_C <= high))
    throw new Refusal('out-of-range', `${what}: a type ${type} thermocouple is defined from ${low} to ${high} °C.`)
  return temp_C
}

/**
 * Voltage, mV, between a junction at `temp_C` and one at `coldJunction_C`: E(t) − E(cold junction).
 * @throws Refusal `out-of-range`
 * Source: IEC 60584-1, reference functions on ITS-90.
 */
export function thermocoupleEmf(type: ThermocoupleType, temp_C: number, coldJunction_C = 0): number {
  checkRange(type, temp_C, 'Temperature')
  checkRange(type, coldJunction_C, 'Cold junction')
  return reference_mV(type, temp_C) - reference_mV(type, coldJunction_C)
}

/**
 * Temperature, °C, of the hot junction from the voltage measured, mV: the inverse of E itself, not an approximate
 * polynomial.
 * @throws Refusal `out-of-range`, also where the function is too flat to be turned round (B below 250 °C; E, K, N, T
 * below −200 °C)
 * Source: IEC 60584-1.
 */
export function thermocoupleTemperature(type: ThermocoupleType, emf_mV: number, coldJunction_C = 0): number {
  checkRange(type, coldJunction_C, 'Cold junction')
  const { lowBack, high } = thermocoupleRange(type)
  const emf = emf_mV + reference_mV(type, coldJunction_C)
  if (!(emf >= reference_mV(type, lowBack) && emf <= reference_mV(type, high)))
    throw new Refusal(
      'out-of-range',
      `${emf_mV} mV is not given by a type ${type} thermocouple from ${lowBack} to ${high} °C.`,
    )
  let [low, up] = [lowBack, high]
  let t = (low + up) / 2
  // Newton's step where it stays inside what is known to hold the temperature, else half of that.
  for (let i = 0; i < STEPS && up - low > CLOSE_ENOUGH_C; i++) {
    const off = reference_mV(type, t) - emf
    if (off === 0) return t
    if (off > 0) up = t
    else low = t
    const step = off / seebeck_mVperK(type, t)
    const newton = t - step
    if (Math.abs(step) < CLOSE_ENOUGH_C) return newton
    t = newton > low && newton < up ? newton : (low + up) / 2
  }
  return t
}
