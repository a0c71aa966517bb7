// A loop in its own units: the same loop, spoken of otherwise.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { heldAgrees } from '../flow/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf, isWanted, KINDS, namedFor, spokenKey } from '../kinds/index.ts'
import { convertUnit, SPOKEN_CLASSES, speaking, unitOf, US_CUSTOMARY, type SpokenClass } from '../quantity/index.ts'
import { spread } from '../thread/index.ts'
import { machineOf, study } from './index.ts'

const currents = KINDS.filter((k) => k.family === 'current').map((k) => k.id)
const US = { units: 'US customary' }
const metric = (id: string) => study(currentKindOf(id), demoEntries(id))
const spoken = (id: string, changed: Record<string, string> = US) => study(currentKindOf(id), demoEntries(id, changed))

/** Units of the metric system that no page of such a loop may show. */
const METRIC = /\d (mm|cm|m|km|bar|mbar|kPa|MPa|Pa|°C|m³\/h|l\/s|l\/min|m³|l|kg\/h|t\/h|kg\/m³|m\/s|mmH₂O)(?![\w/²³])/

describe.each(currents)('a loop of kind %s in US customary units', (id) => {
  it('has the same figures, each in a unit of its own that tells as much', () => {
    const [a, b] = [metric(id), spoken(id)]
    expect(b.figures.map((f) => f.id)).toEqual(a.figures.map((f) => f.id))
    a.figures.forEach((f, i) => {
      const g = b.figures[i]!
      expect(unitOf(g.unit).quantity, f.id).toBe(unitOf(f.unit).quantity)
      if (f.value === undefined) return
      const back = convertUnit(g.value!, g.unit, f.unit)
      expect(Math.abs(back - f.value), f.id).toBeLessThan(1e-9 * Math.max(1, Math.abs(f.value)))
      // A step of the last digit shown is no coarser than it was.
      const size = (unit: string, decimals = 3) => 10 ** -decimals * unitOf(unit).scale
      expect(size(g.unit, g.decimals), f.id).toBeLessThanOrEqual(size(f.unit, f.decimals) * 1.2)
    })
  })
  it('has the same thread: what one knot means, all others mean', () => {
    const [a, b] = [metric(id), spoken(id)]
    const { low, high } = a.scales[0]!
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(a.thread.knots.length - 1), (share, from) => {
        const plain = spread(a.thread, a.thread.knots[0]!.id, low! + share * (high! - low!))
        const start = plain[from]!
        if (!start.known) return
        const [was, is] = [a.thread.knots[from]!, b.thread.knots[from]!]
        const there = b.expect(is.id, convertUnit(start.value, was.unit, is.unit))
        const here = a.expect(was.id, start.value)
        here.forEach((v, i) => {
          const w = there[i]!
          expect(w.known).toBe(v.known)
          if (!v.known || !w.known) return
          const back = convertUnit(w.value, b.thread.knots[i]!.unit, a.thread.knots[i]!.unit)
          expect(Math.abs(back - v.value)).toBeLessThan(1e-6 * Math.max(1, Math.abs(v.value)))
        })
      }),
      { numRuns: 40 },
    )
  })
  it('is the same device at the bench, whose lines agree with the set-up sheet', () => {
    const s = spoken(id)
    const [a, b] = [metric(id), s].map((of) => machineOf(of, { name: id, seed: 'one' }))
    expect(b!.readings(b!.start).reference).toBeCloseTo(a!.readings(a!.start).reference, 6)
    const held = s.meter?.()?.keyed
    if (!held) return
    for (const line of s.setup?.() ?? [])
      expect(heldAgrees(line.text, held[line.key] ?? line.text), `${line.key}: ${line.text} ${held[line.key]}`).toBe(
        true,
      )
  })
})

