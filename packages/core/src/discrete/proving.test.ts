import { describe, expect, it } from 'vitest'
import {
  CONNECTOR_PINS,
  firstToDisagree,
  judgeDistances,
  judgeSwitch,
  judgeVolts,
  operateLimits,
  TARGET_METALS,
  terminalsOfSensor,
  type SwitchPlan,
  type SwitchReading,
} from './index.ts'

const plan: SwitchPlan = {
  present: { sensorLamp: true, inputLamp: true, controller: true, signalV: 22.2 },
  absent: { sensorLamp: false, inputLamp: false, controller: false, signalV: 0.3 },
  supplyV: 24,
  distance: { expected_mm: 8, tolerancePct: 10, differentialMaxPct: 20 },
}
const reading = (i: number, more: Partial<SwitchReading> = {}): SwitchReading => {
  const target = i % 2 === 0
  return {
    id: `r${i}`,
    pointIndex: i,
    target,
    seen: { sensorLamp: target, inputLamp: target, controller: target },
    distance_mm: target ? 7.9 : 8.6,
    signalV: target ? 22.1 : 0.2,
    ...more,
  }
}
const judge = (...more: Partial<SwitchReading>[]) =>
  judgeSwitch(
    more.map((m, i) => reading(i, m)),
    plan,
  )

describe('a discrete check', () => {
  it('passes when all witnesses, volts and distances agree', () => {
    const j = judge({}, {}, {}, {})
    expect(j).toMatchObject({ pass: true, faults: [] })
    expect(j.distanceErrorPct).toBeCloseTo(-1.25, 9)
    expect(j.distances.differentialPct).toBeCloseTo((100 * 0.7) / 7.9, 9)
  })
  it.each([
    [{ seen: { sensorLamp: true, inputLamp: false, controller: false } }, 'inputLamp'],
    [{ seen: { sensorLamp: false, inputLamp: false, controller: false } }, 'sensorLamp'],
    [{ seen: { sensorLamp: true, inputLamp: true, controller: false } }, 'controller'],
    [{ seen: { controller: false } }, 'controller'],
  ] as const)('with %j the first to disagree is %s', (more, who) => {
    const j = judge(more, {})
    expect(j.pass).toBe(false)
    expect(j.readings[0]!.disagrees).toBe(who)
  })
  it.each([
    [{ distance_mm: 6 }, { distance_mm: 6.3 }, /operate distance/],
    [{ distance_mm: 8 }, { distance_mm: 10 }, /differential/],
    [{ distance_mm: 8 }, { distance_mm: 7 }, /exchanged/],
    [{ signalV: 12 }, {}, /volts/],
  ])('fails %j then %j', (up, down, fault) => {
    const j = judge(up, down)
    expect(j.pass).toBe(false)
    expect(j.faults.join(' ')).toMatch(fault)
  })
  it('passes with the leads exchanged, and says so', () =>
    expect(judge({ signalV: -22.2 }, {})).toMatchObject({ pass: true, readings: [{ volts: 'leads-exchanged' }, {}] }))
  it('has no verdict without readings', () => expect(judgeSwitch([], plan).pass).toBe(false))
})

it.each([
  [22, 'agrees'],
  [-22, 'leads-exchanged'],
  [0.3, 'other-state'],
  [12, 'differs'],
] as const)('%d V where 22.2 V was expected: %s', (read, said) => expect(judgeVolts(read, 22.2, 0.3, 2.4)).toBe(said))
it('0 V that no state gives is a wire that nothing drives', () => expect(judgeVolts(0, 22, 24, 2)).toBe('floating'))
it('asks only the witnesses that were looked at', () => expect(firstToDisagree(plan.present, {})).toBeUndefined())

describe('operating distance', () => {
  it('keeps the limits of the standard', () => {
    const l = operateLimits({ rated_mm: 8, metalFactor: 0.4, face_mm: 18 })
    expect(l.expected_mm).toBeCloseTo(3.2, 12)
    expect(l.assured_mm).toBeCloseTo(2.592, 12)
    expect(l.usable_mm[1]).toBeCloseTo(3.872, 12)
    expect(l.standardSide_mm).toBe(24)
    expect(operateLimits({ rated_mm: 4, metalFactor: 1, face_mm: 18 }).standardSide_mm).toBe(18)
    expect(() => operateLimits({ rated_mm: 0, metalFactor: 1 })).toThrowError(
      expect.objectContaining({ code: 'not-positive' }),
    )
  })
  it('judges repeats by their spread', () => {
    const d = judgeDistances([{ operate_mm: 7.8, release_mm: 8.4 }, { operate_mm: 8.2 }])
    expect(d.repeatPct).toBeCloseTo(5, 9)
    expect(d.differential_mm).toBeCloseTo(0.4, 9)
    expect(judgeDistances([])).toMatchObject({ operate_mm: null, repeatPct: null, differentialPct: null })
  })
})

describe('the tables', () => {
  it('give every row its source, and factors in order', () => {
    for (const row of [...TARGET_METALS, ...CONNECTOR_PINS]) expect(row.source).not.toBe('')
    for (const m of TARGET_METALS)
      expect([m.low, m.typical, m.high].toSorted((a, b) => a - b)).toEqual([m.low, m.typical, m.high])
  })
  it('put a normally closed output of a four-pin connector on pin 2, and a two-wire one on its own', () => {
    const m12 = CONNECTOR_PINS.find((p) => p.id === 'm12-4')!
    expect(terminalsOfSensor(m12, 'PNP', 'NC').signal).toBe('2')
    expect(terminalsOfSensor(m12, 'two-wire', 'NO')).toEqual({ plus: '1', minus: '4', signal: '4' })
    expect(terminalsOfSensor(CONNECTOR_PINS[0]!, 'two-wire', 'NC').signal).toBe('BU')
  })
})
