import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  dielectric,
  DIELECTRIC_LIQUIDS,
  MOST_ROWS,
  readStrapping,
  strappingOf,
  strappingText,
  strappingWords,
  tiltedVolume_m3,
  usualZones,
  vesselEnds_m,
  vesselLevel_m,
  vesselTable,
  vesselVolume_m3,
  type TiltedCylinder,
  type Vessel,
} from './index.ts'

const m = fc.double({ min: 0.3, max: 8, noNaN: true })
const share = fc.double({ min: 0, max: 1, noNaN: true })
const heads = fc.constantFrom('flat' as const, 'ellipsoidal-2:1' as const, 'hemispherical' as const)
const tilted: fc.Arbitrary<TiltedCylinder> = fc
  .record({ diameter_m: m, length_m: m, slope: fc.double({ min: 0, max: 0.3, noNaN: true }), at: share, heads })
  .map(({ at, ...t }) => ({ shape: 'tilted-cylinder', ...t, gauge_m: at * t.length_m }))
const vessel: fc.Arbitrary<Vessel> = fc.oneof(
  tilted,
  fc.record({ shape: fc.constant('horizontal-cylinder' as const), diameter_m: m, length_m: m, heads }),
  fc.record({
    shape: fc.constant('vertical-cylinder' as const),
    diameter_m: m,
    height_m: m,
    coneHeight_m: fc.double({ min: 0, max: 2, noNaN: true }),
  }),
  fc.record({ shape: fc.constant('sphere' as const), diameter_m: m }),
  fc.record({ shape: fc.constant('box' as const), length_m: m, width_m: m, height_m: m }),
  fc
    .array(fc.tuple(fc.double({ min: 1, max: 50, noNaN: true }), fc.double({ min: 0.01, max: 5, noNaN: true })), {
      minLength: 2,
      maxLength: 30,
    })
    .map((steps) => {
      let [level_mm, volume_m3] = [-100, 0]
      const rows = steps.map(([dh, dv]) => ({ level_mm: (level_mm += dh), volume_m3: (volume_m3 += dv) }))
      return { shape: 'strapped' as const, rows }
    }),
)

describe('a vessel', () => {
  it('never holds less at a higher level, and its level is found again from its volume', () => {
    fc.assert(
      fc.property(vessel, share, share, (v, a, b) => {
        const [low, high] = vesselEnds_m(v)
        const at = (f: number) => Math.min(high, low + f * (high - low))
        const [first, second] = [Math.min(a, b), Math.max(a, b)].map((f) => vesselVolume_m3(v, at(f)))
        const full = vesselVolume_m3(v, high)
        expect(second! - first!).toBeGreaterThanOrEqual(-1e-9 * full)
        const volume = vesselVolume_m3(v, at(a))
        const found = vesselVolume_m3(v, Math.min(high, Math.max(low, vesselLevel_m(v, volume))))
        expect(Math.abs(found - volume)).toBeLessThan(1e-9 * full)
      }),
    )
  })
  it.each([1e-12, 1e-8, 1.078040016188635e-7, 1e-6, 1e-5, 1e-4, 1e-3])(
    'that leans by no more than %s holds as much as a level one, steadily up from nothing',
    (slope) => {
      const t: TiltedCylinder = {
        ...{ shape: 'tilted-cylinder', diameter_m: 0.3, length_m: 0.3, slope, heads: 'flat', gauge_m: 0.15 },
      }
      const full = vesselVolume_m3(t, vesselEnds_m(t)[1])
      const level = (h: number) => tiltedVolume_m3({ ...t, slope: 0 }, h)
      let before = 0
      for (const h of [1e-9, 1e-7, 1e-5, 1e-3, 0.1, 0.15, 0.2, 0.299, 0.3 - 1e-7]) {
        const holds = tiltedVolume_m3(t, h)
        expect(holds).toBeGreaterThanOrEqual(before)
        // Read in the middle, a lean moves liquid from one end to the other: what is left is of its second order.
        expect(Math.abs(holds - level(h)) / full).toBeLessThan(1e-10 + slope ** 1.5)
        before = holds
      }
    },
  )
  it('that stands on a table is known at both its ends, whatever their figures', () => {
    const rows = [-97.18683383365706, -31.999999999999996].map((level_mm, i) => ({ level_mm, volume_m3: i + 1 }))
    const table = { shape: 'strapped' as const, rows }
    expect(vesselEnds_m(table).map((end) => vesselVolume_m3(table, end))).toEqual([1, 2])
  })
  it('that is tilted holds what slices along it add up to', () => {
    fc.assert(
      fc.property(tilted, share, (t, f) => {
        const flat = { ...t, heads: 'flat' as const }
        const [low, high] = vesselEnds_m(flat)
        const h = low + f * (high - low)
        const r = t.diameter_m / 2
        const slices = 2000
        let sum = 0
        for (let i = 0; i < slices; i++) {
          const s = ((i + 0.5) / slices) * t.length_m
          const depth = Math.min(2 * r, Math.max(0, h + (t.gauge_m - s) * t.slope))
          // A second way to the segment: half angle by the cosine.
          const half = Math.acos(1 - depth / r)
          sum += ((r * r * (2 * half - Math.sin(2 * half))) / 2) * (t.length_m / slices)
        }
        expect(Math.abs(tiltedVolume_m3(flat, h) - sum)).toBeLessThan(1e-4 * Math.PI * r * r * t.length_m)
      }),
    )
  })
  it('that is hardly tilted holds what a level one does', () => {
    const t = { shape: 'tilted-cylinder', diameter_m: 2, length_m: 6, gauge_m: 3, heads: 'hemispherical' } as const
    const level = { shape: 'horizontal-cylinder', diameter_m: 2, length_m: 6, heads: 'hemispherical' } as const
    for (const slope of [0, 1e-9, 1e-6, 1e-5])
      expect(vesselVolume_m3({ ...t, slope }, 0.7)).toBeCloseTo(vesselVolume_m3(level, 0.7), 4)
  })
  it('refuses a slope or a gauge that none has, and a level outside', () => {
    const t = { shape: 'tilted-cylinder', diameter_m: 2, length_m: 6, gauge_m: 3, slope: 0.02, heads: 'flat' } as const
    for (const wrong of [{ slope: -0.1 }, { gauge_m: 7 }, { diameter_m: 0 }])
      expect(attempt(() => tiltedVolume_m3({ ...t, ...wrong }, 1))).toMatchObject({ code: 'invalid-input' })
    expect(attempt(() => vesselVolume_m3(t, 3))).toMatchObject({ code: 'level-outside-tank' })
    expect(attempt(() => vesselLevel_m(t, 1e6))).toMatchObject({ code: 'level-outside-tank' })
  })
  it('gives its table from end to end', () => {
    const rows = vesselTable({ shape: 'sphere', diameter_m: 2 }, 101)
    expect(rows).toHaveLength(101)
    expect(rows.at(-1)!.volume_m3).toBeCloseTo((4 / 3) * Math.PI, 9)
    expect(strappingOf(strappingText(rows))).toHaveLength(101)
  })
})

