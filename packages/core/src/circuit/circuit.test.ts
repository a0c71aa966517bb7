import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { awgArea_mm2, loadLine, longestCable_m, loopBudget, wireResistance } from './index.ts'

it('knows wire gauges as tabled in ASTM B258', () => {
  expect(awgArea_mm2(18)).toBeCloseTo(0.823, 3)
  expect(awgArea_mm2(14)).toBeCloseTo(2.081, 3)
  expect(awgArea_mm2(0)).toBeCloseTo(53.48, 1)
})

describe('the budget', () => {
  const some = fc.record({
    supplyV: fc.double({ min: 10, max: 60, noNaN: true }),
    liftOffV: fc.double({ min: 5, max: 20, noNaN: true }),
    seriesOhms: fc.array(fc.double({ min: 0, max: 500, noNaN: true }), { maxLength: 5 }),
    maxmA: fc.double({ min: 20, max: 24, noNaN: true }),
  })
  it('just does at its own smallest supply, and at its own most resistance', () => {
    fc.assert(
      fc.property(some, (input) => {
        const b = loopBudget(input)
        expect(loopBudget({ ...input, supplyV: b.minSupplyV }).spareOhm).toBeCloseTo(0, 6)
        if (b.maxSeriesOhm > 0)
          expect(loopBudget({ ...input, seriesOhms: [b.maxSeriesOhm] }).voltsAtTransmitterMax).toBeCloseTo(
            input.liftOffV,
            8,
          )
      }),
    )
  })
  it('gives the longest cable that just does', () => {
    const at = (length_m: number) => {
      const { ohmLoop } = wireResistance({ area_mm2: 1, length_m, temp_C: 40 })
      return { ohmLoop, budget: loopBudget({ supplyV: 24, liftOffV: 12, seriesOhms: [250, ohmLoop] }) }
    }
    const { ohmLoop, budget } = at(140)
    const most = longestCable_m(budget, ohmLoop, 140)!
    expect(at(most).budget.spareOhm).toBeCloseTo(0, 6)
    expect(longestCable_m(budget, 0, 0)).toBeNull()
  })
  it('draws a load line through lift-off that the budget agrees with', () => {
    const line = loadLine(12, 22, 30)
    expect(line[0]).toEqual({ supplyV: 12, maxOhm: 0 })
    for (const { supplyV, maxOhm } of line)
      expect(loopBudget({ supplyV, liftOffV: 12, seriesOhms: [], maxmA: 22 }).maxSeriesOhm).toBeCloseTo(maxOhm, 8)
  })
})
