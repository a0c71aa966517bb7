// Platinum resistance thermometers: temperature to resistance and back.
import { Refusal } from '../refusal/index.ts'

const A = 3.9083e-3
const B = -5.775e-7
const C = -4.183e-12
const LOWEST_C = -200
const HIGHEST_C = 850
/** Room for rounding at the ends of the standard's range, °C. */
const ROUNDING_C = 1e-6

function checkRange(temp_C: number): number {
  if (!(temp_C >= LOWEST_C - ROUNDING_C && temp_C <= HIGHEST_C + ROUNDING_C))
    throw new Refusal('out-of-range', `A platinum thermometer is defined from ${LOWEST_C} to ${HIGHEST_C} °C.`)
  return temp_C
}

function ratio(t: number): number {
  return 1 + A * t + B * t * t + (t < 0 ? C * (t - 100) * t * t * t : 0)
}

/**
 * Resistance, Ω, of a platinum thermometer of `r0_Ohm` at 0 °C, for −200 … 850 °C.
 * @throws Refusal `out-of-range`, `invalid-input`
 * Source: IEC 60751 (Callendar–Van Dusen; C below 0 °C only).
 */
export function rtdResistance(temp_C: number, r0_Ohm = 100): number {
  if (!(r0_Ohm > 0)) throw new Refusal('invalid-input', 'The resistance at 0 °C must be above 0 Ω.')
  return r0_Ohm * ratio(checkRange(temp_C))
}

/**
 * Temperature, °C, of a platinum thermometer that reads `ohm`: the inverse of `rtdResistance`, exact above 0 °C, by
 * Newton's method below.
 * @throws Refusal `out-of-range`, `invalid-input`
 */
export function rtdTemperature(ohm: number, r0_Ohm = 100): number {
  if (!(r0_Ohm > 0)) throw new Refusal('invalid-input', 'The resistance at 0 °C must be above 0 Ω.')
  const w = ohm / r0_Ohm
  const discriminant = A * A - 4 * B * (1 - w)
  if (!(discriminant >= 0)) return checkRange(Number.POSITIVE_INFINITY)
  let t = (-A + Math.sqrt(discriminant)) / (2 * B)
  if (t < 0) {
    for (let i = 0; i < 60; i++) {
      const slope = A + 2 * B * t + C * (4 * t * t * t - 300 * t * t)
      const step = (ratio(t) - w) / slope
      t -= step
      if (Math.abs(step) < 1e-12 * Math.max(1, Math.abs(t))) break
    }
  }
  return checkRange(t)
}
