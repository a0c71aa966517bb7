// Tanks: from the level above the lowest inside point to the volume, by shape.
import { Refusal } from '../refusal/index.ts'
import {
  headDepth_m,
  lyingHeadVolume_m3,
  segmentArea,
  uprightHeadVolume_m3,
  type Head,
  type HeadForm,
} from './heads.ts'

export type TankHeads = 'flat' | HeadForm

/** Inside radii of torispherical heads, m. */
interface HeadRadii {
  readonly crown_m?: number | undefined
  readonly knuckle_m?: number | undefined
}

export type Tank =
  | ({
      readonly shape: 'vertical-cylinder'
      readonly diameter_m: number
      /** Straight part, m. */
      readonly height_m: number
      /** Bottom cone to a point, below the straight part, m. */
      readonly coneHeight_m?: number | undefined
      /** A head in the place of the cone. */
      readonly bottom?: HeadForm | undefined
    } & HeadRadii)
  | ({
      readonly shape: 'horizontal-cylinder'
      readonly diameter_m: number
      /** Straight part, m. */
      readonly length_m: number
      /** The same at both ends, outside the straight part. */
      readonly heads: TankHeads
    } & HeadRadii)
  | { readonly shape: 'box'; readonly length_m: number; readonly width_m: number; readonly height_m: number }
  | { readonly shape: 'sphere'; readonly diameter_m: number }

type Rounded = Extract<Tank, HeadRadii>

const headOf = (tank: Rounded, form: HeadForm): Head => ({
  form,
  diameter_m: tank.diameter_m,
  crown_m: tank.crown_m,
  knuckle_m: tank.knuckle_m,
})

/** Height of what closes an upright cylinder below, m. */
const bottomHeight_m = (tank: Extract<Tank, { shape: 'vertical-cylinder' }>): number =>
  tank.bottom ? headDepth_m(headOf(tank, tank.bottom)) : (tank.coneHeight_m ?? 0)

/** Inside height of the tank, m. */
export function tankHeight_m(tank: Tank): number {
  switch (tank.shape) {
    case 'vertical-cylinder':
      return tank.height_m + bottomHeight_m(tank)
    case 'box':
      return tank.height_m
    default:
      return tank.diameter_m
  }
}

/** Volume of a spherical cap of height h in a sphere of radius r. */
const sphereCap = (r: number, h: number): number => (Math.PI * h * h * (3 * r - h)) / 3

function volumeTo(tank: Tank, h: number): number {
  switch (tank.shape) {
    case 'vertical-cylinder': {
      const area = (Math.PI * tank.diameter_m ** 2) / 4
      const below = bottomHeight_m(tank)
      if (tank.bottom) {
        const head = headOf(tank, tank.bottom)
        return uprightHeadVolume_m3(head, Math.min(h, below)) + area * Math.max(0, h - below)
      }
      if (below > 0 && h < below) return (area * h * (h / below) ** 2) / 3
      return (area * below) / 3 + area * (h - below)
    }
    case 'horizontal-cylinder': {
      const straight = segmentArea(tank.diameter_m / 2, h) * tank.length_m
      return tank.heads === 'flat' ? straight : straight + 2 * lyingHeadVolume_m3(headOf(tank, tank.heads), h)
    }
    case 'box':
      return tank.length_m * tank.width_m * h
    case 'sphere':
      return sphereCap(tank.diameter_m / 2, h)
  }
}

/**
 * Volume at a level (from the lowest inside point), the full volume, both m³, and the per cent of full.
 * @throws Refusal `invalid-input` for a size not above 0, `impossible-head`, `level-outside-tank`
 * Source: solid geometry; heads as in `heads.ts`.
 */
export function tankVolume(tank: Tank, level_m: number): { volume_m3: number; full_m3: number; percent: number } {
  const sizes = Object.entries(tank).filter(
    ([key]) => key.endsWith('_m') && !['coneHeight_m', 'crown_m', 'knuckle_m'].includes(key),
  )
  if (sizes.some(([, size]) => !((size as number) > 0)))
    throw new Refusal('invalid-input', 'Every size of the tank must be above 0 m.')
  if (tank.shape === 'vertical-cylinder' && (tank.coneHeight_m ?? 0) < 0)
    throw new Refusal('invalid-input', 'The cone’s height must be 0 m or more.')
  if (tank.shape === 'vertical-cylinder' && tank.bottom && (tank.coneHeight_m ?? 0) > 0)
    throw new Refusal('invalid-input', 'A tank has a cone or a head below, not both.')
  const heads =
    tank.shape === 'vertical-cylinder' ? tank.bottom : tank.shape === 'horizontal-cylinder' ? tank.heads : undefined
  if (heads && heads !== 'flat') headDepth_m(headOf(tank as Rounded, heads))
  const height = tankHeight_m(tank)
  if (!(level_m >= 0 && level_m <= height))
    throw new Refusal('level-outside-tank', `The level must lie between 0 and the inside height of ${height} m.`)
  const full_m3 = volumeTo(tank, height)
  const volume_m3 = volumeTo(tank, level_m)
  return { volume_m3, full_m3, percent: (100 * volume_m3) / full_m3 }
}
