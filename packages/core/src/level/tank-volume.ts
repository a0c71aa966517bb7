// Tanks: from the level above the lowest inside point to the volume, by shape.
import { Refusal } from '../refusal/index.ts'

export type TankHeads = 'flat' | 'ellipsoidal-2:1' | 'hemispherical'

export type Tank =
  | {
      readonly shape: 'vertical-cylinder'
      readonly diameter_m: number
      /** Straight part, m. */
      readonly height_m: number
      /** Bottom cone to a point, below the straight part, m. */
      readonly coneHeight_m?: number | undefined
    }
  | {
      readonly shape: 'horizontal-cylinder'
      readonly diameter_m: number
      /** Straight part, m. */
      readonly length_m: number
      /** The same at both ends, outside the straight part. */
      readonly heads: TankHeads
    }
  | { readonly shape: 'box'; readonly length_m: number; readonly width_m: number; readonly height_m: number }
  | { readonly shape: 'sphere'; readonly diameter_m: number }

/** Inside height of the tank, m. */
export function tankHeight_m(tank: Tank): number {
  switch (tank.shape) {
    case 'vertical-cylinder':
      return tank.height_m + (tank.coneHeight_m ?? 0)
    case 'box':
      return tank.height_m
    default:
      return tank.diameter_m
  }
}

/** Volume of a spherical cap of height h in a sphere of radius r. */
const sphereCap = (r: number, h: number): number => (Math.PI * h * h * (3 * r - h)) / 3

/**
 * Area of a circular segment of height h in a circle of radius r. The half angle comes from its tangent: an arc cosine loses half of
 * its figures near the bottom and near the top, and the area then falls with the level.
 */
function circleSegment(r: number, h: number): number {
  const above = Math.max(0, 2 * r - h)
  const angle = 2 * Math.atan2(Math.sqrt(h), Math.sqrt(above))
  return r * r * angle - (r - h) * Math.sqrt(h * above)
}

function volumeTo(tank: Tank, h: number): number {
  switch (tank.shape) {
    case 'vertical-cylinder': {
      const area = (Math.PI * tank.diameter_m ** 2) / 4
      const cone = tank.coneHeight_m ?? 0
      if (cone > 0 && h < cone) return (area * h * (h / cone) ** 2) / 3
      return (area * cone) / 3 + area * (h - cone)
    }
    case 'horizontal-cylinder': {
      const r = tank.diameter_m / 2
      // Two heads make one ellipsoid of half-axis (along the tank) D/4, R or nothing: a sphere's cap, squeezed.
      const squeeze = { flat: 0, 'ellipsoidal-2:1': 0.5, hemispherical: 1 }[tank.heads]
      return circleSegment(r, h) * tank.length_m + squeeze * sphereCap(r, h)
    }
    case 'box':
      return tank.length_m * tank.width_m * h
    case 'sphere':
      return sphereCap(tank.diameter_m / 2, h)
  }
}

/**
 * Volume at a level (from the lowest inside point), the full volume, both m³, and the per cent of full.
 * @throws Refusal `level-outside-tank`, `invalid-input` for a size not above 0
 * Source: solid geometry; horizontal heads as halves of one ellipsoid of revolution.
 */
export function tankVolume(tank: Tank, level_m: number): { volume_m3: number; full_m3: number; percent: number } {
  const sizes = Object.entries(tank).filter(([key]) => key.endsWith('_m') && key !== 'coneHeight_m')
  if (sizes.some(([, size]) => !((size as number) > 0)))
    throw new Refusal('invalid-input', 'Every size of the tank must be above 0 m.')
  if (tank.shape === 'vertical-cylinder' && (tank.coneHeight_m ?? 0) < 0)
    throw new Refusal('invalid-input', 'The cone’s height must be 0 m or more.')
  const height = tankHeight_m(tank)
  if (!(level_m >= 0 && level_m <= height))
    throw new Refusal('level-outside-tank', `The level must lie between 0 and the inside height of ${height} m.`)
  const full_m3 = volumeTo(tank, height)
  const volume_m3 = volumeTo(tank, level_m)
  return { volume_m3, full_m3, percent: (100 * volume_m3) / full_m3 }
}
