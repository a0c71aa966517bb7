// A resistance thermometer's thread with all that makes its element read another temperature than the medium has.
import { describe, expect, it } from 'vitest'
import { study } from '../../loop/index.ts'
import { rtdResistance } from '../../temperature/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

const look = (changed: Record<string, string> = {}) =>
  study(currentKindOf('rtd-head'), demoEntries('rtd-head', changed))
function reported(changed: Record<string, string>, temp: number): number {
  const { thread, expect: all } = look(changed)
  const at = all('temperature', temp)[thread.knots.findIndex((k) => k.id === 'digital')]!
  if (!at.known) throw new Error(at.says)
  return at.value
}
const codes = (changed: Record<string, string>) => look(changed).findings.map((f) => `${f.grade} ${f.code}`)
/** A certificate of an element a little off the standard. */
const OWN = {
  element: 'platinum, own constants',
  r0: '100.06',
  cvdA: '3.9089e-3',
  cvdB: '−5.7801e-7',
  cvdC: '-4.183e-12',
}

describe('what a thermometer reports', () => {
  it.each(['Pt100', 'Pt1000', 'Ni100', 'Ni120'])('of %s alone is the temperature', (element) => {
    expect(reported({ element }, 80)).toBeCloseTo(80, 5)
    expect(codes({ element })).toEqual([])
  })
  it.each([
    ['two leads', { leads: '2', leadOhm: '0.8 Ohm' }, 0.8, 'look two-wire-leads'],
    ['leads that differ', { leads: '3', leadDiff: '0.2 Ohm' }, 0.2, 'look leads-unlike'],
    ['two leads of a Pt1000', { element: 'Pt1000', leads: '2', leadOhm: '0.8 Ohm' }, 0.08, 'look two-wire-leads'],
  ])('%s', (_, changed, ohmPer100, code) => {
    // Against the definition: the temperature at which a bare element has that resistance.
    const wanted = reported({}, 80) + ohmPer100 / (rtdResistance(80.5) - rtdResistance(79.5))
    expect(reported(changed, 80)).toBeCloseTo(wanted, 2)
    expect(codes(changed)).toContain(code)
  })
  it('four wires take all of the leads out', () => expect(reported({ leads: '4' }, 80)).toBeCloseTo(80, 9))
  it('the current warms the element', () => {
    expect(reported({ selfHeating: '0.3 K' }, 80)).toBeCloseTo(80.3, 6)
    expect(codes({ selfHeating: '0.3 K' })).toContain('look self-heating')
    expect(codes({ selfHeating: '0.02 K' })).toEqual([])
  })
  it('an element with constants of its own is right in a transmitter that holds them, and wrong in another', () => {
    expect(reported(OWN, 80)).toBeCloseTo(80, 6)
    const wrong = reported({ ...OWN, matched: 'no' }, 80)
    const ohm = 100.06 * (1 + 3.9089e-3 * 80 - 5.7801e-7 * 6400)
    expect(rtdResistance(wrong)).toBeCloseTo(ohm, 6)
    expect(codes({ ...OWN, matched: 'no' })).toContain('look not-matched')
  })
})

describe('what cannot be an element', () => {
  it.each([
    [{ ...OWN, cvdA: '3.90.83e-3' }, 'stop not-a-number'],
    [{ ...OWN, cvdB: '5.775e-7' }, 'stop invalid-input'],
    [{ ...OWN, cvdB: '-5.775e-6' }, 'stop invalid-input'],
    [{ ...OWN, cvdA: '3.9083e-2' }, 'stop invalid-input'],
    [{ element: 'own table', ownTable: '0 100; 1 101', leads: '2', leadOhm: '1 Ohm' }, 'look two-wire-leads'],
    [{ element: 'own table', ownTable: '0 100' }, 'stop table-unreadable'],
    [{ element: 'Ni120', urv: '300 degC' }, 'stop outside-platinum'],
  ])('%o: %s', (changed, code) => {
    expect(codes(changed)).toContain(code)
    for (const f of look(changed).figures) expect(f.value !== undefined || f.needs?.length || f.says).toBeTruthy()
  })
})

it('says how long it takes to follow', () => {
  const figure = look({ timeConstant: '12 s' }).figures.find((f) => f.id === 'settles')
  expect(figure?.value).toBeCloseTo(55.26, 2)
})
