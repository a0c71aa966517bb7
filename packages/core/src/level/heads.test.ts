import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  headDepth_m,
  lyingHeadVolume_m3,
  strapping,
  tankVolume,
  uprightHeadVolume_m3,
  type Head,
  type Tank,
} from './index.ts'

const kloepper = (D: number): Head => ({ form: 'torispherical', diameter_m: D, crown_m: D, knuckle_m: 0.1 * D })
const korbbogen = (D: number): Head => ({
  form: 'torispherical',
  diameter_m: D,
  crown_m: 0.8 * D,
  knuckle_m: 0.154 * D,
})
const HEADS: [string, (D: number) => Head][] = [
  ['dished after DIN 28011', kloepper],
  ['dished after DIN 28013', korbbogen],
  ['ellipsoidal', (D) => ({ form: 'ellipsoidal-2:1', diameter_m: D })],
  ['hemispherical', (D) => ({ form: 'hemispherical', diameter_m: D })],
]

/** Radius of the head's inside at a height above its lowest point, from its drawing alone. */
function radiusAt(head: Head, z: number): number {
  const depth = headDepth_m(head)
  const wall = head.diameter_m / 2
  if (head.form !== 'torispherical') return wall * Math.sqrt(Math.max(0, 1 - ((depth - z) / depth) ** 2))
  const [R, r] = [head.crown_m!, head.knuckle_m!]
  const dish = Math.sqrt(Math.max(0, R * R - (R - z) ** 2))
  const knuckle = wall - r + Math.sqrt(Math.max(0, r * r - (depth - z) ** 2))
  // Dish and knuckle meet on the line through both their centres.
  return z < R && dish <= (R * (wall - r)) / (R - r) ? dish : knuckle
}

describe.each(HEADS)('a head, %s', (_, of) => {
  it('holds upright what its discs hold', () => {
    const head = of(2)
    const depth = headDepth_m(head)
    for (const share of [0.1, 0.35, 0.6, 0.85, 1]) {
      const h = share * depth
      const n = 40_000
      let sum = 0
      for (let i = 0; i < n; i++) sum += Math.PI * radiusAt(head, ((i + 0.5) * h) / n) ** 2
      expect(Math.abs(uprightHeadVolume_m3(head, h) / ((sum * h) / n) - 1)).toBeLessThan(1e-6)
    }
  })
  it('holds lying, when full, what it holds upright, and half of it half full', () => {
    for (const D of [0.6, 2, 3.4]) {
      const head = of(D)
      const full = uprightHeadVolume_m3(head, headDepth_m(head))
      expect(Math.abs(lyingHeadVolume_m3(head, D) / full - 1)).toBeLessThan(1e-9)
      expect(Math.abs(lyingHeadVolume_m3(head, D / 2) / (full / 2) - 1)).toBeLessThan(1e-9)
    }
  })
  it('holds lying, at any level, what the level above leaves', () => {
    const head = of(2)
    const full = lyingHeadVolume_m3(head, 2)
    fc.assert(
      fc.property(fc.double({ min: 0, max: 2, noNaN: true }), (h) => {
        expect(Math.abs(lyingHeadVolume_m3(head, h) + lyingHeadVolume_m3(head, 2 - h) - full)).toBeLessThan(1e-9)
      }),
    )
  })
})

it('knows the published depths and volumes of dished heads', () => {
  // DIN 28011: depth 0.1935 D, volume 0.1 D³; DIN 28013: 0.2545 D, 0.1298 D³ (inside, without the straight flange).
  expect(headDepth_m(kloepper(1))).toBeCloseTo(0.1935, 3)
  expect(uprightHeadVolume_m3(kloepper(1), headDepth_m(kloepper(1)))).toBeCloseTo(0.1, 2)
  expect(headDepth_m(korbbogen(1))).toBeCloseTo(0.2545, 3)
  expect(uprightHeadVolume_m3(korbbogen(1), headDepth_m(korbbogen(1)))).toBeCloseTo(0.1298, 2)
})

describe('what no head can be', () => {
  const tank = (change: object): Tank => ({
    shape: 'vertical-cylinder',
    diameter_m: 2,
    height_m: 3,
    bottom: 'torispherical',
    crown_m: 2,
    knuckle_m: 0.2,
    ...change,
  })
  const code = (t: Tank, level = 1) => {
    const result = attempt(() => tankVolume(t, level))
    return result instanceof Refusal ? result.code : result
  }
  it.each([
    [{ knuckle_m: 0 }, 'impossible-head'],
    [{ knuckle_m: 1 }, 'impossible-head'],
    [{ crown_m: 0.9 }, 'impossible-head'],
    [{ crown_m: undefined }, 'invalid-input'],
    [{ coneHeight_m: 0.5 }, 'invalid-input'],
  ])('%j is refused', (change, expected) => expect(code(tank(change))).toBe(expected))
  it('takes a crown of half the diameter as a hemisphere', () => {
    const half = tank({ crown_m: 1, knuckle_m: 0.3 })
    expect(code(half)).toEqual(
      code({ shape: 'vertical-cylinder', diameter_m: 2, height_m: 3, bottom: 'hemispherical' }),
    )
  })
})

describe('a strapping table', () => {
  const row = fc.tuple(fc.double({ min: 1, max: 500, noNaN: true }), fc.double({ min: 0.01, max: 9, noNaN: true }))
  const table = fc.array(row, { minLength: 2, maxLength: 30 }).map((steps) => {
    let [level_mm, volume_m3] = [-40, 0]
    return steps.map(([dl, dv]) => ({ level_mm: (level_mm += dl), volume_m3: (volume_m3 += dv) }))
  })
  it('comes back from the volume to the level', () => {
    fc.assert(
      fc.property(table, fc.double({ min: 0, max: 1, noNaN: true }), (rows, share) => {
        const [low, high] = [rows[0]!.level_mm, rows.at(-1)!.level_mm]
        const level_mm = Math.min(high, low + share * (high - low))
        const { volume_m3 } = strapping(rows, { level_mm })
        expect(Math.abs(strapping(rows, { volume_m3 }).level_mm - level_mm)).toBeLessThan(1e-7 * (high - low) + 1e-9)
      }),
    )
  })
  it('belongs to its first and last row, and gives nothing beyond', () => {
    const rows = [
      { level_mm: 0, volume_m3: 1 },
      { level_mm: 100, volume_m3: 4 },
    ]
    expect(strapping(rows, { level_mm: 0 }).volume_m3).toBe(1)
    expect(strapping(rows, { level_mm: 100 }).percent).toBe(100)
    const outside = attempt(() => strapping(rows, { level_mm: 100.1 }))
    expect(outside instanceof Refusal && outside.code).toBe('outside-table')
  })
})
