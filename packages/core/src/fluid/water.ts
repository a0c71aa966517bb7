// Liquid water and steam as a flow meter needs them: density, sound speed, viscosity.
import { knownRange } from './known-range.ts'
import { Refusal } from '../refusal/index.ts'
import {
  boilingDensity_kgm3,
  saturationPressure_kPa,
  soundSpeedOf,
  waterState,
  waterViscosity_mPas,
} from './water-equation.ts'

export interface FluidProperties {
  readonly density_kgm3: number
  readonly soundSpeed_mps: number
  readonly viscosity_mPas: number
}

const KELVIN = 273.15
/** Of the liquid’s compressibility, 1/kPa: only to start the search on the dense side of the answer. */
const START_COMPRESSIBILITY = 6e-7

/**
 * Liquid water.
 * @param temp_C 0.01 … 200
 * @param pressure_kPa absolute, above 0, to 100 000
 * @throws Refusal `out-of-range` (judged first), `not-liquid` where it boils
 * Source: IAPWS R6-95(2018); viscosity IAPWS R12-08
 */
export function waterProperties(temp_C: number, pressure_kPa: number): FluidProperties {
  if (!(temp_C >= 0.01 && temp_C <= 200 && pressure_kPa > 0 && pressure_kPa <= 100_000))
    throw new Refusal('out-of-range', knownRange('Water', [0.01, 200], 100_000))
  const T = temp_C + KELVIN
  if (pressure_kPa < saturationPressure_kPa(T))
    throw new Refusal('not-liquid', 'Water boils at this temperature and pressure: it is not a liquid.')
  const state = waterState(T, pressure_kPa * 1000, boilingDensity_kgm3(T) * (1 + START_COMPRESSIBILITY * pressure_kPa))
  return {
    density_kgm3: state.density_kgm3,
    soundSpeed_mps: soundSpeedOf(state, T),
    viscosity_mPas: waterViscosity_mPas(T, state.density_kgm3),
  }
}

/**
 * Density of water as it boils, kg/m³, at a temperature from 1 to 370 °C: within 0.01 % that of water under a few bar.
 * Source: IAPWS SR1-86(1992), equation 2
 */
export const boilingWaterDensity_kgm3 = (temp_C: number): number => boilingDensity_kgm3(temp_C + 273.15)

/**
 * Steam that is not wet.
 * @param temp_C 0.01 … 500
 * @param pressure_kPa absolute, above 0, to 10 000
 * @returns besides the rest the isentropic exponent ρc²/p
 * @throws Refusal `out-of-range`, `not-steam` where it condenses (a wet steam has no one density)
 * Source: IAPWS R6-95(2018); viscosity IAPWS R12-08
 */
export function steamProperties(
  temp_C: number,
  pressure_kPa: number,
): FluidProperties & { isentropicExponent: number } {
  if (!(temp_C >= 0.01 && temp_C <= 500 && pressure_kPa > 0 && pressure_kPa <= 10_000))
    throw new Refusal('out-of-range', knownRange('Steam', [0.01, 500], 10_000))
  const T = temp_C + KELVIN
  if (T < 647 && pressure_kPa > saturationPressure_kPa(T))
    throw new Refusal(
      'not-steam',
      'Steam condenses at this temperature and pressure: wet steam cannot be metered by this.',
    )
  const ideal = (pressure_kPa * 1000) / (461.51805 * T)
  const state = waterState(T, pressure_kPa * 1000, ideal)
  const soundSpeed = soundSpeedOf(state, T)
  return {
    density_kgm3: state.density_kgm3,
    soundSpeed_mps: soundSpeed,
    viscosity_mPas: waterViscosity_mPas(T, state.density_kgm3),
    isentropicExponent: (state.density_kgm3 * soundSpeed ** 2) / (pressure_kPa * 1000),
  }
}

/** Temperature at which steam of this pressure condenses, °C; between 0.01 and 370 °C. */
export function saturationTemperature_C(pressure_kPa: number): number {
  let [low, high] = [273.16, 643]
  for (let round = 0; round < 60; round++) {
    const middle = (low + high) / 2
    if (saturationPressure_kPa(middle) < pressure_kPa) low = middle
    else high = middle
  }
  return (low + high) / 2 - KELVIN
}
