import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { study as studied } from '../../loop/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

const KIND = 'level-in-contact'
const study = (changed: Record<string, string> = {}) => studied(currentKindOf(KIND), demoEntries(KIND, changed))
const codes = (changed: Record<string, string>) => study(changed).findings.map((f) => f.code)
const of = (changed: Record<string, string>, code: string) => study(changed).findings.find((f) => f.code === code)
const figure = (id: string, changed: Record<string, string> = {}) =>
  study(changed).figures.find((f) => f.id === id)?.value

describe('a probe', () => {
  it('loses its dead zones at either end', () => {
    expect(figure('probe-span', { bottomDeadZone: '250 mm', emptyDistance: '2300 mm' })).toBe(1950)
  })
  it('whose 4 mA lies in the lower zone is stopped by place, with the level that would do', () => {
    // The span of 1900 mm is left by the probe (2050 mm): only the place of 4 mA is wrong.
    const wrong = { lrv: '-100 mm', urv: '1800 mm', receiverLow: '-100 mm', receiverHigh: '1800 mm' }
    expect(of(wrong, 'current-in-lower-zone')).toMatchObject({
      grade: 'stop',
      fields: ['bottomDeadZone', 'probeLength', 'lrv'],
      what: '4 mA lies 2400 mm from the face, 50 mm inside the lower dead zone: it begins at 2350 mm.',
      action: 'A level of −50 mm would do at 4 mA; or a probe longer by 50 mm.',
    })
    expect(codes({ ...wrong, lrv: '-50 mm', receiverLow: '-50 mm' })).not.toContain('current-in-lower-zone')
  })
  it('whose 20 mA lies in the upper zone is stopped, with the level or the rise of its column that would do', () => {
    const found = of({ urv: '2200 mm', receiverHigh: '2200 mm' }, 'current-in-upper-zone')
    expect(found).toMatchObject({ grade: 'stop', fields: ['topDeadZone', 'emptyDistance', 'urv'] })
    expect(found!.action).toContain('2100 mm would do at 20 mA; or the face raised by 100 mm')
    // On a column that stands 300 mm above the vessel, 100 % is the vessel's top.
    const raised = { faceAbove: '300 mm', tankDepth: '2100 mm', emptyDistance: '2300 mm', probeLength: '2400 mm' }
    expect(codes({ ...raised, cutOff: '600 mm', bottomDeadZone: '100 mm' })).toEqual([])
  })
  it('is judged by place whatever the range, one rule for both ends', () => {
    const at = fc.integer({ min: -600, max: 2600 })
    fc.assert(
      fc.property(at, at, (low, high) => {
        fc.pre(low !== high)
        const found = codes({ lrv: `${low} mm`, urv: `${high} mm` })
        const distances = [low, high].map((level) => 2300 - level)
        expect(found.includes('current-in-lower-zone')).toBe(distances.some((d) => d > 2500 - 150))
        expect(found.includes('current-in-upper-zone')).toBe(distances.some((d) => d < 200))
      }),
    )
  })
  it.each([
    [{ bottomDeadZone: '-6 in' }, 'length-negative'],
    [{ topDeadZone: '-1 mm' }, 'length-negative'],
    [{ probeLength: '0 mm' }, 'length-negative'],
    [{ topDeadZone: '1200 mm', bottomDeadZone: '1300 mm' }, 'probe-no-span'],
    [{ tankDepth: '2250 mm' }, 'probe-beyond-vessel'],
    [{ emptyDistance: '2600 mm' }, 'range-outside-tank'],
    [{ fullDistance: '100 mm' }, 'full-above-overflow'],
    [{ cutOff: '490 mm' }, 'probe-length-cut'],
    [{ weightLength: '300 mm' }, 'zone-inside-weight'],
    [{ bottomDeadZone: '20 mm' }, 'zone-unusually-short'],
    [{ liquid: 'own', dielectric: '1.6' }, 'probe-echo-weak'],
    [{ liquid: 'own', dielectric: '0.6' }, 'out-of-range'],
    [{ liquidTemp: '140 degC' }, 'out-of-range'],
    [{ head: 'off the process' }, 'head-off-process'],
    [{ diameter: '-1 m' }, 'invalid-input'],
    [{ faceAbove: '150 mm' }, 'vessel-top-unseen'],
    [{ nozzleWidth: '80 mm' }, 'nozzle-tall-and-narrow'],
  ] as const)('with %j finds %s', (changed, code) => expect(codes(changed)).toContain(code))

  it('whose head is off the process gives no figure for anything: its readings are void', () => {
    const { thread } = study({ head: 'off the process' })
    const known = spread(thread, 'process', 1000)
    expect(known[0]).toMatchObject({ known: true })
    expect(known[1]).toMatchObject({ known: false })
  })
  it('says what its display shows at either end, and where that is', () => {
    expect([figure('display-4'), figure('display-20')]).toEqual([0, 2000])
    expect(figure('display-4', { displays: 'distance' })).toBe(2300)
    expect(figure('display-20', { displays: 'percent' })).toBe(100)
    // 250 mm of the vessel lie below 0 %.
    expect(figure('display-4', { displays: 'volume' })).toBeCloseTo(Math.PI * 0.36 * 0.25, 9)
    expect(figure('empty-above')).toBe(250)
  })
  it('carries level to volume and mass on the thread, and back', () => {
    const { thread } = study({ shownAs: 'mass', massDensity: '960 kg/m3' })
    const down = spread(thread, 'process', 1000)
    const mass = down.at(-1)!
    expect(mass).toMatchObject({ known: true })
    const value = mass.known ? mass.value : NaN
    expect(value).toBeCloseTo(960 * Math.PI * 0.36 * 1.25, 6)
    expect(spread(thread, 'controller', value)[0]).toMatchObject({ value: expect.closeTo(1000, 6) as number })
  })
  it('has a sheet whose last store is proved by a power cycle and a read-back of every line', () => {
    const { sheets, setup } = study()
    const [sheet] = sheets!()
    expect(sheet!.steps.map((s) => s.id)).toEqual([
      ...['told', 'length', 'mounted', 'keyed', 'stored', 'cycled', 'read', 'shown', 'back'],
    ])
    expect(sheet!.steps.find((s) => s.id === 'read')!.readBack).toEqual(setup!().map((l) => l.key))
    expect(setup!().every((l) => l.text)).toBe(true)
    expect(study({ sensing: 'hydrostatic pressure' }).sheets!()).toEqual([])
  })
})
