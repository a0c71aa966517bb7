import { diagnose, type FoundPoint } from '@calm-loop/core/trim'
import { describe, expect, it } from 'vitest'
import { reachOf, stagePanels, tickOf } from './stagePanels.ts'

/** A loop of 0 … 100 whose sensor is off by so much at zero and at full span; the rest of it is true. */
function found(zeroPct: number, fullPct = zeroPct) {
  const points: FoundPoint[] = [0, 50, 100].map((applied) => {
    const digital = applied + zeroPct + ((fullPct - zeroPct) * applied) / 100
    return { applied, digital, mA: 4 + 0.16 * digital, receiver: digital }
  })
  return diagnose({ lrv: 0, urv: 100, points, tolerancePct: 0.5, adjustAbovePct: 50, hasCurrent: true })
}
const applied = [0, 50, 100]

describe('the panels of a loop’s errors', () => {
  it('are one for each stage and one for all of it, each with its points in % of span', () => {
    const panels = stagePanels({ diagnosis: found(1, 2), applied })
    expect(panels.map((p) => [p.id, p.acts])).toEqual([
      ['sensor', true],
      ['output', false],
      ['receiver', false],
      ['loop', true],
    ])
    expect(panels[0]).toMatchObject({ words: '+1.00 % at zero', more: '+2.00 % at full span', left: [] })
    expect(panels[0]?.dots.map((d) => [d.x, Number(d.y.toFixed(6))])).toEqual([
      [0, 1],
      [50, 1.5],
      [100, 2],
    ])
    expect(panels[0]?.line.map((d) => Number(d.y.toFixed(6)))).toEqual([1, 2])
    expect(panels.at(-1)).toMatchObject({ line: [], words: 'worst 2.00 % of span', more: '' })
  })
  it('show what was left beside it, and what is foretold', () => {
    const panels = stagePanels({
      diagnosis: found(1),
      applied,
      left: found(0.1),
      leftApplied: applied,
      predicted: [0, -0.25, 0.2],
    })
    expect(panels[0]?.left.map((d) => Number(d.y.toFixed(6)))).toEqual([0.1, 0.1, 0.1])
    expect(panels.at(-1)?.left).toHaveLength(3)
    expect(panels.at(-1)?.more).toBe('then 0.25 %')
  })
  it('reach as far as the worst that is shown, and never less than the tolerance', () => {
    const reach = (zero: number, predicted: number[] = []) =>
      reachOf(stagePanels({ diagnosis: found(zero), applied }), predicted, 0.5)
    expect(reach(0)).toBeCloseTo(0.5 * 1.3 * 1.08, 9)
    expect(reach(-3)).toBeCloseTo(3 * 1.08, 9)
    expect(reach(1, [-7])).toBeCloseTo(7 * 1.08, 9)
  })
  it.each([
    [0.6, 0.5],
    [2, 1],
    [5, 2],
    [20, 5],
  ])('with %s %% in sight have a mark every %s %%', (reach, tick) => {
    expect(tickOf(reach)).toBe(tick)
    expect(reach / tick).toBeGreaterThan(1)
  })
})
