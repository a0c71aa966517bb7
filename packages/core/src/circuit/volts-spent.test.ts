import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf } from '../kinds/index.ts'
import { study } from '../loop/index.ts'
import { loopBudget, voltsSpent } from './index.ts'

const ohm = fc.double({ min: 1, max: 2000, noNaN: true })

describe('where the volts go', () => {
  it('cuts a supply of 24 V at 20 mA into 5 V of shunt, 0.4 V of cable, and the rest', () => {
    const named = [
      { name: 'shunt', ohm: 250 },
      { name: 'cable', ohm: 20 },
    ]
    expect(voltsSpent({ supplyV: 24, named, outsideOhm: 270, currents_mA: [20] })).toEqual([
      {
        mA: 20,
        parts: [
          { name: 'shunt', V: 5 },
          { name: 'cable', V: 0.4 },
        ],
        leftV: 18.6,
      },
    ])
  })
  it('calls what stands in the loop besides “other”, and a rounding nothing', () => {
    const at = (outsideOhm: number | undefined) =>
      voltsSpent({ supplyV: 24, named: [{ name: 'shunt', ohm: 250 }], outsideOhm, currents_mA: [10] })[0]!
    expect(at(350).parts).toEqual([
      { name: 'shunt', V: 2.5 },
      { name: 'other', V: 1 },
    ])
    expect(at(350).leftV).toBeCloseTo(20.5, 12)
    for (const plain of [undefined, 250, 250.4, 100]) expect(at(plain).parts.map((p) => p.name)).toEqual(['shunt'])
  })
  it('leaves out what is not entered yet, or cannot be', () => {
    const named = [undefined, 0, -5].map((ohm, i) => ({ name: `part ${i}`, ohm }))
    expect(voltsSpent({ supplyV: 24, named, currents_mA: [4, 20] })).toEqual([
      { mA: 4, parts: [], leftV: 24 },
      { mA: 20, parts: [], leftV: 24 },
    ])
  })
  it('spends all of the supply, neither more nor less, and says below zero by how much it falls short', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 60, noNaN: true }), ohm, ohm, ohm, (supplyV, shunt, cable, rest) => {
        const named = [
          { name: 'shunt', ohm: shunt },
          { name: 'cable', ohm: cable },
        ]
        for (const row of voltsSpent({ supplyV, named, outsideOhm: shunt + cable + rest, currents_mA: [4, 20, 22] })) {
          const spent = row.parts.reduce((sum, p) => sum + p.V, 0)
          expect(spent + row.leftV).toBeCloseTo(supplyV, 9)
          expect(Math.sign(row.leftV)).toBe(Math.sign(supplyV - spent))
        }
      }),
    )
  })
  it('leaves what the budget leaves', () => {
    fc.assert(
      fc.property(ohm, ohm, (shunt, cable) => {
        const budget = loopBudget({ supplyV: 24, liftOffV: 10, seriesOhms: [shunt, cable], maxmA: 22 })
        const named = [{ name: 'shunt', ohm: shunt }]
        const rows = voltsSpent({ supplyV: 24, named, outsideOhm: shunt + cable, currents_mA: [4, 20, 22] })
        expect(rows[0]!.leftV).toBeCloseTo(budget.voltsAtTransmitter4mA, 9)
        expect(rows[1]!.leftV).toBeCloseTo(budget.voltsAtTransmitter20mA, 9)
        expect(rows[2]!.leftV).toBeCloseTo(budget.voltsAtTransmitterMax, 9)
      }),
    )
  })
  it('agrees with the circuit as drawn, for a loop of the plant', () => {
    const { electrical } = study(currentKindOf('pressure'), demoEntries('pressure'))
    const { supplied, budget, maxmA } = electrical
    const [row] = voltsSpent({
      supplyV: supplied!.openV,
      named: [],
      outsideOhm: supplied!.outsideOhm,
      currents_mA: [maxmA],
    })
    expect(row!.leftV).toBeCloseTo(budget!.voltsAtTransmitterMax, 2)
  })
})
