// A lying cylinder that is not level: how much it holds at a level read somewhere along it.
import { Refusal } from '../refusal/index.ts'
import { headDepth_m, lyingHeadVolume_m3, type Head } from './heads.ts'

export interface TiltedCylinder {
  readonly shape: 'tilted-cylinder'
  readonly diameter_m: number
  /** Straight part along the axis, m. */
  readonly length_m: number
  /** Rise of the axis for its run along the floor, 0 (level) to 1. */
  readonly slope: number
  /** Where the level is read: along the axis from the low end of the straight part, m. */
  readonly gauge_m: number
  readonly heads: 'flat' | Head['form']
  readonly crown_m?: number | undefined
  readonly knuckle_m?: number | undefined
}

/** ∫ of the wetted area over its height, from an empty circle of radius r to the height h, m⁴ over m. */
function areaTo(r: number, h: number): number {
  if (h <= 0) return 0
  const full = Math.PI * r ** 3
  if (h >= 2 * r) return full + Math.PI * r * r * (h - 2 * r)
  const u = (r - h) / r
  const s = Math.sqrt(Math.max(0, 1 - u * u))
  return r ** 3 * (s - u * Math.acos(u) - s ** 3 / 3)
}

/** Below this slope a cylinder is level: the difference is less than what a double can tell. */
const LEVEL = 1e-7

/**
 * Volume, m³, at a level `h` read square to the axis from the lowest line of the wall at the gauge; the level may be
 * below 0 there while the low end still holds liquid.
 * Heads are filled to the level at their own end of the straight part: for slopes up to 5 % that is within 0.1 % of
 * the whole.
 * @throws Refusal `invalid-input`, `impossible-head`
 * Source: the wetted segment integrated along the axis, in closed form.
 */
export function tiltedVolume_m3(tank: TiltedCylinder, h: number): number {
  const { diameter_m, length_m, slope, gauge_m } = tank
  if (!(diameter_m > 0 && length_m > 0)) throw new Refusal('invalid-input', 'Every size of the tank must be above 0 m.')
  if (!(slope >= 0 && slope <= 1 && gauge_m >= 0 && gauge_m <= length_m))
    throw new Refusal('invalid-input', 'A slope lies from 0 to 100 %, the gauge within the straight part.')
  const r = diameter_m / 2
  const low = h + gauge_m * slope
  const high = low - length_m * slope
  const inside = (v: number) => Math.min(diameter_m, Math.max(0, v))
  const straight = slope < LEVEL ? length_m * slice(r, inside(h)) : (areaTo(r, low) - areaTo(r, high)) / slope
  if (tank.heads === 'flat') return straight
  const head = { form: tank.heads, diameter_m, crown_m: tank.crown_m, knuckle_m: tank.knuckle_m }
  headDepth_m(head)
  return straight + lyingHeadVolume_m3(head, inside(low)) + lyingHeadVolume_m3(head, inside(high))
}
/** The wetted segment itself. */
function slice(r: number, h: number): number {
  const u = (r - h) / r
  return r * r * (Math.acos(Math.max(-1, Math.min(1, u))) - u * Math.sqrt(Math.max(0, 1 - u * u)))
}

/** Levels at the gauge at which the straight part is empty and full, m. */
export const tiltedEnds_m = ({ diameter_m, length_m, slope, gauge_m }: TiltedCylinder): readonly [number, number] => [
  -gauge_m * slope,
  diameter_m + (length_m - gauge_m) * slope,
]
