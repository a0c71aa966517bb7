// What a plan wants its device to hold, and what its circuit says where nothing answers.
import { describe, expect, it } from 'vitest'
import { kindOf } from '../kinds/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { sure } from '../sure/index.ts'
import { circuitWords, plannedValues, study } from './index.ts'

const studied = (kind: string, changed: Record<string, string> = {}) =>
  study(sure(kindOf(kind)), {
    ...demoEntries(kind),
    ...Object.fromEntries(
      Object.entries(changed).map(([k, v]) => [
        k,
        { typed: v, value: Number(v.split(' ')[0]), unit: v.split(' ')[1] ?? '' },
      ]),
    ),
  })

describe('the plan as a device is read', () => {
  it('has tag, unit, range and damping', () => {
    const known = studied('pressure')
    const planned = plannedValues(known, 'Pt-118 é')
    expect(planned['tag']).toBe('PT-118')
    expect(planned).toMatchObject({ unit: expect.any(String), lrv: expect.any(Number), urv: expect.any(Number) })
  })
  it('speaks the device’s unit where that measures the same, and its own where not', () => {
    const known = studied('pressure')
    const own = plannedValues(known, 'X')
    const inPa = plannedValues(known, 'X', 'Pa')
    expect(inPa['unit']).toBe('Pa')
    expect(Number(inPa['urv']) / Number(own['urv'])).toBeGreaterThan(1)
    expect(plannedValues(known, 'X', 'degC')).toEqual(own)
  })
  it('of a discrete point is its tag alone', () => {
    expect(plannedValues(studied('discrete-sensor'), 'ZS-1')).toEqual({ tag: 'ZS-1' })
  })
})

describe('where nothing answers', () => {
  it('says resistance and volts of the loop as drawn', () => {
    const [resistance, power] = circuitWords(studied('pressure'))
    expect(resistance).toMatch(/The loop as drawn has \d+ Ω outside the device/)
    expect(power).toMatch(/lifts off at [\d.]+ V/)
  })
  it('says that it has too little of either', () => {
    const known = studied('pressure')
    if (known.family !== 'current') throw new Error('no current')
    const words = (totalOhm: number, ok: boolean) =>
      circuitWords({
        ...known,
        electrical: { ...known.electrical, budget: { ...sure(known.electrical.budget), totalOhm, ok } },
      })
    expect(words(90, true)[0]).toContain('the supply shorts the signal')
    expect(words(1300, false)[0]).toContain('too much for the signal')
    expect(words(1300, false)[1]).toContain('it may have no power')
  })
  it('says nothing where the plan does not tell', () => {
    expect(circuitWords(studied('discrete-sensor'))).toEqual([])
    expect(circuitWords(study(sure(kindOf('pressure')), {}))).toEqual([])
  })
})
