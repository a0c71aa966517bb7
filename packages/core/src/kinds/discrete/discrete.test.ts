import { study as studied } from '../../loop/index.ts'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeWiring } from '../../wiring/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { bothManners, countTerms, teachingsOf, switchKindOf, waysOf, withChanges, type Lane } from '../index.ts'

const kind = switchKindOf('discrete-sensor')
const study = (changed: Record<string, string> = {}) => studied(kind, demoEntries(kind.id, changed))
const codes = (changed: Record<string, string>) => study(changed).findings.map((f) => f.code)
const MISMATCH = { output: 'NPN', residual: '1.2 V' }

/** The same, but from the circuit of the wiring as it is drawn. */
const drawn = (changed: Record<string, string>) => {
  const entries = demoEntries(kind.id, changed)
  return studied(kind, { ...entries, wiring: { typed: writeWiring(studied(kind, entries).desk.wiring) } })
}
const close = (a: Lane, b: Lane) => {
  for (const key of ['signalV', 'inputV', 'input_mA', 'sensor_mA'] as const) expect(a[key], key).toBeCloseTo(b[key], 0)
  for (const key of ['conducting', 'state', 'controller', 'pickedUp'] as const) expect(a[key], key).toBe(b[key])
}

describe('a discrete point', () => {
  it('says by formula what the circuit of its proposed wiring says, for every stage, contact, common and way', () => {
    let ways = 0
    for (const output of ['PNP', 'NPN', 'push-pull', 'two-wire', 'dry contact'])
      for (const contact of ['NO', 'NC'])
        for (const common of ['negative', 'positive'])
          for (const between of ['nothing', 'bias resistor', 'bleeder', 'relay, NO contact', 'relay, NC contact'])
            for (const connector of ['leads', 'm12-4', 'leads-older']) {
              const extraTo = (between === 'bias resistor') === (common === 'negative') ? 'positive' : 'negative'
              const changed = { output, contact, common, between, connector, extraOhm: '2200 Ohm', extraTo }
              const [formula, circuit] = [study(changed).run, drawn(changed).run]
              expect(circuit.verdict, JSON.stringify(changed)).toBe(formula.verdict)
              close(circuit.lanes!.present, formula.lanes!.present)
              close(circuit.lanes!.absent, formula.lanes!.absent)
              ways++
            }
    expect(ways).toBe(300)
  })
  it('is made to work by every way that “Make it work” proposes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('PNP', 'NPN', 'two-wire'),
        fc.constantFrom('NO', 'NC'),
        fc.constantFrom('negative', 'positive'),
        fc.constantFrom('type-1', 'type-2', 'type-3'),
        fc.constantFrom('0.1 mA', '1.7 mA'),
        (output, contact, common, inputType, leakage) => {
          const changed = { output, contact, common, inputType, leakage }
          const entries = demoEntries(kind.id, changed)
          for (const way of waysOf(entries)!.possible) {
            const after = withChanges(entries, way.changes)
            const wiring = { typed: writeWiring(studied(kind, after).desk.wiring) }
            for (const study of [studied(kind, after), studied(kind, { ...after, wiring })]) {
              expect(study.run.verdict).toBe(way.after.inverted ? 'works-inverted' : 'works')
              expect(study.findings.filter((f) => f.grade === 'stop')).toEqual([])
            }
          }
        },
      ),
      { numRuns: 120 },
    )
  })
  it.each([
    [{ supplyLeast: '30 V', supplyMost: '10 V' }, 'supply-range-reversed'],
    [{ inputType: 'own', inputOhm: '3300', onMin: '5 V', offMax: '15 V' }, 'thresholds-reversed'],
    [{ supply: '48 V' }, 'supply-outside'],
    [{ leakage: '-1 mA' }, 'not-positive'],
    [{ ...MISMATCH }, 'switch-cannot-work'],
    [{ ...MISMATCH, between: 'bias resistor', extraOhm: '1500', extraTo: 'positive' }, 'switch-inverted'],
    [
      { output: 'two-wire', contact: 'NC', residual: '5 V', leakage: '1.7 mA', inputType: 'type-1' },
      'switch-undefined',
    ],
    [{ drives: 'load', loadCurrent: '300 mA' }, 'switch-overloaded'],
    [{ ...MISMATCH, between: 'relay, NO contact', coilVolts: '12 V' }, 'coil-voltage'],
    [{ ...MISMATCH, between: 'relay, NO contact', diode: 'none' }, 'coil-without-diode'],
    [{ metal: 'aluminium' }, 'beyond-assured'],
    [{ targetSide: '10 mm' }, 'target-small'],
    [{ mountedAt: '-1 mm' }, 'mounted-inside'],
    [{ shifts: 'early bird' }, 'shifts-unreadable'],
    [{ longCycle: '10 s' }, 'long-not-longer'],
  ] as const)('with %j finds %s', (changed, code) => expect(codes(changed as never)).toContain(code))
  it('offers a contactor for what a relay cannot carry, and says when its coil is too much for the sensor', () => {
    const beacon = (changed: Record<string, string>) =>
      waysOf(demoEntries(kind.id, { drives: 'load', loadCurrent: '9 A', ...changed }))!
    expect(beacon({}).possible[0]).toMatchObject({ title: 'Contactor, NO contact', changes: { coilCurrent: '125 mA' } })
    expect(beacon({ maxOut: '100 mA' }).ruledOut).toEqual([
      { title: 'Contactor', why: expect.stringMatching(/125 mA, more than the 100 mA/) },
    ])
    expect(beacon({ loadCurrent: '20 A' }).possible).toEqual([])
  })
  it('finds in a wiring drawn wrong what the controller would never see', () => {
    const entries = demoEntries(kind.id)
    const { wiring } = studied(kind, entries).desk
    const cut = { ...wiring, conductors: wiring.conductors.filter((c) => c.to !== 'DI:I0') }
    const found = studied(kind, { ...entries, wiring: { typed: writeWiring(cut) } })
    expect(found.run.verdict).toBe('cannot-work')
    expect(found.findings[0]).toMatchObject({ code: 'switch-cannot-work', grade: 'stop' })
    const dead = { ...wiring, conductors: wiring.conductors.filter((c) => c.to !== 'PS:−' || c.from === 'DI:COM') }
    expect(studied(kind, { ...entries, wiring: { typed: writeWiring(dead) } }).findings.map((f) => f.code)).toContain(
      'no-device-power',
    )
  })
  it('takes a dry contact either way round, and an electronic two-wire sensor only one', () => {
    const turned = (changed: Record<string, string>) => {
      const entries = demoEntries(kind.id, changed)
      const { wiring } = studied(kind, entries).desk
      const other = (ref: string) => ({ 'SE:BN': 'SE:BU', 'SE:BU': 'SE:BN' })[ref] ?? ref
      const conductors = wiring.conductors.map((c) => ({ ...c, from: other(c.from), to: other(c.to) }))
      return studied(kind, { ...entries, wiring: { typed: writeWiring({ ...wiring, conductors }) } }).run.verdict
    }
    expect(turned({ output: 'dry contact' })).toBe('works')
    expect(turned({ output: 'two-wire' })).not.toBe('works')
  })
  it('finds a suppression diode the wrong way round before it shorts the output', () => {
    const entries = demoEntries(kind.id, { between: 'relay, NO contact' })
    const { wiring } = studied(kind, entries).desk
    const other = (ref: string) => ({ 'K1:A1': 'K1:A2', 'K1:A2': 'K1:A1' })[ref] ?? ref
    const turned = {
      ...wiring,
      conductors: wiring.conductors.map((c) => ({ ...c, from: other(c.from), to: other(c.to) })),
    }
    expect(studied(kind, { ...entries, wiring: { typed: writeWiring(turned) } }).findings.map((f) => f.code)).toContain(
      'supply-shorted',
    )
  })
  it('speaks of sinking and sourcing from both sides', () => {
    expect(bothManners('PNP', 'negative', false)).toMatchObject({
      sensor: expect.stringContaining('sensor sources'),
      card: expect.stringContaining('card sinks'),
    })
    expect(bothManners('two-wire', 'positive', true).sensor).toContain('sinks')
  })
  it('is judged by its lanes, and turned round by the program', () => {
    expect(study().run.plan).toMatchObject({
      present: { controller: true, sensorLamp: true },
      distance: { expected_mm: 8, tolerancePct: 10 },
    })
    expect(study({ logic: 'inverts the input' }).run.plan).toMatchObject({ present: { controller: false } })
    expect(study({ sensing: 'lever or contact' }).run.plan).not.toHaveProperty('distance')
  })
  it('counts by whole days while its shifts are not entered', () =>
    expect(countTerms(demoEntries(kind.id, { shifts: '', days: '' }))).toMatchObject({
      patterns: [{ from_min: 0, to_min: 1440 }],
      needs: ['shifts', 'days worked'],
    }))
})

