import { describe, expect, it } from 'vitest'
import { study } from '../../loop/index.ts'
import { thermocoupleEmf, thermocoupleTemperature } from '../../temperature/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

const of = (changed: Record<string, string> = {}) =>
  study(currentKindOf('thermocouple'), demoEntries('thermocouple', changed))
const reported = (changed: Record<string, string>, t: number) => {
  const s = of(changed)
  const v = s.expect('temperature', t)[s.thread.knots.findIndex((k) => k.role === 'digital')]!
  return v.known ? v.value : Number.NaN
}
const codes = (changed: Record<string, string>) => of(changed).findings.map((f) => `${f.grade} ${f.code}`)

describe('a thermocouple on its own cable', () => {
  it.each([0, 120, 400, 780])('reports %d °C as it is, whatever head and terminals are at', (t) => {
    for (const [head, terminals] of [
      ['60 degC', '28 degC'],
      ['-10 degC', '45 degC'],
    ] as const)
      expect(reported({ head, terminals }, t)).toBeCloseTo(t, 6)
  })
  it('shows at the terminals the emf against them', () => {
    expect(of().expect('temperature', 400)[1]).toMatchObject({ value: thermocoupleEmf('K', 400, 28) })
  })
  it('speaks any unit', () => {
    expect(reported({ urv: '1472 degF', lrv: '32 degF' }, 752)).toBeCloseTo(752, 6)
  })
})

describe('the wrong cable', () => {
  it('of copper leaves out what lies between head and terminals', () => {
    // By hand: only E(400) − E(60) arrives, and E(28) is added to it.
    const wrong = thermocoupleTemperature(
      'K',
      thermocoupleEmf('K', 400) - thermocoupleEmf('K', 60) + thermocoupleEmf('K', 28),
    )
    expect(reported({ cable: 'copper' }, 400)).toBeCloseTo(wrong, 6)
    expect(wrong).toBeLessThan(370)
    expect(codes({ cable: 'copper' })).toContain('stop cable-of-copper')
  })
  it('of another type gives its own emf there', () => {
    const wrong = thermocoupleTemperature('K', thermocoupleEmf('K', 400, 60) + thermocoupleEmf('J', 60, 28), 28)
    expect(reported({ cable: 'other', cableType: 'J' }, 400)).toBeCloseTo(wrong, 6)
    const found = of({ cable: 'other', cableType: 'J' }).findings.find((f) => f.code === 'cable-of-another-type')!
    expect(found).toMatchObject({ grade: 'stop', fields: ['cable', 'cableType', 'type'] })
    expect(found.what).toMatch(/At 400 °C it reports \d+\.\d K too high/)
    expect(codes({ cable: 'other', cableType: 'K' })).not.toContain('stop cable-of-another-type')
  })
  it('crossed at both ends counts twice the other way', () => {
    const mV = thermocoupleEmf('K', 400, 60) - thermocoupleEmf('K', 60, 28)
    expect(reported({ crossed: 'both' }, 400)).toBeCloseTo(thermocoupleTemperature('K', mV, 28), 6)
    expect(codes({ crossed: 'both' })).toContain('stop cable-crossed')
  })
  it('crossed at one end reads backwards: hotter is less', () => {
    expect(reported({ crossed: 'one' }, 150)).toBeLessThan(reported({ crossed: 'one' }, 100))
  })
  it('says that a crossed cable hides while head and terminals are alike', () => {
    const found = of({ crossed: 'both', head: '28 degC' }).findings.find((f) => f.code === 'cable-crossed')!
    expect(found.what).toContain('no error while head and terminals are alike')
  })
})

it('a cold junction taken as fixed is wrong by nearly the difference', () => {
  const fixed = { compensation: 'fixed', fixedAt: '20 degC', terminals: '35 degC' }
  expect(reported(fixed, 400)).toBeCloseTo(400 - 14.4, 0)
  expect(codes(fixed)).toContain('look cold-junction-fixed')
})
it('refuses a range that the type cannot measure', () => {
  expect(codes({ type: 'B' })).toContain('stop outside-type')
  expect(codes({ type: 'T' })).toContain('stop outside-type')
  expect(
    codes({ type: 'B', lrv: '400 degC', urv: '1500 degC', highest: '1400 degC', lowest: '500 degC' }).filter((c) =>
      c.startsWith('stop'),
    ),
  ).toEqual([])
})
