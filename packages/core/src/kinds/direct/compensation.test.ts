// A pH electrode at a temperature of its own, and a redox electrode against its reference.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { idealSlope_mV } from '../../analysis/index.ts'
import { study as studied } from '../../loop/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'
import { hexacyanoferrate_mV } from './redox.ts'

const study = (kind: string, changed: Record<string, string>) =>
  studied(currentKindOf(kind), demoEntries(kind, changed))
const codes = (kind: string, changed: Record<string, string>) => study(kind, changed).findings.map((f) => f.code)
const at = (kind: string, changed: Record<string, string>, process: number) =>
  spread(study(kind, changed).thread, 'process', process).map((v) => (v.known ? v.value : NaN))

describe('the temperature of an electrode', () => {
  const temp = fc.integer({ min: 0, max: 100 })
  const ph = fc.double({ min: 0, max: 14, noNaN: true })
  it('that the device measures is compensated: what it reports is what is there', () => {
    fc.assert(
      fc.property(temp, ph, (t, v) => {
        const [process, electrode, digital] = at('ph', { phTemp: `${t} °C`, slopePercent: '97 %' }, v)
        expect(electrode).toBeCloseTo(0.97 * idealSlope_mV(t) * (process! - 7), 6)
        expect(digital).toBeCloseTo(v, 6)
      }),
    )
  })
  it('that it only believes makes it wrong by the ratio of both absolute temperatures, at pH 7 not at all', () => {
    fc.assert(
      fc.property(temp, temp, ph, (t, set, v) => {
        const changed = { phTemp: `${t} °C`, compensation: 'fixed', compTemp: `${set} °C` }
        expect(at('ph', changed, v)[2]).toBeCloseTo(7 + ((v - 7) * (t + 273.15)) / (set + 273.15), 6)
        expect(at('ph', changed, 7)[2]).toBeCloseTo(7, 9)
      }),
    )
  })
  it('not compensated is said, with what it shows; and not where it is within the tolerance', () => {
    const hot = { phTemp: '62 °C', compensation: 'fixed' }
    const said = study('ph', hot).findings.find((f) => f.code === 'temperature-not-compensated')
    // 7 ± 7 · 335.15 / 298.15, the one end or the other.
    expect(said!.what).toMatch(/at pH 0 it shows −0.87 pH|at pH 14 it shows 14.87 pH/)
    expect(codes('ph', { ...hot, phTemp: '26 °C' })).not.toContain('temperature-not-compensated')
    expect(codes('ph', { phTemp: '62 °C' })).not.toContain('temperature-not-compensated')
  })
  it('is explained on the thread, for the electrode and for the device', () => {
    const { thread } = study('ph', { phTemp: '60 °C', compensation: 'fixed', slopePercent: '97 %' })
    const [electrode, device] = thread.stages.map((s) => (s.ready && s.working ? s.working(4).numbers : ''))
    expect(electrode).toContain('97.0 % × −59.16 mV × (60.0 + 273.15) K / 298.15 K')
    expect(device).toContain('97.0 % × −59.16 mV × (25.0 + 273.15) K / 298.15 K')
  })
})

describe('a redox electrode', () => {
  it('gives its offset besides, which the device takes off again', () => {
    fc.assert(
      fc.property(fc.double({ min: -200, max: 800, noNaN: true }), fc.integer({ min: -25, max: 25 }), (v, off) => {
        const [process, electrode, digital] = at('orp', { electrodeOffset: `${off} mV` }, v)
        expect(electrode).toBeCloseTo(process! + off, 9)
        expect(digital).toBeCloseTo(v, 9)
      }),
    )
  })
  it('is told what it gives in a solution that is known: published 430 mV against hydrogen at 25 °C', () => {
    expect(hexacyanoferrate_mV(25)).toBeCloseTo(430.28, 6)
    expect(hexacyanoferrate_mV(10)).toBeGreaterThan(hexacyanoferrate_mV(25) + 35)
    const figures = (reference: string) =>
      Object.fromEntries(study('orp', { reference }).figures.map((f) => [f.id, f.value]))
    expect(figures('agcl-3m')).toMatchObject({ 'against-hydrogen': 210, 'in-solution': 220 })
    expect(figures('calomel-sat')).toMatchObject({ 'against-hydrogen': 241, 'in-solution': 189 })
  })
  it('that is far off is looked at', () => {
    expect(codes('orp', { electrodeOffset: '31 mV' })).toContain('redox-electrode-off')
    expect(codes('orp', { electrodeOffset: '-30 mV' })).not.toContain('redox-electrode-off')
  })
})
