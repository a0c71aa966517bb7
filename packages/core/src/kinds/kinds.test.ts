import { stopBefore } from '../findings/index.ts'
import { study as studied } from '../loop/index.ts'
import fc from 'fast-check'
import { readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { demoEntries } from './demo-entries.fixture.ts'
import { spread } from '../thread/index.ts'
import { currentKindOf, falseEntries, isWanted, kindOf, KINDS, namedFor, type Entries } from './index.ts'

const study = (kind: string, changed: Record<string, string> = {}) =>
  studied(currentKindOf(kind), demoEntries(kind, changed))
const codes = (kind: string, changed: Record<string, string>) => study(kind, changed).findings.map((f) => f.code)

describe.each(KINDS.map((k) => k.id))('kind %s', (id) => {
  const kind = kindOf(id)
  it('has a drawing of its own in the web application', () => {
    expect(readdirSync(new URL('../../../../apps/web/src/kinds/', import.meta.url))).toContain(id)
  })
  it('is complete and sound with complete entries', () => {
    const { missing, findings, figures } = studied(kind, demoEntries(id))
    expect(Object.values(missing).flat()).toEqual([])
    expect(findings.filter((f) => f.grade !== 'note')).toEqual([])
    expect(figures.every((f) => f.value !== undefined && Number.isFinite(f.value))).toBe(true)
  })
  it(
    'computes what it can of any half-entered loop, names what is missing, and never gives a figure that is ' + 'none',
    () => {
      const full = demoEntries(id)
      const nonsense = fc.constantFrom('', '0', '-5', '1e9', 'abc', '3 kg/h', '99999999999999999999')
      const half: fc.Arbitrary<Entries> = fc
        .array(fc.tuple(fc.constantFrom(...kind.fields.map((f) => f.key)), fc.option(nonsense)), {
          maxLength: kind.fields.length,
        })
        .map((picks) => ({
          ...Object.fromEntries(picks.filter(([, n]) => n === null).flatMap(([k]) => (full[k] ? [[k, full[k]]] : []))),
          ...Object.fromEntries(
            picks.filter(([, n]) => n !== null).map(([k, n]) => [k, demoEntries(id, { [k]: n! })[k]!]),
          ),
        }))
      fc.assert(
        fc.property(half, (entries) => {
          const known = studied(kind, entries)
          const { figures, missing } = known
          for (const f of figures) {
            if (f.value !== undefined) expect(Number.isFinite(f.value)).toBe(true)
            else expect((f.needs?.length ?? 0) > 0 || f.says).toBeTruthy()
            f.working?.()
          }
          // No entry may break the thread: every knot is known, or says why not.
          if ('thread' in known)
            for (const mA of [3, 12, 20])
              for (const v of spread(known.thread, 'current', mA)) expect(v.known || v.says).toBeTruthy()
          for (const s of 'thread' in known ? known.thread.stages : [])
            if (!s.ready) expect(s.needs.length).toBeGreaterThan(0)
          for (const f of kind.fields)
            if (f.required && isWanted(f, kind.fields, entries) && !entries[f.key]?.typed && !f.default)
              expect(missing[f.stage].length).toBeGreaterThan(0)
        }),
      )
    },
  )
  it('explains every field to the newcomer', () => {
    for (const f of kind.fields) expect(f.help.length).toBeGreaterThan(0)
    expect(new Set(kind.fields.map((f) => f.key)).size).toBe(kind.fields.length)
  })
})

describe('a level from above', () => {
  const level = 'level-from-above'
  it.each([
    [{ emptyDistance: '500 mm' }, 'full-beyond-empty'],
    [{ fullDistance: '200 mm' }, 'full-inside-blanking'],
    [{ urv: '3,35 m' }, 'current-inside-blanking'],
    [{ urv: '3250 mm' }, 'range-outside-tank'],
    [{ lrv: '-100 mm' }, 'range-outside-tank'],
    [{ lrv: '3000 mm' }, 'range-zero-span'],
    [{ receiverLow: '3 m' }, 'receiver-zero-span'],
    [{ tankDepth: '2500 mm' }, 'full-above-overflow'],
    [{ supply: '14 V' }, 'lift-off-not-met'],
    [{ reports: 'distance', lrv: '3600 mm', urv: '600 mm' }, 'display-against-current'],
    [{ lrv: '3000 mm', urv: '0 mm' }, 'reverse-acting'],
    [{ supply: '1000000000 V' }, 'figure-unusual'],
    [{ shunt: '250 kΩ' }, 'figure-unusual'],
    [{ cableLength: '200 km' }, 'figure-unusual'],
    [{ receiverHigh: '3.2 m' }, 'ends-disagree'],
    [{ receiverLow: '3 m', receiverHigh: '0 m' }, 'ends-reversed'],
    [{ reports: 'distance', lrv: '600 mm', urv: '3600 mm' }, 'reverse-acting'],
    [{ faultCurrent: '20 mA' }, 'fault-current-in-range'],
    [{ shunt: '0' }, 'not-positive'],
    [{ tankDepth: '-1 m' }, 'length-negative'],
    [{ tolerance: '0 %' }, 'tolerance-not-positive'],
    [{ compensation: 'fixed' }, 'fixed-temperature'],
    [{ wallDistance: '200 mm' }, 'beam-on-wall'],
    [{ inletDistance: '200 mm' }, 'beam-in-inlet'],
    [{ beamAngle: '0 deg' }, 'beam-angle-impossible'],
    [{ nozzleHeight: '400 mm', nozzleWidth: '40 mm' }, 'beam-on-nozzle'],
    [{ nozzleHeight: '400 mm' }, 'nozzle-beyond-blanking'],
    [{ vapour: 'water', airTemp: '60 degC' }, 'vapour-in-path'],
    [{ fillRate: '20 mm/s', damping: '5 s' }, 'damping-lags-filling'],
    [{ echoLost: 'empty' }, 'echo-lost-empty'],
  ] as const)('with %j finds %s', (changed, code) => expect(codes(level, changed)).toContain(code))

  it('says of ends that run opposite ways what each of them means at 4 and at 20 mA', () => {
    const [found] = study(level, { receiverLow: '3 m', receiverHigh: '0 m' }).findings.filter(
      (f) => f.code === 'ends-reversed',
    )
    expect(found!.why).toContain('At 4 mA the transmitter means 0 mm and the operator reads 3000 mm')
    expect(codes(level, {})).not.toContain('ends-reversed')
  })
  it('reports a distance with the current rising, from the same geometry', () => {
    const { thread, figures } = study(level, { reports: 'distance', lrv: '3600 mm', urv: '600 mm' })
    expect(figures.find((f) => f.id === 'level-20')?.value).toBe(3000)
    expect(thread.knots[2]!.name).toBe('Reported distance')
  })
  it('gives the volume beside the level when the shape is known', () => {
    const figure = study(level, { shape: 'upright cylinder', diameter: '2 m' }).figures.find(
      (f) => f.id === 'volume-full',
    )
    expect(figure?.value).toBeCloseTo(Math.PI * 3, 9)
  })
  it('asks for the sizes of a shape only when it is chosen', () => {
    expect(study(level, { shape: 'box' }).missing.point).toEqual(['inside length', 'inside width'])
  })
  it('shows working with its numbers and source', () => {
    const working = study(level).figures.find((f) => f.id === 'volts-20')!.working!()
    expect(working.numbers).toMatch(/24\.00 V − 20 mA × 25\d\.\d Ω = 18\.\d\d V/)
    expect(working.source).not.toBe('')
  })
})

describe('switch points of a measured value', () => {
  const pump = (changed: Record<string, string> = {}) => ({
    trips: '1',
    trip1Drives: 'pump',
    trip1Kind: 'far',
    trip1Set: '1000 mm',
    trip1Band: '500 mm',
    trip1Contact: 'NO',
    trip1PowerLost: 'stands',
    trip1SensorLost: 'runs',
    ...changed,
  })
  it('are declared safe by a stated interlock, and never keep an as-found check from being begun', () => {
    const wrong = pump({ trip1PowerLost: 'runs', trip1SensorLost: 'either' })
    const found = (changed: Record<string, string>) => study('level-from-above', changed).findings
    expect(stopBefore('as-left', found(wrong))?.code).toBe('power-lost-1')
    expect(stopBefore('as-found', found(wrong))).toBeUndefined()
    const declared = found({ ...wrong, trip1Interlock: 'limit switches in the motor circuit' })
    expect(stopBefore('as-left', declared)).toBeUndefined()
    expect(declared.find((f) => f.code === 'power-lost-1')).toMatchObject({
      grade: 'note',
      what: expect.stringContaining('limit switches in the motor circuit'),
    })
  })
  it('follow the controller’s own setting where the echo is lost', () => {
    const codes = (changed: Record<string, string>) =>
      study('level-from-above', pump(changed)).findings.flatMap((f) => (f.code.startsWith('echo') ? [f.action] : []))
    expect(codes({ trip1EchoLost: 'stands', trip1OnEcho: 'dropped' })).toEqual([])
    expect(codes({ trip1EchoLost: 'stands', trip1OnEcho: 'energised' })).toEqual([
      'Set it the other way in the controller.',
    ])
  })
  it.each([
    [{}, []],
    [{ trip1PowerLost: 'runs' }, ['power-lost-1']],
    [{ trip1SensorLost: 'stands' }, ['sensor-lost-1']],
    [{ trip1SensorLost: 'stands', faultAction: 'low', faultCurrent: '3.5 mA' }, []],
    [{ trip1Band: '-5 mm' }, ['band-negative-1']],
    [{ trip1Band: '2 mm' }, ['band-small-1']],
    [{ trip1Set: '2.7 m' }, ['trip-outside-range-1']],
    // Turned round, the same pump runs without power.
    [{ trip1Kind: 'near', trip1Contact: 'NC', trip1PowerLost: 'runs' }, []],
  ] as const)('with %j finds %j', (changed, found) => {
    const all = study('level-from-above', pump(changed)).findings.filter((f) =>
      f.fields.some((k) => k.startsWith('trip')),
    )
    expect(all.map((f) => f.code)).toEqual(found)
  })
  it('take a band in another unit as a difference', () => {
    const warm = study('rtd-head', pump({ trip1Set: '100 degC', trip1Band: '9 degF' }))
    expect(warm.findings.filter((f) => f.code.startsWith('band'))).toEqual([])
    const cold = study('rtd-head', pump({ trip1Set: '100 degC', trip1Band: '0.9 degF' }))
    expect(cold.findings.find((f) => f.code === 'band-small-1')?.what).toContain('0.5 °C')
  })
  it('ask only for the relays that are in use', () => {
    expect(study('pressure', { trips: '2' }).missing['switch-point'].length).toBe(14)
    expect(study('pressure').missing['switch-point']).toEqual([])
  })
})

describe('a resistance thermometer', () => {
  it.each([
    [{ urv: '900 degC' }, 'outside-platinum'],
    [{ highest: '200 degC' }, 'range-inside-process'],
    [{ lowest: '150 degC' }, 'process-range-reversed'],
    [{ leads: '2', leadOhm: '1.5 Ohm' }, 'two-wire-leads'],
  ] as const)('with %j finds %s', (changed, code) => expect(codes('rtd-head', changed)).toContain(code))
  it('reads hotter through two long leads', () => {
    const { thread } = study('rtd-head', { leads: '2', leadOhm: '2 Ohm' })
    const forward = thread.stages.slice(0, 2).reduce((v, s) => (s.ready ? s.forward(v) : Number.NaN), 100)
    expect(forward - 100).toBeCloseTo(5.3, 1)
  })
})

it('takes a choice for one of its own only, not for what its label says', () => {
  for (const { id, fields } of KINDS) {
    expect([id, falseEntries(fields, demoEntries(id))]).toEqual([id, []])
    for (const f of fields) {
      if (f.type !== 'choice') continue
      for (const { value } of f.options) expect(falseEntries(fields, { [f.key]: { typed: value } })).toEqual([])
      expect(falseEntries(fields, { [f.key]: { typed: '' } })).toEqual([])
      for (const typed of ['nothing of the kind', ...f.options.flatMap((o) => (o.label === o.value ? [] : [o.label]))])
        if (!f.options.some((o) => o.value === typed))
          expect([f.key, falseEntries(fields, { [f.key]: { typed } })]).toEqual([f.key, [f.key]])
      // What stands on record from before is left as it is.
      expect(falseEntries(fields, { [f.key]: { typed: 'of an earlier release' } }, 'ever')).toEqual([])
    }
  }
})
it('does not take an entry for more than its text says', () => {
  const { fields } = currentKindOf('rtd-head')
  expect(falseEntries(fields, demoEntries('rtd-head'))).toEqual([])
  expect(
    falseEntries(fields, {
      lrv: { typed: '0 degC', value: 5, unit: 'degC' },
      zork: { typed: 'x' },
      device: { typed: 'x', value: 1, unit: 'm' },
    }),
  ).toEqual(['lrv', 'zork', 'device'])
})

describe('a value on a bus', () => {
  const current = KINDS.filter((k) => k.family === 'current').map((k) => k.id)
  it.each(current)('of kind %s is spoken of without a current', (id) => {
    const bus = { output: 'digital bus', shunt: '', faultAction: '', faultCurrent: '', countsLow: '', countsHigh: '' }
    const s = study(id, bus)
    const words = JSON.stringify([
      s.findings,
      s.figures.map((f) => [f.label, f.needs, f.says, f.working?.()]),
      s.thread.stages.map((stage) => [stage.title, stage.causes]),
      s.setup?.() ?? [],
      Object.values(s.missing),
      ['lrv', 'urv'].map((key) => s.reader.label(key)),
      s.kind.fields
        .filter((f) => f.stage === 'range' && isWanted(f, s.kind.fields, s.entries))
        .map((f) => namedFor(f, s.kind.fields, s.entries))
        .map((f) => [f.label, f.help]),
    ])
    expect(words.match(/.{60}\bmA\b.{30}/g) ?? []).toEqual([])
  })
})
