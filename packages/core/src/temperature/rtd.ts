// Platinum resistance thermometers: temperature to resistance and back.
import { Refusal } from '../refusal/index.ts'

/** Constants of a platinum element: R = R₀·(1 + A·t + B·t² + C·(t − 100)·t³), C below 0 °C only. */
export interface Platinum {
  /** 1/K, 1/K², 1/K⁴. */
  readonly a: number
  readonly b: number
  readonly c: number
}
export const IEC_60751: Platinum = { a: 3.9083e-3, b: -5.775e-7, c: -4.183e-12 }
const LOWEST_C = -200
const HIGHEST_C = 850
/** Room for rounding at the ends of the standard's range, °C. */
const ROUNDING_C = 1e-6

function checkRange(temp_C: number): number {
  if (!(temp_C >= LOWEST_C - ROUNDING_C && temp_C <= HIGHEST_C + ROUNDING_C))
    throw new Refusal('out-of-range', `A platinum thermometer is defined from ${LOWEST_C} to ${HIGHEST_C} °C.`)
  return temp_C
}

function ratio(t: number, { a, b, c }: Platinum): number {
  return 1 + a * t + b * t * t + (t < 0 ? c * (t - 100) * t * t * t : 0)
}

/**
 * Resistance, Ω, of a platinum thermometer of `r0_Ohm` at 0 °C, for −200 … 850 °C.
 * @throws Refusal `out-of-range`, `invalid-input`
 * @param constants those of IEC 60751, or of the element’s own certificate; b below 0
 * Source: IEC 60751 (Callendar–Van Dusen; C below 0 °C only).
 */
export function rtdResistance(temp_C: number, r0_Ohm = 100, constants = IEC_60751): number {
  if (!(r0_Ohm > 0)) throw new Refusal('invalid-input', 'The resistance at 0 °C must be above 0 Ω.')
  return r0_Ohm * ratio(checkRange(temp_C), constants)
}

/**
 * Temperature, °C, of a platinum thermometer that reads `ohm`: the inverse of `rtdResistance`, exact above 0 °C, by
 * Newton's method below.
 * @throws Refusal `out-of-range`, `invalid-input`
 */
export function rtdTemperature(ohm: number, r0_Ohm = 100, constants = IEC_60751): number {
  if (!(r0_Ohm > 0)) throw new Refusal('invalid-input', 'The resistance at 0 °C must be above 0 Ω.')
  const { a, b, c } = constants
  const w = ohm / r0_Ohm
  const discriminant = a * a - 4 * b * (1 - w)
  if (!(discriminant >= 0)) return checkRange(Number.POSITIVE_INFINITY)
  let t = (-a + Math.sqrt(discriminant)) / (2 * b)
  if (t < 0) {
    for (let i = 0; i < 60; i++) {
      const slope = a + 2 * b * t + c * (4 * t * t * t - 300 * t * t)
      const step = (ratio(t, constants) - w) / slope
      t -= step
      if (Math.abs(step) < 1e-12 * Math.max(1, Math.abs(t))) break
    }
  }
  return checkRange(t)
}
