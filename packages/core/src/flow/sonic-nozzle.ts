// A sonic nozzle passes a known flow of gas whatever stands behind it: what a thermal meter is verified with in its
// place.

const R = 8.314462618
/** Ratio of heats, and molar mass in kg/mol. */
const GASES = {
  nitrogen: { gamma: 1.4, molarMass: 0.0280134 },
  air: { gamma: 1.4, molarMass: 0.0289647 },
  carbonDioxide: { gamma: 1.289, molarMass: 0.0440095 },
} as const
export type NozzleGas = keyof typeof GASES
export const NOZZLE_GASES = Object.keys(GASES) as [NozzleGas, ...NozzleGas[]]

export interface NozzleInput {
  readonly throat_mm: number
  readonly dischargeCoefficient: number
  readonly gas: NozzleGas
  /** Upstream stagnation, absolute. */
  readonly pressure_kPa: number
  readonly temp_C: number
  readonly refTemp_C?: number | undefined
  readonly refPressure_kPa?: number | undefined
}

/**
 * Choked flow of an ideal gas; back-pressure is taken as low enough.
 * Source: isentropic flow, largest mass flux at the throat (as in ISO 9300, with the ideal critical flow function)
 */
export function sonicNozzle(i: NozzleInput): { massFlow_kgph: number; refVolumeFlow_m3ph: number } {
  const { gamma, molarMass } = GASES[i.gas]
  const area = (Math.PI / 4) * (i.throat_mm / 1000) ** 2
  const critical = Math.sqrt(gamma) * (2 / (gamma + 1)) ** ((gamma + 1) / (2 * (gamma - 1)))
  const own = R / molarMass
  const mass = (i.dischargeCoefficient * area * critical * i.pressure_kPa * 1000) / Math.sqrt(own * (i.temp_C + 273.15))
  const reference = ((i.refPressure_kPa ?? 101.325) * 1000) / (own * ((i.refTemp_C ?? 20) + 273.15))
  return { massFlow_kgph: 3600 * mass, refVolumeFlow_m3ph: (3600 * mass) / reference }
}
