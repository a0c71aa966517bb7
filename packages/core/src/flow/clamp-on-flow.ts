// What a clamp-on pair measures: velocity on its path, mean velocity by the profile, volume flow, and the fluid's
// sound speed.
import { clampOnGeometry, type Beam, type BeamInput } from './clamp-on-geometry.ts'
import { profileFactor } from './profile-factor.ts'

export interface ClampOnInput extends BeamInput {
  /** Against the flow and with it, in the fluid only, µs, above 0. */
  readonly upTime_us: number
  readonly downTime_us: number
  readonly kinematicViscosity_cSt: number
}
export interface ClampOnResult {
  readonly pathVelocity_mps: number
  /** On mean velocity and bore, 0 or more. */
  readonly reynolds: number
  readonly profileFactor: number
  readonly meanVelocity_mps: number
  /** Negative against the arrow of the pair. */
  readonly volumeFlow_m3ph: number
  readonly measuredSoundSpeed_mps: number
}

const CLOSE = 1e-12
const MOST_ROUNDS = 200

/**
 * Flow from two transit times. The profile factor hangs on the Reynolds number of the mean velocity, which hangs on
 * the factor: iterated.
 * Source: axial flow, first order in velocity over sound speed
 * @throws Refusal as `clampOnGeometry`
 */
export function clampOnFlow(input: ClampOnInput): ClampOnResult {
  return flowThrough(clampOnGeometry(input), input.upTime_us, input.downTime_us, input.kinematicViscosity_cSt)
}

/** The same along a beam that is known already. */
export function flowThrough(
  beam: Beam,
  upTime_us: number,
  downTime_us: number,
  kinematicViscosity_cSt: number,
): ClampOnResult {
  const { fluidAngle_deg, fluidPath_mm, id_mm } = beam
  const path_m = fluidPath_mm / 1000
  const up_s = upTime_us / 1e6
  const down_s = downTime_us / 1e6
  const pathVelocity = (path_m / (2 * Math.sin((fluidAngle_deg * Math.PI) / 180))) * (1 / down_s - 1 / up_s)
  const perFactor = (Math.abs(pathVelocity) * (id_mm / 1000)) / (kinematicViscosity_cSt * 1e-6)
  // The factor rises by at most 0.37 of itself where the number doubles: each round comes closer.
  let factor = profileFactor(perFactor)
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = profileFactor(perFactor * factor)
    const step = Math.abs(next - factor)
    factor = next
    if (step < CLOSE) break
  }
  const meanVelocity = factor * pathVelocity
  return {
    pathVelocity_mps: pathVelocity,
    reynolds: perFactor * factor,
    profileFactor: factor,
    meanVelocity_mps: meanVelocity,
    volumeFlow_m3ph: meanVelocity * (Math.PI / 4) * (id_mm / 1000) ** 2 * 3600,
    measuredSoundSpeed_mps: (path_m / 2) * (1 / down_s + 1 / up_s),
  }
}