describe('a clamp-on loop entered in inches, feet, psi, gpm and °F', () => {
  const ENTERED = {
    ...US,
    od: '6.625 in',
    wall: '0.28 in',
    liner: 'none',
    material: 'carbon-steel',
    faceOffset: '0 in',
    barPitch: '0.5 in',
    fluidTemp: '68 °F',
    fluidPressure: '45 psi',
    upstream: '12 ft',
    downstream: '6 ft',
    cableLength: '300 ft',
    cableTemp: '86 °F',
    conductor: 'AWG 18',
    lrv: '0 gpm',
    urv: '1200 gpm',
    receiverLow: '0 gpm',
    receiverHigh: '1200 gpm',
    cutoff: '5 gpm',
    setSpacing: '',
  }
  const words = (changed: Record<string, string> = {}) => {
    const s = spoken('clamp-on', { ...ENTERED, ...changed })
    return [
      ...s.findings.flatMap((f) => [f.what, f.why, f.action, f.sure]),
      ...s.figures.flatMap((f) => [f.label, f.says ?? '', ...(f.working ? Object.values(f.working()) : [])]),
      ...s.thread.knots.map((k) => `1 ${unitOf(k.unit).label}`),
      ...s.thread.stages.flatMap((stage) => (stage.ready && stage.working ? Object.values(stage.working(600)) : [])),
      ...(s.setup?.() ?? []).flatMap((l) => [l.label, l.text]),
      ...(s.sheets?.() ?? []).flatMap((sheet) => [
        sheet.title,
        ...sheet.steps.flatMap((step) => [step.title, step.says ?? '', step.ask?.plan?.against ?? '']),
      ]),
      ...s.kind.fields
        .filter((f) => isWanted(f, s.kind.fields, s.entries) && f.type === 'quantity')
        .map((f) => namedFor(f, s.kind.fields, s.entries).help),
    ].map(String)
  }
  it.each([
    ['as it should be', {}],
    ['with faults', { wall: '2 in', upstream: '1 ft', cutoff: '0 gpm', fluidTemp: '400 °F' }],
    ['a gas too thin', { medium: 'gas', gas: 'biomethane', fluidPressure: '40 psi', reference: '60 °F' }],
  ])('%s never speaks of another unit', (_, changed) => {
    expect(words(changed).filter((text) => METRIC.test(text))).toEqual([])
  })
})

describe('units chosen one by one', () => {
  it('count for their own quantity alone', () => {
    const s = spoken('clamp-on', { units: 'chosen one by one', [spokenKey('size')]: 'in' })
    expect(s.spoken).toMatchObject({ size: 'in', pressure: 'bar', temperature: 'degC' })
    expect(s.figures.find((f) => f.id === 'spacing')?.unit).toBe('in')
    expect(s.figures.find((f) => f.id === 'density')?.unit).toBe('kg/m3')
  })
  it('each class has only units of one quantity, and US customary one of each', () => {
    for (const [of, { units }] of Object.entries(SPOKEN_CLASSES)) {
      const quantities = new Set(units.map((u) => unitOf(u === 'ft-in' ? 'ft' : u).quantity))
      expect(quantities.size).toBe(1)
      expect(units as readonly string[]).toContain(US_CUSTOMARY[of as SpokenClass])
    }
  })
  it('what stood kept from before is worded anew', () => {
    const kind = currentKindOf('clamp-on')
    const before = study(kind, demoEntries('clamp-on', { wall: '60 mm' }))
    const after = study(kind, demoEntries('clamp-on', { wall: '60 mm', ...US }), before)
    expect(after.findings).toEqual(study(kind, demoEntries('clamp-on', { wall: '60 mm', ...US })).findings)
  })
  it('a reader names the units that it was made in, whenever it is asked', () => {
    expect(spoken('clamp-on', { ...US, urv: '' }).reader.unit('urv')).toBe('gpm')
    const plain = study(currentKindOf('clamp-on'), demoEntries('clamp-on', { urv: '' })).reader
    expect(speaking(US_CUSTOMARY, () => plain.unit('urv'))).toBe('m3/h')
  })
  it('leaves nothing behind when it ends in a fault', () => {
    expect(() =>
      speaking(US_CUSTOMARY, () => {
        throw new Error('x')
      }),
    ).toThrow('x')
    expect(metric('clamp-on').figures.find((f) => f.id === 'spacing')?.unit).toBe('mm')
  })
})
