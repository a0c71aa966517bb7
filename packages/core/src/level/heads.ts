// Heads of a tank: ellipsoidal, hemispherical and torispherical, as shells turned about their axis.
import { Refusal } from '../refusal/index.ts'

export type HeadForm = 'ellipsoidal-2:1' | 'hemispherical' | 'torispherical'

/** A head that closes a straight wall of a diameter. */
export interface Head {
  readonly form: HeadForm
  readonly diameter_m: number
  /** Inside radii of a torispherical head: of its dish and of its knuckle, m. */
  readonly crown_m?: number | undefined
  readonly knuckle_m?: number | undefined
}

/** A torispherical head's lines: the knuckle's centre off the axis, and where dish and knuckle meet. */
interface Torisphere {
  readonly R: number
  readonly r: number
  /** Distance of the knuckle's centre from the axis, m. */
  readonly c: number
  readonly depth: number
  /** Height above the lowest point at which dish becomes knuckle, m. */
  readonly meet: number
}

/** @throws Refusal `invalid-input` without its radii, `impossible-head` */
function torisphere({ diameter_m, crown_m: R, knuckle_m: r }: Head): Torisphere {
  if (R === undefined || r === undefined)
    throw new Refusal('invalid-input', 'A torispherical head needs the radii of its crown and of its knuckle.')
  const wall = diameter_m / 2
  if (!(r > 0 && r < wall && wall <= R))
    throw new Refusal(
      'impossible-head',
      'A knuckle is above 0 and below half the diameter, a crown at least half the diameter.',
    )
  const c = wall - r
  const depth = R - Math.sqrt((R - r) ** 2 - c ** 2)
  return { R, r, c, depth, meet: R + (R * (depth - R)) / (R - r) }
}

/**
 * Depth of a head, m, from its straight wall to its farthest point.
 * @throws Refusal `invalid-input`, `impossible-head`
 */
export function headDepth_m(head: Head): number {
  if (head.form === 'torispherical') return torisphere(head).depth
  return head.diameter_m / (head.form === 'hemispherical' ? 2 : 4)
}

const cap = (radius: number, h: number): number => (Math.PI * h * h * (3 * radius - h)) / 3

/** ∫ π ρ² dz of the knuckle from `u` below its centre's plane to that plane. */
function knuckleBelow({ r, c }: Torisphere, u: number): number {
  const arc = u * Math.sqrt(Math.max(0, r * r - u * u)) + r * r * Math.asin(Math.min(1, u / r))
  return Math.PI * (c * c * u + c * arc + r * r * u - u ** 3 / 3)
}

/**
 * Volume, m³, of a bottom head that stands upright, filled to `h` above its lowest point (0 … its depth).
 * Source: solids of revolution; the knuckle as a torus that touches dish and wall without a kink (DIN 28011, DIN
 * 28013).
 */
export function uprightHeadVolume_m3(head: Head, h: number): number {
  const wall = head.diameter_m / 2
  if (head.form === 'hemispherical') return cap(wall, h)
  // A flattened sphere: every disc as of a sphere of its depth, widened.
  if (head.form === 'ellipsoidal-2:1') return cap(wall / 2, h) * 4
  const t = torisphere(head)
  if (h <= t.meet) return cap(t.R, h)
  return cap(t.R, t.meet) + knuckleBelow(t, t.depth - t.meet) - knuckleBelow(t, t.depth - h)
}

/** Area of a circular segment of height h in a circle of radius r: nothing below, the whole circle above. */
export function segmentArea(r: number, h: number): number {
  if (h <= 0) return 0
  if (h >= 2 * r) return Math.PI * r * r
  // The half angle from its tangent: an arc cosine loses half of its figures near both ends.
  const above = 2 * r - h
  return 2 * r * r * Math.atan2(Math.sqrt(h), Math.sqrt(above)) - (r - h) * Math.sqrt(h * above)
}

/** ∫ f from a to b by the double exponential rule, which does not mind roots at either end. */
function integral(f: (x: number) => number, a: number, b: number): number {
  if (!(b > a)) return 0
  const [half, middle, step] = [(b - a) / 2, (a + b) / 2, 1 / 32]
  let sum = 0
  for (let k = -112; k <= 112; k++) {
    const s = (Math.PI / 2) * Math.sinh(k * step)
    const weight = ((Math.PI / 2) * Math.cosh(k * step)) / Math.cosh(s) ** 2
    sum += weight * f(middle + half * Math.tanh(s))
  }
  return sum * half * step
}

/**
 * Volume, m³, of one head that closes a lying cylinder, filled to `h` above the lowest inside point (0 … diameter).
 * Source: as `uprightHeadVolume_m3`, cut by the liquid's level; ellipsoids in closed form, a torisphere by numeric
 * integration.
 */
export function lyingHeadVolume_m3(head: Head, h: number): number {
  const wall = head.diameter_m / 2
  if (head.form !== 'torispherical') return ((head.form === 'hemispherical' ? 1 : 0.5) * cap(wall, h)) / 2
  const t = torisphere(head)
  // At a place along the axis the head is a circle; by angle, so that no end is steep.
  const wet = (rho: number) => segmentArea(rho, h - (wall - rho))
  const ofDish = (angle: number) => wet(t.R * Math.sin(angle)) * t.R * Math.sin(angle)
  const ofKnuckle = (angle: number) => wet(t.c + t.r * Math.cos(angle)) * t.r * Math.cos(angle)
  const meetAngle = Math.acos((t.R - t.meet) / t.R)
  const knuckleEnd = Math.PI / 2 - meetAngle
  // The circle that the level just touches: there the wetted area has its kink.
  const touched = Math.abs(wall - h)
  const between = (a: number, b: number, at: number) => (at > a && at < b ? [a, at, b] : [a, b])
  const dish = between(0, meetAngle, Math.asin(Math.min(1, touched / t.R)))
  const knuckle = between(0, knuckleEnd, Math.acos(Math.max(-1, Math.min(1, (touched - t.c) / t.r))))
  const over = (f: (x: number) => number, ends: number[]) =>
    ends.slice(1).reduce((sum, end, i) => sum + integral(f, ends[i]!, end), 0)
  return over(ofDish, dish) + over(ofKnuckle, knuckle)
}
