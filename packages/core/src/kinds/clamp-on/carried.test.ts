// A clamp-on gas meter in each of the three flows: range, thread, bench and figures agree with the gas equation.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { GAS_PRESETS, gasProperties, readComposition } from '../../fluid/index.ts'
import { study } from '../../loop/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../registry.ts'

const kind = currentKindOf('clamp-on')
const PLAIN = 'volume as it flows'
const GAS = {
  medium: 'gas',
  gas: 'own',
  composition: 'methane 93 %, nitrogen 4 %, carbonDioxide 3 %',
  liner: 'none',
  material: 'carbon-steel',
  od: '168.3 mm',
  wall: '7.11 mm',
  transducer: 'W4',
  fluidTemp: '14 °C',
  fluidPressure: '18 bar',
  ownViscosity: '',
  lrv: '0 m3/h',
  urv: '900 m3/h',
  cutoff: '0.01 m3/h',
}
const REFERENCE = { ...GAS, carries: 'volume at reference conditions' }
const range = (stem: string, unit: string, urv: number) =>
  Object.fromEntries(
    ['Lrv', 'Urv', 'ReceiverLow', 'ReceiverHigh'].map((key, i) => [
      `${stem}${key}`,
      i % 2 ? `${Number(urv.toPrecision(10))} ${unit}` : `0 ${unit}`,
    ]),
  )
const of = (changed: Record<string, string>) => study(kind, demoEntries('clamp-on', changed))
type Of = ReturnType<typeof of>
const at = (s: Of, from: string, value: number) =>
  Object.fromEntries(
    spread(s.thread, from, value).map((v, i) => [s.thread.knots[i]?.id, v.known ? v.value : undefined]),
  )
const figure = (s: Of, id: string) => s.figures.find((f) => f.id === id)
const codes = (s: Of) => s.findings.map((f) => f.code)

/** Density by the gas equation, straight from the composition, kg/m³. */
const density = (temp: number, kPa: number) =>
  gasProperties(readComposition(GAS.composition).composition, temp, kPa).density_kgm3
const HERE = density(14, 101.325 + 1800)

