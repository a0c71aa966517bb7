// What a round must know of a loop, from its entries.
import { describe, expect, it } from 'vitest'
import { KINDS, kindOf } from '../kinds/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { packFor, USUAL, WORKS, type Piece } from '../round/index.ts'
import { roundOfLoop } from './round-of.ts'
import { study } from './study.ts'

const of = (id: string, typed: Record<string, string> = {}) => roundOfLoop(study(kindOf(id), demoEntries(id, typed)))

describe('what a round must know of a loop', () => {
  it.each(KINDS.map((k) => k.id))('%s: works that are known, needs with a range and a tolerance', (id) => {
    const { works, needs } = of(id)
    expect(works.length).toBeGreaterThan(0)
    for (const w of works) expect(WORKS).toContain(w)
    for (const n of needs.flatMap((need) => [need, ...(need.or ?? [])])) {
      expect(n.high).toBeGreaterThan(n.low)
      expect(n.tolerance).toBeGreaterThan(0)
      expect(n.tolerance).toBeLessThan(n.high - n.low)
    }
  })
  it.each(KINDS.map((k) => k.id))('%s half-entered: nothing is made up', (id) => {
    const { works, needs } = roundOfLoop(study(kindOf(id), {}))
    expect(works.length).toBeGreaterThan(0)
    for (const n of needs) expect([n.low, n.high, n.tolerance].every(Number.isFinite)).toBe(true)
  })
  it('has the tolerance of the span at each place', () => {
    const { needs } = of('level-from-above', { lrv: '0 mm', urv: '3000 mm', tolerance: '0.5 %' })
    expect(needs[0]).toMatchObject({ low: 0, high: 3000, unit: 'mm', tolerance: 15 })
    expect(needs.at(-1)).toMatchObject({ low: 4, high: 20, unit: 'mA' })
    expect(needs.at(-1)!.tolerance).toBeCloseTo(0.08, 12)
  })
  it('brings what its entries say: film by layers, buffers about the range', () => {
    const brings = (id: string, typed: Record<string, string>) => of(id, typed).brings.map((b) => b.what)
    expect(brings('clamp-on', { medium: 'gas' }).join()).toMatch(/damping film, \d layers?, [\d.]+ mm in all/)
    expect(brings('clamp-on', { medium: 'liquid', fluidTemp: '80 degC' }).join()).toContain('couplant for a hot pipe')
    expect(brings('ph', { lrv: '2 pH', urv: '7 pH' }).join()).toMatch(/^buffers pH 4(\.\d+)?, 7(\.\d+)?, each/)
    expect(brings('ph', { lrv: '0 pH', urv: '14 pH' }).join()).toMatch(/pH 4[^,]*, 7[^,]*, 10/)
    expect(brings('ph', { lrv: '8 pH', urv: '12 pH' }).join()).toMatch(/pH 7[^,]*, 10[^,]*, each/)
  })
  it.each(KINDS.map((k) => k.id))('%s: whatever is more exact stands for something usual of its works', (id) => {
    const { works, brings } = of(id)
    const usual = works.flatMap((w) => USUAL[w].bring.map((t) => t.what))
    for (const { instead } of brings) if (instead !== undefined) expect(usual).toContain(instead)
  })
  it('takes a piece for the pressure at the cell where none shows the level above it', () => {
    const needs = of('level-dp').needs.map((n) => ({ ...n, tag: 'LT-1' }))
    const pump = (high: number): Piece => ({
      ...{ id: 'p', name: 'Pump', serial: '1', due: '2027-01-01', holder: null },
      ranges: [{ quantity: 'pressure', unit: 'kPa', low: -high, high, pctOfRange: 0.01 }],
    })
    const [packed] = packFor(needs, [pump(200)], { day: '2026-12-01', wanted: 1 }).packed
    expect(packed!.uses.map((u) => u.at.unit)).toHaveLength(1)
    expect(packFor(needs, [pump(0.001)], { day: '2026-12-01', wanted: 1 }).packed).toEqual([])
  })
})
