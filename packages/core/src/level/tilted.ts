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

/** Half of the angle that the liquid's surface spans at the axis; to the last digit near an empty and a full circle. */
const halfAngle = (r: number, h: number): number =>
  h <= r ? 2 * Math.asin(Math.sqrt(h / (2 * r))) : Math.PI - 2 * Math.asin(Math.sqrt((2 * r - h) / (2 * r)))

/** ∫ of the wetted area over its height, from an empty circle of radius r to the height h, m⁴ over m. */
function areaTo(r: number, h: number): number {
  if (h <= 0) return 0
  const full = Math.PI * r ** 3
  if (h >= 2 * r) return full + Math.PI * r * r * (h - 2 * r)
  const a = halfAngle(r, h)
  const s = Math.sin(a)
  return r ** 3 * (s - Math.cos(a) * a - s ** 3 / 3)
}

/** Below this share of the radius from end to end the difference of two areas has lost the digits that count. */
const LITTLE = 1e-5
/** Abscissas and weights of Gauss and Legendre for five points, on 0 to 1. Source: DLMF, 3.5(v). */
const AWAY = [Math.sqrt(5 - 2 * Math.sqrt(10 / 7)) / 6, Math.sqrt(5 + 2 * Math.sqrt(10 / 7)) / 6] as const
const WEIGHT = [(322 + 13 * Math.sqrt(70)) / 1800, (322 - 13 * Math.sqrt(70)) / 1800] as const
const GAUSS: readonly (readonly [number, number])[] = [
  [0.5, 64 / 225],
  [0.5 - AWAY[0], WEIGHT[0]],
  [0.5 + AWAY[0], WEIGHT[0]],
  [0.5 - AWAY[1], WEIGHT[1]],
  [0.5 + AWAY[1], WEIGHT[1]],
]

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
  const straight =
    length_m * slope < LITTLE * r
      ? length_m * GAUSS.reduce((sum, [x, w]) => sum + w * slice(r, inside(high + x * (low - high))), 0)
      : (areaTo(r, low) - areaTo(r, high)) / slope
  if (tank.heads === 'flat') return straight
  const head = { form: tank.heads, diameter_m, crown_m: tank.crown_m, knuckle_m: tank.knuckle_m }
  headDepth_m(head)
  return straight + lyingHeadVolume_m3(head, inside(low)) + lyingHeadVolume_m3(head, inside(high))
}
/** The wetted segment itself. */
function slice(r: number, h: number): number {
  const a = halfAngle(r, h)
  return r * r * (a - Math.cos(a) * Math.sin(a))
}

/** Levels at the gauge at which the straight part is empty and full, m. */
export const tiltedEnds_m = ({ diameter_m, length_m, slope, gauge_m }: TiltedCylinder): readonly [number, number] => [
  -gauge_m * slope,
  diameter_m + (length_m - gauge_m) * slope,
]
