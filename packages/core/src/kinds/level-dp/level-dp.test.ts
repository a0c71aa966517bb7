import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dpLevelRange, legFluidDensity, LEG_FLUIDS } from '../../level/index.ts'
import { study as studied } from '../../loop/index.ts'
import { attempt } from '../../refusal/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

const KIND = 'level-dp'
const study = (changed: Record<string, string> = {}) => studied(currentKindOf(KIND), demoEntries(KIND, changed))
const codes = (changed: Record<string, string>) => study(changed).findings.map((f) => f.code)
const figure = (id: string, changed: Record<string, string> = {}) => study(changed).figures.find((f) => f.id === id)
const value = (id: string, changed: Record<string, string> = {}) => figure(id, changed)?.value
/** mmH2O in mbar. */
const mbar = 0.0980665

describe('a level by pressure', () => {
  it('reckons an end of its range back to the level itself, without dust: 0 is 0', () => {
    const low = fc.integer({ min: 0, max: 900 })
    fc.assert(
      fc.property(low, fc.integer({ min: 700, max: 1500 }), (empty, sg) => {
        const changed = { sg: `${sg / 1000}`, emptyHeight: `${empty} mm` }
        const [lrv, urv] = ['dp-empty', 'dp-full'].map((id) => `${value(id, changed)!.toPrecision(12)} mmH2O`)
        const [level] = studied(currentKindOf(KIND), demoEntries(KIND, { ...changed, lrv: lrv!, urv: urv! })).scales
        expect(level).toEqual({ low: 0, high: 2800 - empty })
      }),
    )
  })
  it('makes the pressures of the contract’s calculator, open, dry and wet', () => {
    const mm = fc.integer({ min: -900, max: 3000 })
    fc.assert(
      fc.property(
        fc.constantFrom('open' as const, 'dry-leg' as const, 'wet-leg' as const),
        fc.integer({ min: 500, max: 2000 }),
        fc.integer({ min: 0, max: 900 }),
        mm,
        (arrangement, sg, empty, below) => {
          const changed = { arrangement, sg: `${sg / 1000}`, emptyHeight: `${empty} mm`, belowTap: `${below} mm` }
          const by = dpLevelRange({
            arrangement,
            sg: sg / 1000,
            emptyHeight_mm: empty,
            fullHeight_mm: 2800,
            transmitterBelowTap_mm: below,
            legSg: 1.05,
            legHeight_mm: 3100,
          })
          expect(value('dp-empty', { ...changed, urv: '148 mmH2O' })).toBeCloseTo(by.lrv_mmH2O, 6)
          expect(value('dp-full', { ...changed, urv: '148 mmH2O' })).toBeCloseTo(by.urv_mmH2O, 6)
        },
      ),
    )
  })
  it('with two seals does not hang on where its cell is, and is lowered by what stands in the capillaries', () => {
    const seals = { arrangement: 'seals', sealsApart: '3000 mm', legSg: '0.96', emptyHeight: '0 mm' }
    expect(value('dp-empty', seals)).toBeCloseTo(-0.96 * 3000, 6)
    expect(value('dp-empty', { ...seals, belowTap: '5000 mm' })).toBeCloseTo(-0.96 * 3000, 6)
    expect(value('dp-empty', { ...seals, arrangement: 'one-seal', belowTap: '500 mm' })).toBeCloseTo(0.96 * 500, 6)
  })
  it('that is submersible counts from its membrane, and its vent tube must breathe', () => {
    const down = { arrangement: 'submersible', emptyHeight: '100 mm', fullHeight: '2000 mm', sg: '1' }
    expect(value('dp-empty', { ...down, urv: '148 mmH2O' })).toBeCloseTo(100, 9)
    expect(codes(down)).not.toContain('vent-closed')
    expect(codes({ ...down, vent: 'closed' })).toContain('vent-closed')
  })
  it('weighs liquid and fill at their temperatures', () => {
    expect(legFluidDensity('water', 100)).toBeCloseTo(958.35, 1)
    expect(value('sg', { liquid: 'water', liquidTemp: '100 degC' })).toBeCloseTo(0.95835, 4)
    // A leg of silicone oil at 40 °C: 960 · (1 − 0.00104 · 15).
    expect(value('fill-sg', { legFill: 'silicone 50', legTemp: '40 degC' })).toBeCloseTo(0.945024, 6)
    const cold = value('dp-empty', { legFill: 'silicone 50', legTemp: '0 degC' })!
    const warm = value('dp-empty', { legFill: 'silicone 50', legTemp: '40 degC' })!
    expect(warm - cold).toBeGreaterThan(0)
    for (const { id } of LEG_FLUIDS) expect(legFluidDensity(id, 60)).toBeLessThan(legFluidDensity(id, 20))
    expect(attempt(() => legFluidDensity('water', 250))).toMatchObject({ code: 'out-of-range' })
    expect(attempt(() => legFluidDensity('beer', 20))).toMatchObject({ code: 'unknown-liquid' })
    expect(codes({ legFill: 'water', legTemp: '300 degC' })).toContain('out-of-range')
  })
  it('says what the calibrator must show at each point, in its own unit', () => {
    const all = [0, 25, 50, 75, 100].map((p) => value(`gauge-${p}`)!)
    const low = (1.03 * 500 - 1.05 * 3100) * mbar
    expect(all[0]).toBeCloseTo(low, 6)
    expect(all[4]! - all[0]!).toBeCloseTo(1.03 * 2600 * mbar, 6)
    expect(all[2]).toBeCloseTo((all[0]! + all[4]!) / 2, 9)
    expect(figure('gauge-50', { gaugeUnit: 'inH2O' })).toMatchObject({ unit: 'inH2O' })
    expect(value('gauge-50', { gaugeUnit: 'inH2O' })).toBeCloseTo(all[2]! / 2.49089, 3)
  })
  it('carries its level to volume and mass, counted from the vessel’s lowest point', () => {
    const { thread } = study({
      shownAs: 'mass',
      massDensity: '1030 kg/m3',
      shape: 'upright cylinder',
      diameter: '2 m',
      tankDepth: '3200 mm',
      tapAbove: '100 mm',
    })
    const last = spread(thread, 'level', 1000).at(-1)!
    expect(last).toMatchObject({ value: expect.closeTo(1030 * Math.PI * 1.3, 6) as number })
    expect(spread(thread, 'controller', last.known ? last.value : NaN)[0]).toMatchObject({
      value: expect.closeTo(1000, 6) as number,
    })
  })
  it.each([
    [{ sg: '0' }, 'not-positive'],
    [{ fullHeight: '100 mm' }, 'no-span'],
    [{ tankDepth: '2500 mm' }, 'full-above-overflow'],
    [{ legHeight: '3099 mm' }, 'leg-below-full'],
    [{ shape: 'sphere', diameter: '0 m' }, 'invalid-input'],
  ] as const)('with %j finds %s', (changed, code) => expect(codes(changed)).toContain(code))
})
