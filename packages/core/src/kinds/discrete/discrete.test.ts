import { study as studied } from '../../loop/index.ts'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeWiring } from '../../wiring/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { bothManners, countTerms, switchKindOf, waysOf, withChanges, type Lane } from '../index.ts'

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
