// What the meter makes of a flow and back, as the thread, the doubt and the bench need it.
import { clampOnFlow, clampOnGeometry, profileFactor, transitTimes, type BeamInput } from '../../flow/index.ts'

/** Mean velocity, m/s, of a volume flow in m³/h in a bore in mm. */
export const meanVelocity = (flow_m3ph: number, id_mm: number): number =>
  flow_m3ph / 3600 / ((Math.PI / 4) * (id_mm / 1000) ** 2)
export const volumeFlow = (velocity_mps: number, id_mm: number): number =>
  velocity_mps * (Math.PI / 4) * (id_mm / 1000) ** 2 * 3600

/** Times in the fluid for a mean velocity, µs, and their difference, ns. */
export function timesOf(input: BeamInput, kinematic_cSt: number, velocity_mps: number) {
  const beam = clampOnGeometry(input)
  const reynolds = (Math.abs(velocity_mps) * (beam.id_mm / 1000)) / (kinematic_cSt * 1e-6)
  const times = transitTimes(beam, input.fluidSpeed_mps, velocity_mps / profileFactor(reynolds))
  return { ...times, difference_ns: 1000 * (times.upTime_us - times.downTime_us), reynolds, beam }
}

/** Mean velocity that makes a time difference, m/s. */
export function velocityOf(input: BeamInput, kinematic_cSt: number, difference_ns: number): number {
  const beam = clampOnGeometry(input)
  // t_up − t_down = d with t = P/(c ∓ w): 2Pw = d(c² − w²).
  const path = beam.fluidPath_mm * 1000
  const d = difference_ns / 1000
  const along = d === 0 ? 0 : (-path + Math.sqrt(path * path + d * d * input.fluidSpeed_mps ** 2)) / d
  const times = { upTime_us: path / (input.fluidSpeed_mps - along), downTime_us: path / (input.fluidSpeed_mps + along) }
  return clampOnFlow({ ...input, ...times, kinematicViscosity_cSt: kinematic_cSt }).meanVelocity_mps
}
