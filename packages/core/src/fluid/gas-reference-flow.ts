// Gas flow as it flows, at reference conditions, and as mass: each from any one of them, by the real gas at both
// states.
import { Refusal } from '../refusal/index.ts'
import { gasProperties, type Composition } from './gas.ts'
import { sure } from '../sure/index.ts'

/** Reference temperatures in use, °C: 0, 15, 60 °F and 20. */
export const REFERENCE_TEMPERATURES_C = [0, 15, 15.5556, 20] as const
export const REFERENCE_PRESSURE_kPa = 101.325

export interface GasFlowInput {
  readonly composition: Composition
  /** Of the flowing gas; pressure absolute. */
  readonly temp_C: number
  readonly pressure_kPa: number
  /** Exactly one of the three, 0 or more. */
  readonly actualFlow_m3ph?: number | undefined
  readonly referenceFlow_m3ph?: number | undefined
  readonly massFlow_kgph?: number | undefined
  readonly refTemp_C: number
  readonly refPressure_kPa?: number | undefined
}

export interface GasFlow {
  readonly actualFlow_m3ph: number
  readonly referenceFlow_m3ph: number
  readonly massFlow_kgph: number
  readonly zActual: number
  readonly zReference: number
  readonly densityActual_kgm3: number
  readonly densityReference_kgm3: number
}

/**
 * All three flows of a gas from one. What is given comes back as given.
 * @throws Refusal `invalid-input` and those of `gasProperties`
 * Source: AGA Report No. 8 Part 1, DETAIL, at both states; mass is conserved.
 */
export function gasReferenceFlow(input: GasFlowInput): GasFlow {
  const { composition, temp_C, pressure_kPa, actualFlow_m3ph, referenceFlow_m3ph, massFlow_kgph, refTemp_C } = input
  const { refPressure_kPa = REFERENCE_PRESSURE_kPa } = input
  if ([actualFlow_m3ph, referenceFlow_m3ph, massFlow_kgph].filter((v) => v !== undefined).length !== 1)
    throw new Refusal('invalid-input', 'Give exactly one of actual, reference and mass flow.')
  const actual = gasProperties(composition, temp_C, pressure_kPa)
  const reference = gasProperties(composition, refTemp_C, refPressure_kPa)
  const [rho, rhoRef] = [actual.density_kgm3, reference.density_kgm3]
  const mass =
    massFlow_kgph ?? (actualFlow_m3ph === undefined ? sure(referenceFlow_m3ph) * rhoRef : actualFlow_m3ph * rho)
  return {
    actualFlow_m3ph: actualFlow_m3ph ?? mass / rho,
    referenceFlow_m3ph: referenceFlow_m3ph ?? mass / rhoRef,
    massFlow_kgph: mass,
    zActual: actual.z,
    zReference: reference.z,
    densityActual_kgm3: rho,
    densityReference_kgm3: rhoRef,
  }
}
