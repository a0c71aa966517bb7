// The beam of a clamp-on pair through wedge, wall, liner and fluid: its angles, the spacing of the pair, its way in
// the fluid.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export interface BeamInput {
  readonly od_mm: number
  readonly wall_mm: number
  /** Speed of the wave in the wall, the one that the transducers use, m/s. */
  readonly wallSpeed_mps: number
  readonly liner_mm?: number | undefined
  readonly linerSpeed_mps?: number | undefined
  readonly fluidSpeed_mps: number
  readonly wedgeSpeed_mps: number
  /** In the wedge, from the normal to the pipe, degrees, above 0. */
  readonly wedgeAngle_deg: number
  readonly traverses: 1 | 2 | 3 | 4
}
export interface Beam {
  readonly wallAngle_deg: number
  readonly fluidAngle_deg: number
  /** Bore that the fluid has, inside the liner, mm. */
  readonly id_mm: number
  /** Along the pipe, between the points where the beam crosses the outer surface, mm. */
  readonly spacing_mm: number
  /** Way in the fluid over all traverses, mm. */
  readonly fluidPath_mm: number
  /** Time on that way without flow, µs. */
  readonly fluidTransit_us: number
  /** Whether both transducers stand on the same side of the pipe. */
  readonly side: 'same' | 'opposite'
}

const degrees = (radians: number) => (radians * 180) / Math.PI

/**
 * The beam by Snell's law through each layer, reflected at the bore.
 * @throws Refusal `no-transmission` where a layer reflects totally, `no-bore` where wall and liner leave none
 */
export function clampOnGeometry(input: BeamInput): Beam {
  const { od_mm, wall_mm, liner_mm = 0, traverses } = input
  // What stays the same across every boundary: sine over speed.
  const slowness = Math.sin((input.wedgeAngle_deg * Math.PI) / 180) / input.wedgeSpeed_mps
  const angle = (layer: string, speed: number): number => {
    const sine = slowness * speed
    if (sine >= 1)
      throw new Refusal(
        'no-transmission',
        `The beam is totally reflected at the ${layer}: take a steeper wedge or another wave.`,
      )
    return Math.asin(sine)
  }
  const wall = angle('wall', input.wallSpeed_mps)
  const liner = liner_mm > 0 ? angle('liner', sure(input.linerSpeed_mps)) : 0
  const fluid = angle('fluid', input.fluidSpeed_mps)
  const id_mm = od_mm - 2 * wall_mm - 2 * liner_mm
  if (!(id_mm > 0)) throw new Refusal('no-bore', 'Wall and liner leave no bore inside this diameter.')
  const fluidPath_mm = (traverses * id_mm) / Math.cos(fluid)
  return {
    wallAngle_deg: degrees(wall),
    fluidAngle_deg: degrees(fluid),
    id_mm,
    spacing_mm: 2 * wall_mm * Math.tan(wall) + 2 * liner_mm * Math.tan(liner) + traverses * id_mm * Math.tan(fluid),
    fluidPath_mm,
    fluidTransit_us: (1000 * fluidPath_mm) / input.fluidSpeed_mps,
    side: traverses % 2 === 0 ? 'same' : 'opposite',
  }
}
