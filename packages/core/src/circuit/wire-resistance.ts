// Copper in the loop: the resistance of the cable there and back, at its temperature.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

/** Resistivity of annealed copper at 20 °C, Ω·m (IEC 60028). */
export const COPPER_RESISTIVITY = 1.7241e-8
/** Temperature coefficient of copper's resistance at 20 °C, 1/K (IEC 60028). */
export const COPPER_COEFFICIENT = 0.00393

/** Cross-section in mm² of an American wire gauge number; 1/0 is 0, 2/0 is −1, and so on. Source: ASTM B258. */
export function awgArea_mm2(awg: number): number {
  return 0.012668 * 92 ** ((36 - awg) / 19.5)
}

export interface WireInput {
  readonly awg?: number | undefined
  /** Cross-section of one conductor, mm², above 0. */
  readonly area_mm2?: number | undefined
  /** One way, m, 0 or more. */
  readonly length_m: number
  /** Temperature of the conductor, °C. */
  readonly temp_C: number
}

/**
 * Resistance of one conductor per km at 20 °C, and of the pair (there and back) at its temperature, both Ω.
 * @throws Refusal `invalid-input` unless exactly one of `awg` and `area_mm2` is given
 * Source: IEC 60028, linear temperature law.
 */
export function wireResistance(input: WireInput): { ohmPerKm20C: number; ohmLoop: number } {
  if ((input.awg === undefined) === (input.area_mm2 === undefined))
    throw new Refusal('invalid-input', 'Give the conductor as a gauge number or as a cross-section, one of the two.')
  const area = input.area_mm2 ?? awgArea_mm2(sure(input.awg))
  if (!(area > 0)) throw new Refusal('invalid-input', 'The conductor’s cross-section must be above 0 mm².')
  if (!(input.length_m >= 0)) throw new Refusal('invalid-input', 'The cable length must be 0 m or more.')
  const ohmPerKm20C = (COPPER_RESISTIVITY * 1e9) / area
  return {
    ohmPerKm20C,
    ohmLoop: 2 * (input.length_m / 1000) * ohmPerKm20C * (1 + COPPER_COEFFICIENT * (input.temp_C - 20)),
  }
}
