// A Coriolis meter's two equations: density from its period, mass flow from the time between its ends.
import { Refusal } from '../refusal/index.ts'

export interface CoriolisDensityInput {
  readonly lowPeriod_us: number
  readonly lowDensity_kgm3: number
  readonly highPeriod_us: number
  readonly highDensity_kgm3: number
  /** % of period² per 100 °C. */
  readonly periodTempCoeff: number
  readonly period_us: number
  readonly temp_C: number
}

/** Share left after a coefficient in % per 100 °C. */
const corrected = (coeff: number, temp_C: number) => 1 - (coeff / 100) * (temp_C / 100)

/**
 * Density, linear in the squared period between two constants.
 * Source: a spring and a mass; the tube's stiffness falls with temperature
 * @throws Refusal `degenerate-constants` when both periods are equal
 */
export function coriolisDensity(i: CoriolisDensityInput): { density_kgm3: number } {
  const [low, high] = [i.lowPeriod_us ** 2, i.highPeriod_us ** 2]
  if (low === high)
    throw new Refusal(
      'degenerate-constants',
      'The two periods are equal: between them there is no density. Read them again.',
    )
  const square = i.period_us ** 2 * corrected(i.periodTempCoeff, i.temp_C)
  const share = (square - low) / (high - low)
  return { density_kgm3: i.lowDensity_kgm3 + share * (i.highDensity_kgm3 - i.lowDensity_kgm3) }
}

export interface CoriolisFlowInput {
  readonly flowCal_gps_per_us: number
  readonly timeDelay_us: number
  readonly zero_us: number
  /** % per 100 °C. */
  readonly flowTempCoeff: number
  readonly temp_C: number
  readonly cutoff_gps: number
}

/**
 * Mass flow; 0 below the cutoff.
 * @throws Refusal `cutoff-not-positive`: without one, noise is counted as flow while nothing flows
 */
export function coriolisMassFlow(i: CoriolisFlowInput): { massFlow_gps: number } {
  if (!(i.cutoff_gps > 0))
    throw new Refusal(
      'cutoff-not-positive',
      'The low-flow cutoff must be above 0: without one the total creeps while nothing flows.',
    )
  const flow = i.flowCal_gps_per_us * (i.timeDelay_us - i.zero_us) * corrected(i.flowTempCoeff, i.temp_C)
  return { massFlow_gps: Math.abs(flow) < i.cutoff_gps ? 0 : flow }
}
