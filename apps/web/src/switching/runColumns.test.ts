import { switchKindOf, type Lane } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { pathOf, runColumns, saidOf, type RunFacts } from './runColumns.ts'

const facts = (changed: Partial<RunFacts> = {}): RunFacts => ({
  supplyV: 24,
  intoLoad: false,
  text: () => '',
  volts: (v) => `${v.toFixed(1)} V`,
  target: undefined,
  ...changed,
})
const lane = (changed: Partial<Lane> = {}): Lane =>
  ({
    target: true,
    conducting: true,
    signalV: 22.4,
    inputV: 22.4,
    current_mA: 7,
    sensorLamp: true,
    pickedUp: undefined,
    inputLamp: true,
    controller: true,
    ...changed,
  }) as Lane
const column = (id: string, of = facts()) => runColumns(of).find((c) => c.id === id)!

describe('the columns of a run', () => {
  it('go from the target to the controller, and end at a load of its own', () => {
    const ids = (of: RunFacts) => runColumns(of).map((c) => c.id)
    expect(ids(facts())).toEqual(['target', 'sensorLamp', 'signal', 'input-volts', 'inputLamp', 'controller'])
    expect(ids(facts({ intoLoad: true }))).toEqual(['target', 'sensorLamp', 'signal', 'input-volts', 'inputLamp'])
    expect(column('inputLamp', facts({ intoLoad: true })).name).toBe('Load')
    expect(column('input-volts').name).toBe('Across the input')
  })
  it.each([
    ['target', { target: false }, 'away', 0],
    ['sensorLamp', { conducting: false }, 'open', 0],
    ['inputLamp', { inputLamp: false }, 'off', 0],
    ['inputLamp', { inputLamp: undefined }, 'not sure', 0.5],
    ['controller', { controller: undefined }, 'either', 0.5],
    ['controller', { controller: false }, 'false', 0],
    ['controller', {}, 'true', 1],
    ['signal', { signalV: 12 }, '12.0 V', 0.5],
  ] as const)('%s of %j says %s', (id, changed, words, at) => {
    expect(column(id).words(lane(changed))).toBe(words)
    expect(column(id).at(lane(changed))).toBe(at)
  })
  it('say the words of the program where they are entered', () => {
    const texts: Record<string, string> = { pointName: 'SLUICE_SHUT', meansTrue: 'shut', meansFalse: 'open' }
    const of = facts({ text: (key) => texts[key] ?? '' })
    expect(column('controller', of).name).toBe('SLUICE_\u200bSHUT')
    expect(column('controller', of).words(lane())).toBe('shut')
    expect(column('controller', of).words(lane({ controller: false }))).toBe('open')
  })
  it('keep a voltage beyond the supply in the drawing', () => {
    expect(column('signal').at(lane({ signalV: 48 }))).toBe(1.08)
    expect(column('signal').at(lane({ signalV: -9 }))).toBe(-0.08)
    expect(column('signal').read({ signal: 48 })).toBe(1.08)
  })
  it('show as read only what was read, and a lamp only where it tells of the output stage', () => {
    for (const id of ['target', 'sensorLamp', 'signal', 'input-volts', 'inputLamp', 'controller'])
      expect(column(id).read({})).toBe(undefined)
    expect(column('sensorLamp').read({ sensorLamp: 1 })).toBe(1)
    const targetLamp = facts({ text: (key) => (key === 'lamp' ? 'shows the target' : '') })
    expect(column('sensorLamp', targetLamp).read({ sensorLamp: 1 })).toBe(undefined)
    expect(column('target', facts({ target: false })).read({})).toBe(0)
  })
})

describe.each([
  ['a PNP sensor on its input', {}],
  ['an NPN sensor', { output: 'NPN', common: 'positive' }],
  ['a normally closed contact', { contact: 'NC' }],
  ['a lamp that shows the target', { lamp: 'shows the target' }],
])('the run of %s', (_, changed) => {
  const { run } = study(switchKindOf('discrete-sensor'), demoEntries('discrete-sensor', changed))
  it('can be drawn and read aloud, both ways', () => {
    const { lanes, entered } = run
    if (!lanes || !entered) throw new Error(`no lanes: ${run.needs.join(', ')}`)
    const columns = runColumns(facts({ supplyV: entered.circuit.supplyV, intoLoad: entered.load_mA !== undefined }))
    for (const l of [lanes.present, lanes.absent])
      for (const c of columns) {
        expect(c.at(l)).toBeGreaterThanOrEqual(-0.08)
        expect(c.at(l)).toBeLessThanOrEqual(1.08)
        expect(c.words(l)).not.toMatch(/undefined|NaN/)
      }
    expect(saidOf(columns, [lanes.present, lanes.absent])).toMatch(/^With target there: .+\. With target away: .+\.$/)
    expect(lanes.present.conducting).not.toBe(lanes.absent.conducting)
  })
})

it('a path begins once and goes on', () => {
  expect(pathOf([])).toBe('')
  expect(
    pathOf([
      { x: 1, y: 2.04 },
      { x: 3.06, y: 4 },
    ]),
  ).toBe('M1.0 2.0L3.1 4.0')
})
