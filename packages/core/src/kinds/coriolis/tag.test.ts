// Constants in the units of the tag: the same sensor, printed otherwise.
import { describe, expect, it } from 'vitest'
import { study } from '../../loop/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../registry.ts'
import { Refusal } from '../../refusal/index.ts'
import { combinedFactor, pulseMass } from './tag.ts'

const kind = currentKindOf('coriolis')
const of = (changed: Record<string, string> = {}) => study(kind, demoEntries('coriolis', changed))
type Of = ReturnType<typeof of>
const codes = (s: Of) => s.findings.map((f) => f.code)
const delay = (s: Of) => {
  const v = s.expect('flow', 5000).find((_, i) => s.thread.knots[i]?.id === 'delay')
  return v?.known ? v.value : undefined
}
/** Density that the bench's meter shows, kg/m³. */
const density = (s: Of) => {
  const meter = s.meter!()!
  const state = { ...{ phase: 'measuring', phase_s: 0, practice: '', zero: 0, mount: {}, t_s: 1 }, held: meter.keyed }
  return meter.show(state as never, 0, undefined).tells.find((t) => t.id === 'density')?.value
}

describe('a tag', () => {
  it.each([
    ['g/cm³', { tagDensityIn: 'g/cm³', lowDensityTag: '0.00118', highDensityTag: '0.9982' }],
    ['lb/ft³', { tagDensityIn: 'lb/ft³', lowDensityTag: '0.07366', highDensityTag: '62.3156' }],
  ])('whose densities are printed in %s means the same sensor', (_, changed) => {
    const s = of(changed)
    expect(density(s)! / density(of())!).toBeCloseTo(1, 4)
    expect(codes(s)).not.toContain('density-unit')
  })
  it('whose densities are taken in the wrong unit is asked about', () => {
    expect(codes(of({ lowDensityTag: '0.00118', highDensityTag: '0.9982' }))).toContain('density-unit')
    expect(codes(of({ tagDensityIn: 'g/cm³' }))).toContain('density-unit')
  })
  it('whose coefficients are printed for degrees Fahrenheit, or for one degree, means the same flow', () => {
    const plain = delay(of())!
    expect(
      delay(of({ tagCoefficientFor: '100 °F', flowTempTag: `${4.26 / 1.8}`.slice(0, 8), periodTempTag: '2.444' }))! /
        plain,
    ).toBeCloseTo(1, 6)
    expect(
      delay(of({ tagCoefficientFor: '1 °C', flowTempTag: '0.0426', periodTempTag: '0.0440' }))! / plain,
    ).toBeCloseTo(1, 9)
    expect(codes(of({ flowTempTag: '0.0426' }))).toContain('constant-unusual')
  })
  it.each([
    [' ', '.'],
    ['/', '.'],
    [' ; ', ','],
  ])('that prints factor and coefficient as one, with “%s” between and “%s” as its mark', (between, mark) => {
    const text = (key: string) => of().reader.text(key).replace('.', mark)
    const flowCalTag = `${text('flowCalTag')}${between}${text('flowTempTag')}`
    const s = of({ tagFactorForm: 'one, factor first', flowCalTag, flowTempTag: '', flowCalCert: '', flowTempCert: '' })
    expect(s.missing.point).toEqual([])
    expect(delay(s)).toBeCloseTo(delay(of())!, 9)
    expect(codes(s)).not.toContain('factor-not-combined')
  })
  it('with one figure where two are said to stand is a stop; two points in one figure are no number', () => {
    expect(codes(of({ tagFactorForm: 'one, factor first', flowTempTag: '' }))).toContain('factor-not-combined')
    expect(codes(of({ flowCalTag: '72.38.41' }))).toContain('not-a-number-flowCal')
    expect(combinedFactor('72.38.41')).toBeUndefined()
    expect(combinedFactor('72 384.1')).toBeUndefined()
  })
  it('a period that lost its point is asked about', () => {
    expect(codes(of({ lowPeriodTag: '9105431' }))).toContain('constant-unusual')
    expect(codes(of())).not.toContain('constant-unusual')
  })
})

describe('the mass of a pulse', () => {
  it('is a number of kilograms, or a mass with its unit; anything else is said', () => {
    expect(pulseMass('0.1')).toBe(0.1)
    expect(pulseMass('100 g')).toBeInstanceOf(Refusal)
    expect(pulseMass('1 t')).toBe(1000)
    expect(pulseMass('0')).toBeInstanceOf(Refusal)
    expect(pulseMass('')).toBeUndefined()
    const s = of({ pulseBy: 'kilograms per pulse', kgPerPulse: '2 l' })
    expect(s.findings.find((f) => f.code === 'pulse-mass-unreadable')?.fields).toEqual(['kgPerPulse'])
  })
})
