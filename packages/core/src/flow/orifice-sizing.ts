// An orifice the other way round: the differential pressure that a wanted flow makes.
import { formatQuantity } from '../quantity/index.ts'
import { Refusal } from '../refusal/index.ts'
import {
  dischargeCoefficient,
  expansibility,
  flowPerCoefficient,
  orificeFlow,
  type OrificeInput,
  type OrificeResult,
} from './orifice-flow.ts'

/** Downstream over upstream pressure down to which the standard’s expansibility holds. */
const LOWEST_RATIO = 0.75

/**
 * Differential pressure, kPa, at which the plate passes a mass flow.
 * @param massFlow_kgps above 0
 * @throws Refusal as `orificeFlow`; `out-of-range` when the flow needs more than 1000 kPa, or in a gas more than a
 * quarter of the pressure
 * Source: the inverse of ISO 5167-2:2003
 */
export function orificeDp(
  plate: Omit<OrificeInput, 'dp_kPa'>,
  massFlow_kgps: number,
): OrificeResult & { dp_kPa: number } {
  const at = (dp_kPa: number) => orificeFlow({ ...plate, dp_kPa })
  let high = plate.compressible ? (1 - LOWEST_RATIO) * plate.compressible.pressure_kPa : 1000
  let low = high * 1e-9
  if (!(massFlow_kgps > 0) || at(high).massFlow_kgps < massFlow_kgps)
    throw new Refusal(
      'out-of-range',
      plate.compressible
        ? 'This flow would take more than a quarter of the upstream pressure, beyond what the standard covers. ' +
            'Take a larger bore.'
        : `This flow would take more than ${formatQuantity(1000, 'kPa', { trim: true })}. Take a larger bore.`,
    )
  // The flow is given, and with it Reynolds number and coefficient: only the expansibility hangs on the pressure.
  const beta = plate.bore_mm / plate.pipe_mm
  const perFlow = 4 / (Math.PI * (plate.viscosity_mPas / 1000) * (plate.pipe_mm / 1000))
  const coefficient = dischargeCoefficient(beta, perFlow * massFlow_kgps, plate.pipe_mm, plate.taps)
  const { compressible } = plate
  const epsilon = (dp_kPa: number) =>
    compressible ? expansibility(beta, dp_kPa, compressible.pressure_kPa, compressible.isentropicExponent) : 1
  const passes = (dp_kPa: number) => coefficient * epsilon(dp_kPa) * flowPerCoefficient(plate, dp_kPa)
  // The flow goes nearly with the root of the pressure: each step takes the pressure that it would then need, kept
  // inside of what is known.
  let dp_kPa = Math.sqrt(low * high)
  for (let round = 0; round < 200 && high - low > 1e-14 * high; round++) {
    const found = passes(dp_kPa)
    if (found < massFlow_kgps) low = dp_kPa
    else high = dp_kPa
    const next = dp_kPa * (massFlow_kgps / found) ** 2
    const close = Math.abs(next - dp_kPa) <= 1e-14 * dp_kPa
    if (close) break
    // Every third step halves what is left, so that it ends whatever the expansibility does.
    dp_kPa = round % 3 < 2 && next > low && next < high ? next : Math.sqrt(low * high)
  }
  return { ...at(dp_kPa), dp_kPa }
}
