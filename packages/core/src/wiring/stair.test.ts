// The stair of a loop, against the budget of the same circuit: whatever it passes, nothing is lost on the way.
import { describe, expect, it } from 'vitest'
import { connect, energise, marginsOf, propose, PLAIN, stairOf, suppliedBy, takeOut } from './index.ts'
import { everyArrangement, usual, withSeries } from './wiring.fixture.ts'

const CURRENTS = [4, 20, 22]
const FED = everyArrangement().filter((a) => a.output !== 'digital bus')

describe('the stair of a loop', () => {
  it('ends at what the budget leaves for the transmitter, in every arrangement', () => {
    for (const a of FED) {
      const [wiring, conditions] = [propose(a), withSeries(a.otherSeries)]
      const stair = stairOf(wiring, conditions, CURRENTS)!
      const supplied = suppliedBy(wiring, conditions)!
      CURRENTS.forEach((mA, i) => {
        const lost = stair.steps.reduce((sum, s) => sum + (s.kind === 'transmitter' ? 0 : s.volts[i]!), 0)
        expect(stair.feedV - lost).toBeCloseTo(supplied.openV - (mA * supplied.outsideOhm) / 1000, 2)
      })
    }
  })
  it('leaves as margin what the budget leaves above the lift-off', () => {
    for (const a of FED) {
      const [wiring, conditions] = [propose(a), withSeries(a.otherSeries)]
      const [stair, supplied] = [stairOf(wiring, conditions, CURRENTS)!, suppliedBy(wiring, conditions)!]
      const own = stair.steps.some((s) => s.kind === 'transmitter') ? 12 : 0
      for (const { mA, spare } of marginsOf(stair, own))
        expect(spare).toBeCloseTo(supplied.openV - (mA * supplied.outsideOhm) / 1000 - own, 2)
    }
  })
  it('passes supply to return in the order of the current, cables by name', () => {
    const stair = stairOf(propose(PLAIN), usual, CURRENTS)!
    expect(stair.steps.map((s) => s.name)).toEqual([
      'Home run',
      'Field cable',
      'Transmitter',
      'Field cable',
      'Home run',
      'Input card',
    ])
    expect(stair.feedV).toBeCloseTo(24, 3)
    expect(stair.steps.at(-1)!.volts.map((v) => Number(v.toFixed(3)))).toEqual([1, 5, 5.5])
  })
  it('falls: no step but the transmitter’s gives volts back', () => {
    for (const a of FED)
      for (const step of stairOf(propose(a), withSeries(a.otherSeries), CURRENTS)!.steps)
        if (step.kind !== 'transmitter') for (const v of step.volts) expect(v).toBeGreaterThan(-1e-9)
  })
  it('tells below zero what the transmitter lacks at a current that the loop cannot carry', () => {
    const starved = { ...usual, figures: { ...usual.figures, supply: 12, shunt: 800 } }
    const left = stairOf(propose(PLAIN), starved, [4, 20])!.steps.find((s) => s.kind === 'transmitter')!
    expect(left.volts[1]).toBeLessThan(0)
    expect(energise({ wiring: propose(PLAIN), conditions: { ...starved, mA: 20 } })).toBeDefined()
  })
  it('is none where nothing feeds the loop, its way is cut, or two supplies stand in it', () => {
    const passive = propose({ ...PLAIN, receiver: 'passive card' })
    const dead = passive.conductors.find((c) => c.to === 'PS:+' || c.from === 'PS:+')!
    expect(stairOf(takeOut(passive, dead.id), usual, CURRENTS)).toBeUndefined()
    const bus = propose({ ...PLAIN, output: 'digital bus' })
    expect(stairOf(bus, usual, CURRENTS)).toBeUndefined()
  })
  it('follows the greater part where a second way carries some of the current', () => {
    const wiring = connect(propose(PLAIN), 'JB:1', 'TX:+')
    expect(stairOf(wiring, usual, CURRENTS)!.steps.find((s) => s.kind === 'transmitter')).toBeDefined()
  })
})
