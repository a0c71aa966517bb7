import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf, KINDS } from '../kinds/index.ts'
import { study } from '../loop/index.ts'
import { connect, energise, writeWiring } from '../wiring/index.ts'
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
    for (const plain of [undefined, 250, 250.4]) expect(at(plain).parts.map((p) => p.name)).toEqual(['shunt'])
  })
  it('goes by the loop as drawn where that is less than the entries name: a part of them is not in it', () => {
    const named = [
      { name: 'shunt', ohm: 250 },
      { name: 'cable', ohm: 20 },
    ]
    expect(voltsSpent({ supplyV: 24, named, outsideOhm: 20, currents_mA: [20] })).toEqual([
      { mA: 20, parts: [{ name: 'as drawn', V: 0.4 }], leftV: 23.6 },
    ])
  })
  it.each(KINDS.filter((k) => k.family === 'current').map((k) => k.id))(
    '%s: leaves what the budget leaves, also with the shunt bridged in the drawing',
    (id) => {
      const kind = currentKindOf(id)
      const { wiring, conditions } = study(kind, demoEntries(id)).desk
      const at12 = energise({ wiring, conditions: { ...conditions, mA: 12 } })
      const refs = wiring.conductors.flatMap((c) => [c.from, c.to])
      const apart = (a: string, b: string) => (at12.volts(a) ?? 0) - (at12.volts(b) ?? 0)
      // Across 250 Ω at 12 mA there are 3 V.
      const [plus, minus] = refs
        .flatMap((a) => refs.map((b) => [a, b] as const))
        .find(([a, b]) => {
          const v = apart(a, b)
          return v > 2.99 && v < 3.01
        })!
      const bridged = { typed: writeWiring(connect(wiring, plus, minus)) }
      for (const entries of [demoEntries(id), { ...demoEntries(id), wiring: bridged }]) {
        const { electrical, reader } = study(kind, entries)
        const { supplied, budget, maxmA, cableOhm } = electrical
        const named = [
          { name: 'shunt', ohm: reader.in('shunt', 'Ohm') },
          { name: 'cable', ohm: cableOhm },
        ]
        const { openV: supplyV, outsideOhm } = supplied!
        const rows = voltsSpent({ supplyV, named, outsideOhm, currents_mA: [4, 20, maxmA] })
        expect(rows[0]!.leftV).toBeCloseTo(budget!.voltsAtTransmitter4mA, 9)
        expect(rows[1]!.leftV).toBeCloseTo(budget!.voltsAtTransmitter20mA, 9)
        expect(rows[2]!.leftV).toBeCloseTo(budget!.voltsAtTransmitterMax, 9)
      }
    },
  )
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
})
