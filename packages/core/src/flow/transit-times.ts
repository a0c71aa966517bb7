// The two transit times that a velocity makes on a clamp-on beam, and what the wall, liner and wedges add to them.
import type { Beam, BeamInput } from './clamp-on-geometry.ts'
import { sure } from '../sure/index.ts'

/**
 * Times in the fluid, µs, against the flow and with it.
 * @param pathVelocity_mps along the pipe, as the beam sees it; negative against the arrow
 * Source: the inverse of `clampOnFlow` (axial flow, first order in velocity over sound speed)
 */
export function transitTimes(
  beam: Pick<Beam, 'fluidAngle_deg' | 'fluidPath_mm'>,
  fluidSpeed_mps: number,
  pathVelocity_mps: number,
): { upTime_us: number; downTime_us: number } {
  const along = pathVelocity_mps * Math.sin((beam.fluidAngle_deg * Math.PI) / 180)
  const path = beam.fluidPath_mm * 1000
  return { upTime_us: path / (fluidSpeed_mps - along), downTime_us: path / (fluidSpeed_mps + along) }
}

/**
 * Time outside the fluid, µs: twice through wall and liner. The wedges’ own time is known to the meter and left out.
 */
export function wallDelay_us(input: BeamInput, beam: Beam): number {
  const cos = (angle_deg: number) => Math.cos((angle_deg * Math.PI) / 180)
  const wall = (2000 * input.wall_mm) / (input.wallSpeed_mps * cos(beam.wallAngle_deg))
  const liner_mm = input.liner_mm ?? 0
  if (!(liner_mm > 0)) return wall
  const sine = (Math.sin((input.wedgeAngle_deg * Math.PI) / 180) / input.wedgeSpeed_mps) * sure(input.linerSpeed_mps)
  return wall + (2000 * liner_mm) / (sure(input.linerSpeed_mps) * Math.sqrt(1 - sine * sine))
}