describe('what a discrete point is asked before it is wired', () => {
  const stops = (changed: Record<string, string>) =>
    study(changed).findings.flatMap((f) => (f.grade === 'stop' ? [f.code] : []))
  const LOAD = { drives: 'load', loadCurrent: '60 mA', maxOut: '200 mA' }
  it('whether a two-wire sensor gets the current it lives on', () => {
    const two = { output: 'two-wire', residual: '4 V', leakage: '0.8 mA', inputType: 'type-3' }
    expect(stops({ ...two, leastCurrent: '3 mA' })).not.toContain('two-wire-starved')
    expect(stops({ ...two, leastCurrent: '5 mA' })).toContain('two-wire-starved')
    expect(stops({ ...two, inputType: 'type-2', leastCurrent: '5 mA' })).not.toContain('two-wire-starved')
  })
  it('what a load takes in its first moment', () => {
    expect(stops(LOAD)).toEqual([])
    expect(stops({ ...LOAD, loadKind: 'filament lamp' })).toContain('inrush-high')
    expect(stops({ ...LOAD, loadKind: 'filament lamp', shortTime: '1000 mA' })).toEqual([])
    expect(stops({ ...LOAD, inrush: '3000 mA', shortTime: '1000 mA' })).toContain('inrush-high')
    expect(codes({ ...LOAD, loadKind: 'electronics with capacitors' })).toContain('inrush-unknown')
  })
  it('a load in watts, as its label has it', () => {
    const lanes = (changed: Record<string, string>) => study({ ...LOAD, ...changed }).run.lanes!
    const watts = lanes({ loadGiven: 'watts', loadCurrent: '', loadPower: '1.44 W', supply: '24 V' })
    expect(watts.present.sensor_mA).toBeCloseTo(lanes({ supply: '24 V' }).present.sensor_mA, 6)
  })
  it('the load on the other pole, where that makes it work', () => {
    const wrong = demoEntries(kind.id, { ...LOAD, ...MISMATCH, common: 'negative' })
    const way = waysOf(wrong)!.possible.find((w) => w.title === 'Load on the other pole')!
    expect(studied(kind, withChanges(wrong, way.changes)).run.verdict).toBe('works')
  })
  it('an input by the current of its data sheet', () => {
    const own = { inputType: 'own', onMin: '11 V', offMax: '5 V' }
    const given = study({ ...own, inputGiven: 'a current', inputmA: '8 mA', inputAtV: '24 V' })
    expect(given.missing.wire).toEqual([])
    expect(given.run.lanes).toEqual(study({ ...own, inputOhm: '3000 Ohm' }).run.lanes)
  })
  it('a 12 V input, which a 24 V supply is never offered', () => {
    const twelve = { supply: '12 V', supplyLeast: '10 V', supplyMost: '30 V', inputType: '12v' }
    expect(study(twelve).run.verdict).toBe('works')
    const titles = (changed: Record<string, string>) =>
      waysOf(demoEntries(kind.id, changed))!.possible.map((w) => w.title)
    expect(titles({ output: 'two-wire', leakage: '1.7 mA', inputType: 'type-1' }).join()).not.toContain('12v')
  })
  it.each(['magnet on a piston', 'light beam'])('no rated distance of a %s', (sensing) => {
    const s = study({ sensing, rated: '', metal: '', face: '', targetSide: '', mountedAt: '' })
    expect(s.missing['switch-point']).toEqual([])
    expect(s.run.distance).toBeUndefined()
  })
  it.each([
    ['Gate_1', []],
    ['Gate 1', ['a space']],
    ['1_Gate', ['does not begin with a letter']],
    ['Gate_closed_at_the_far_end', ['26 characters, and 16 are allowed']],
  ])('the point’s name %s by the controller’s rule', (pointName, says) => {
    const rule = { nameSigns: 'letters, figures, _', nameMost: '16' }
    const found = study({ pointName, ...rule }).findings.find((f) => f.code === 'point-name')
    expect(found === undefined).toBe(says.length === 0)
    for (const words of says) expect(found!.what).toContain(words)
    expect(codes({ pointName })).not.toContain('point-name')
  })
})

describe('both teachings about “on by nature”', () => {
  const teach = (changed: Record<string, string>) => teachingsOf(study(changed).run, changed['output']!, 24)!
  it('speak of one current: an NPN’s wire is high while its output is off', () => {
    const [away, there] = teach({ output: 'NPN', common: 'positive' })
    expect(away).toMatchObject({ target: false, conducting: false, inputOn: false })
    expect(away!.atTheWire).toMatch(/so it is on by nature/)
    expect(away!.atTheStage).toMatch(/does not conduct with nothing in front, so it is inactive/)
    expect(there).toMatchObject({ target: true, conducting: true, inputOn: true })
    expect(there!.atTheWire).toMatch(/so it is off\./)
  })
  it('agree for a PNP, and are none for other outputs', () => {
    const [away, there] = teach({ output: 'PNP', common: 'negative' })
    expect([away!.atTheWire, there!.atTheWire]).toEqual([
      expect.stringMatching(/is off\./),
      expect.stringMatching(/is on\./),
    ])
    expect(teachingsOf(study({ output: 'push-pull' }).run, 'push-pull', 24)).toBeUndefined()
  })
})