describe('a clamp-on meter that reports a gas at reference conditions', () => {
  it.each([
    ['Nm3/h@0C', 0, 1],
    ['Sm3/h@15C', 15, 1],
    ['Sm3/h@20C', 20, 1],
    ['SCFM@60F', 15.5556, 60 / 0.3048 ** 3 / 3600],
  ])('in %s counts at that unit’s own temperature', (unit, temp, per) => {
    const s = of({ ...REFERENCE, ...range('reference', unit, 18_000) })
    const there = at(s, 'flow', 9000)
    expect(there['actual']! / ((9000 / per) * (density(temp, 101.325) / HERE))).toBeCloseTo(1, 5)
    expect(there['digital']).toBeCloseTo(9000, 6)
    expect(there['current']).toBeCloseTo(12, 6)
    expect(there['controller']).toBeCloseTo(9000, 6)
  })
  it('and as mass by its density where it flows', () => {
    const s = of({ ...GAS, carries: 'mass', ...range('mass', 'kg/h', 12_000) })
    const there = at(s, 'flow', 6000)
    expect(there['actual']! * HERE).toBeCloseTo(6000, 1)
    expect(there['controller']).toBeCloseTo(6000, 6)
    expect(at(s, 'current', 20)['flow']).toBeCloseTo(12_000, 4)
  })
  it('one flow gives the same velocity in all three', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 800, noNaN: true }), (flow) => {
        const mass = of({ ...GAS, carries: 'mass', ...range('mass', 'kg/h', 12_000) })
        const volume = of(GAS)
        const nominal = of({ ...REFERENCE, ...range('reference', 'Nm3/h@0C', 18_000) })
        const velocity = at(volume, 'flow', flow)['velocity']!
        expect(at(mass, 'flow', flow * HERE)['velocity']! / velocity).toBeCloseTo(1, 6)
        const reference = (flow * HERE) / density(0, 101.325)
        expect(at(nominal, 'flow', reference)['velocity']! / velocity).toBeCloseTo(1, 6)
      }),
      { numRuns: 12 },
    )
  })
  it('both ends, the bench’s meter and the range findings speak of it', () => {
    const s = of({ ...REFERENCE, ...range('reference', 'Nm3/h@0C', 18_000), referenceReceiverHigh: '1800 Nm3/h@0C' })
    const finding = s.findings.find((f) => f.code === 'ends-disagree')
    expect(finding?.what).toContain('Nm³/h (0 °C)')
    expect(finding?.fields).toContain('referenceReceiverHigh')
    const meter = of({ ...REFERENCE, ...range('reference', 'Nm3/h@0C', 18_000) }).meter?.()
    const state = { ...{ phase: 'measuring', phase_s: 0, practice: '', zero: 0.35, mount: {} }, held: meter!.keyed }
    const measured = meter!.measure(state as never, 9000, 0)
    expect(meter!.show(state as never, 9000, measured).digital! / 9000).toBeCloseTo(1, 3)
  })
  it('switch points are set in it too', () => {
    const s = of({
      ...REFERENCE,
      ...range('reference', 'Nm3/h@0C', 18_000),
      trips: '1',
      trip1Drives: 'alarm',
      trip1Kind: 'far',
      referenceTrip1Set: '25000 Nm3/h@0C',
      referenceTrip1Band: '100 Nm3/h@0C',
      trip1Contact: 'NO',
    })
    const outside = s.findings.filter((f) => f.fields.includes('referenceTrip1Set'))
    expect(outside.length).toBeGreaterThan(0)
    expect(JSON.stringify(outside)).toContain('Nm³/h (0 °C)')
  })
  it('a liquid has none, and says so where the flow would stand', () => {
    const s = of({ carries: 'volume at reference conditions', ...range('reference', 'Nm3/h@0C', 100) })
    const stage = s.thread.stages[0]!
    expect(stage.ready).toBe(false)
    expect(JSON.stringify(stage)).toContain('a liquid has no volume at reference conditions')
  })
  it('is told where it is no gas, counted at two conditions, or told its state once', () => {
    expect(codes(of({ carries: 'volume at reference conditions' }))).toContain('reference-of-liquid')
    const both = { ...REFERENCE, ...range('reference', 'Nm3/h@0C', 18_000) }
    expect(codes(of(both))).not.toContain('reference-apart')
    expect(codes(of({ ...both, reference: '15 °C' }))).toContain('reference-apart')
    const one = of({ ...both, referenceReceiverHigh: '19000 Sm3/h@15C' }).findings
    expect(one.find((f) => f.code === 'reference-apart')?.fields).toContain('referenceReceiverHigh')
    const fixed = of(both).findings.find((f) => f.code === 'gas-state-fixed')
    const more = (100 * (density(14, 101.325 + 1900) - HERE)) / HERE
    expect(fixed?.why).toContain(`+${more.toFixed(1)} %`)
    expect(codes(of({ ...both, gasState: 'as live inputs' }))).not.toContain('gas-state-fixed')
    expect(codes(of(GAS))).not.toContain('gas-state-fixed')
  })
  it('the three flows at mid range stand beside each other, whichever is reported', () => {
    for (const changed of [
      GAS,
      { ...REFERENCE, ...range('reference', 'Nm3/h@0C', 900 * (HERE / density(0, 101.325))) },
    ]) {
      const s = of(changed)
      expect(figure(s, 'mid-actual')?.value).toBeCloseTo(450, 2)
      expect(figure(s, 'mid-mass')?.value).toBeCloseTo(450 * HERE, 0)
      expect((figure(s, 'mid-reference')?.value ?? 0) / ((450 * HERE) / density(0, 101.325))).toBeCloseTo(1, 5)
      expect(figure(s, 'mid-reference')?.working?.().numbers).toMatch(/Z 0\.9\d+ and (0\.9\d+|1\.0000)/)
    }
    expect(figure(of({ ...GAS, reference: '15 °C' }), 'mid-reference')?.unit).toBe('Sm3/h@15C')
    expect(figure(of({}), 'mid-reference')).toBeUndefined()
  })
  it('half-entered, each preset: nothing is NaN and what is missing is named', () => {
    for (const { id } of GAS_PRESETS)
      for (const carries of [PLAIN, 'volume at reference conditions', 'mass']) {
        const s = of({ ...GAS, gas: id, carries, fluidPressure: '' })
        for (const f of s.figures) if (f.value !== undefined) expect(Number.isFinite(f.value), f.id).toBe(true)
        expect(codes(s)).not.toContain('NaN')
        expect(JSON.stringify([s.findings, s.figures.map((f) => [f.says, f.needs])])).not.toMatch(/NaN|undefined/)
      }
  })
})
