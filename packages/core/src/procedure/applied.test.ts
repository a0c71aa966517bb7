// A sensor trim at an orifice: what is applied is a differential pressure, and the zero is the manifold's.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf } from '../kinds/index.ts'
import { appliedEntry, chainOf, foundPoint, study, termsOf } from '../loop/index.ts'
import { spread } from '../thread/index.ts'
import { flowFor, flowOfApplied, pressureFor } from './applied.ts'
import { stepsOf } from './index.ts'

const SITE = { plausiblePct: 5, window_s: 4, driftPct: 0.1, noisePct: 0.1 }
const known = (changed: Record<string, string> = {}) =>
  study(currentKindOf('orifice-dp'), demoEntries('orifice-dp', changed))
const terms = (procedure: 'sensor-trim' | 'zero-trim', changed: Record<string, string> = {}) =>
  termsOf(known(changed), { tag: 'FT-402', procedure, site: SITE, choices: {} })

describe('a point of the chain at an orifice', () => {
  const nothing = { digital: null, current: null, receiver: null }
  it('is given in mbar, as the calibrator shows it, or as the flow', () => {
    const [c, t] = [chainOf(known()), terms('sensor-trim')]
    const applied = (typed: string) => foundPoint(c, { applied: appliedEntry(c, typed), ...nothing }).applied
    const quarter = t.rootOf_mbar! / 4
    expect(c.applied.id).toBe('dp')
    expect(applied(`${quarter.toFixed(6)} mbar`)).toBeCloseTo(c.urv / 2, 3)
    expect(applied(quarter.toFixed(6))).toBeCloseTo(c.urv / 2, 3)
    expect(applied(`${(quarter / 10).toFixed(7)} kPa`)).toBeCloseTo(c.urv / 2, 3)
    expect(applied('0 mbar')).toBe(0)
    // The true flow is not quite the root: the coefficient falls as the flow rises.
    const half = applied('1250 kg/h')
    expect(half).toBeGreaterThan(0.985 * (c.urv / 2))
    expect(half).toBeLessThan(c.urv / 2)
    expect(() => applied('7 m')).toThrow(/“7 m”/)
  })
  it('of another kind is given as its process value', () => {
    const c = chainOf(study(currentKindOf('clamp-on'), demoEntries('clamp-on')))
    expect(c.applied).toBe(c.process)
    expect(() => appliedEntry(c, '3 mbar')).toThrow()
  })
})

describe('a trim at an orifice', () => {
  it('is applied in mbar, and typed in any unit of pressure or as the flow', () => {
    const t = terms('sensor-trim')
    const s = known()
    const dp = s.thread.knots.findIndex((k) => k.id === 'dp')
    const full = spread(s.thread, 'digital', t.urv)[dp]!
    expect(full.known && t.rootOf_mbar! / full.value).toBeCloseTo(1, 9)
    const titles = stepsOf('sensor-trim', t).map((step) => step.title)
    expect(titles.filter((title) => /^Apply [\d.]+ mbar, for [\d.]+ kg\/h$/.test(title)).length).toBeGreaterThan(1)
    expect(flowOfApplied(`${(t.rootOf_mbar! / 4).toFixed(6)} mbar`, t)).toBeCloseTo(t.urv / 2, 3)
    expect(flowOfApplied(`${(t.rootOf_mbar! / 40).toFixed(6)} kPa`, t)).toBeCloseTo(t.urv / 2, 2)
    expect(flowOfApplied(`${(t.rootOf_mbar! / 4).toFixed(6)}`, t)).toBeCloseTo(t.urv / 2, 3)
    expect(flowOfApplied('1250 kg/h', t)).toBeUndefined()
  })
  it('pressure and flow are the inverse of each other, of either sign', () => {
    fc.assert(
      fc.property(fc.double({ min: -3000, max: 3000, noNaN: true }), (flow) => {
        expect(flowFor(pressureFor(flow, 2500, 250), 2500, 250)).toBeCloseTo(flow, 6)
      }),
    )
  })
  it('without a root in the device it is applied as what it shows', () => {
    expect(terms('sensor-trim', { rootAt: 'receiver' }).rootOf_mbar).toBeUndefined()
  })
  it('zero is taken at the manifold: equalized, never by a valve after the meter', () => {
    const moves = stepsOf('zero-trim', terms('zero-trim')).filter((step) => step.kind === 'valve')
    expect(moves.length).toBeGreaterThan(3)
    const words = JSON.stringify(stepsOf('zero-trim', terms('zero-trim')))
    expect(words).toMatch(/qualiz/)
    expect(words).not.toMatch(/after the meter|downstream/)
    expect(terms('zero-trim', { manifold: 'five-valve' }).manifold).toBe('five-valve')
  })
})