describe('a strapping table from a file', () => {
  const read = (text: string) => readStrapping(text.split('\n').map((l) => l.split(';')))
  it('takes the units of its heading, and both decimal marks', () => {
    const { rows, errors, units } = read('Level (cm);Volume, m³\n0;0\n\n10,5;1.25\n20;2,75')
    expect(errors).toEqual([])
    expect(units).toEqual(['cm', 'm3'])
    expect(rows.map((r) => [Math.round(r.level_mm), r.volume_m3])).toEqual([
      [0, 0],
      [105, 1.25],
      [200, 2.75],
    ])
  })
  it('says by line what is wrong', () => {
    const { errors } = read('0;0\n100;1\n90;2\nabc;3\n200;\n300;-1\n400;0.5\n500;1,500')
    expect(errors.map((e) => e.line)).toEqual([3, 4, 5, 6, 7, 8])
    expect(errors[0]).toMatchObject({
      code: 'rows-not-ascending',
      says: expect.stringContaining('does not rise') as string,
    })
    expect(errors[4]!.says).toBe('The volume does not rise: 0.5 after line 2.')
    expect(errors[5]!.says).toContain('two ways')
  })
  it('of one row is none, and of ten thousand is too many', () => {
    expect(read('0;0').errors).toMatchObject([{ line: 0, says: expect.stringContaining('two rows') as string }])
    const many = Array.from({ length: 10_000 }, (_, i) => `${i};${i}`).join('\n')
    expect(read(many).errors).toMatchObject([{ line: 0, says: expect.stringContaining('every 10th') as string }])
    expect(read(many).rows.length).toBeGreaterThan(MOST_ROWS)
  })
  it('stands on record as it was read, and nothing else is one', () => {
    const rows = [
      { level_mm: -20, volume_m3: 0 },
      { level_mm: 1500.25, volume_m3: 12.345 },
    ]
    expect(strappingOf(strappingText(rows))).toEqual(rows)
    expect(strappingOf(' ')).toBeUndefined()
    expect(strappingWords(strappingText(rows))).toBe('2 rows, -20 to 1500.25 mm, up to 12.345 m³')
    expect(attempt(() => strappingOf('0 0; 10 1; 5 2'))).toMatchObject({ code: 'rows-not-ascending' })
    expect(attempt(() => strappingOf('nonsense'))).toBeInstanceOf(Refusal)
  })
})

describe('dielectric constants and dead zones', () => {
  it('fall with the temperature, and are those of the source', () => {
    expect(dielectric('water', 25)).toBeCloseTo(78.3, 1)
    expect(dielectric('water', 100)).toBeCloseTo(55.7, 1)
    expect(dielectric('ethanol', 25)).toBeCloseTo(24.3, 9)
    expect(dielectric('toluene', 0)).toBeCloseTo(2.44, 2)
    for (const { id } of DIELECTRIC_LIQUIDS) expect(dielectric(id, 40)).toBeLessThan(dielectric(id, 20))
    expect(attempt(() => dielectric('water', 120))).toMatchObject({ code: 'out-of-range' })
    expect(attempt(() => dielectric('mercury', 20))).toMatchObject({ code: 'unknown-liquid' })
  })
  it('are longer where the surface sends back little, and with a weight', () => {
    expect(usualZones('cable', 2, 100).bottom_mm).toBeGreaterThan(usualZones('cable', 80, 100).bottom_mm)
    expect(usualZones('cable', 80, 100).bottom_mm - usualZones('cable', 80).bottom_mm).toBe(100)
    expect(usualZones('rod', 1.6)).toMatchObject({ tooWeak: true })
    expect(usualZones('coaxial', 1.6)).toMatchObject({ tooWeak: false })
  })
})
