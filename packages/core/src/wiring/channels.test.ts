// A device whose plate lists several channels, each for itself; and a controller whose sensor stands apart.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import {
  addDevice,
  connect,
  energise,
  judgeWiring,
  outputsOf,
  propose,
  PLAIN,
  readDeviceType,
  SENSOR_INTERFACES,
  setChannel,
  terminalsOf,
  typeOf,
  type Conditions,
  type Wiring,
} from './index.ts'
import { usual } from './wiring.fixture.ts'

const EMPTY: Wiring = { format: 'calm-loop/wiring-1', devices: [], cables: [], conductors: [] }
const wire = (w: Wiring, ...pairs: readonly (readonly [string, string])[]) =>
  pairs.reduce((now, [a, b]) => connect(now, a, b), w)
/** D1: the transmitter with four channels on mains, D2 mains, D3 an earth bar. */
const POWERED = wire(
  ['flow-channels', 'mains', 'earth-bar'].reduce((w, type) => addDevice(w, type), EMPTY),
  ['D1:L', 'D2:L'],
  ['D1:N', 'D2:N'],
  ['D1:PE', 'D2:PE'],
)
const stops = (w: Wiring, more: Partial<Conditions> = {}) =>
  judgeWiring(w, { ...usual, ...more }, 22).findings.flatMap((f) => (f.grade === 'stop' ? [f.code] : []))

describe('a device with several channels', () => {
  it('asks nothing of a channel that is not wired', () => {
    expect(outputsOf(POWERED)).toEqual([])
    expect(stops(POWERED)).toEqual([])
  })
  it('drives a passive card when its current is set active, and wants one that supplies when passive', () => {
    const card = (type: string, plus: string, minus: string) =>
      wire(addDevice(POWERED, type), ['D1:1+', `D4:${plus}`], ['D1:1−', `D4:${minus}`])
    const onPassive = card('card-passive', 'IN+', 'IN−')
    expect(stops(onPassive)).toEqual([])
    expect(stops(setChannel(onPassive, 'D1', '1', 'current, passive'))).toContain('no-loop-supply')
    const onFeeding = card('card-supplies', '24V', 'IN')
    expect(stops(setChannel(onFeeding, 'D1', '1', 'current, passive'))).toEqual([])
    expect(stops(onFeeding)).not.toEqual([])
  })
  it('says at its terminals what each is for, as it is set', () => {
    const does = (w: Wiring, ref: string) => terminalsOf(w).get(ref)!.does
    expect([does(POWERED, 'D1:1+'), does(POWERED, 'D1:2+'), does(POWERED, 'D1:3a')]).toEqual([
      'out+',
      'signal-out',
      'contact',
    ])
    expect(does(setChannel(POWERED, 'D1', '2', 'current, passive'), 'D1:2+')).toBe('loop+')
  })
  it('has its pulses counted by an input that feeds itself, plus on plus, and by no other', () => {
    const good = wire(addDevice(POWERED, 'counter'), ['D1:2+', 'D4:IN'], ['D1:2−', 'D4:0V'])
    expect(stops(good)).toEqual([])
    const input = (target: boolean) =>
      energise({ wiring: good, conditions: { ...usual, target } }).between('D4:P', 'D4:IN')
    expect(input(true)).toBeGreaterThan(20)
    expect(input(false)).toBeLessThan(1)
    const passive = wire(addDevice(POWERED, 'counter-passive'), ['D1:2+', 'D4:IN'], ['D1:2−', 'D4:0V'])
    expect(stops(passive)).toEqual(['pulse-not-seen'])
    const nowhere = wire(addDevice(POWERED, 'junction'), ['D1:2+', 'D4:1'])
    expect(stops(nowhere)).toEqual(['pulse-no-counter'])
  })
  it('has the feed that its template allows, and no other', () => {
    const text = readFileSync(join(import.meta.dirname, '../../../../demo/devices/flow-four-channels.json'), 'utf8')
    const own = readDeviceType(text)
    const fed = (supply: number) => {
      const w = wire(
        [own, 'mains', 'earth-bar', 'card-supplies'].reduce((now, type) => addDevice(now, type), EMPTY),
        ['D1:L', 'D2:L'],
        ['D1:N', 'D2:N'],
        ['D1:PE', 'D2:PE'],
        ['D1:1+', 'D4:24V'],
        ['D1:1−', 'D4:IN'],
      )
      return stops(setChannel(w, 'D1', '1', 'current, passive'), { figures: { ...usual.figures, supply } })
    }
    expect(fed(24)).toEqual([])
    expect(fed(36)).toEqual(['feed-too-high'])
  })
  it('judges two channels at once, each for itself', () => {
    const both = wire(
      addDevice(addDevice(POWERED, 'card-passive'), 'counter-passive'),
      ['D1:1+', 'D4:IN+'],
      ['D1:1−', 'D4:IN−'],
      ['D1:2+', 'D5:IN'],
      ['D1:2−', 'D5:0V'],
    )
    expect(stops(both)).toEqual(['pulse-not-seen'])
  })
  it('cannot be set to what its plate does not list', () => {
    const odd = setChannel(POWERED, 'D1', '3', 'current, active')
    expect(typeOf(odd.devices[0]!)!.terminals.find((t) => t.id === '3a')!.does).toBe('contact')
  })
  it('is refused in words where a channel names a terminal that is not there', () => {
    const text = JSON.stringify({
      ...{ id: 'x', name: 'X', place: 'field', role: 'transmitter', inside: [] },
      terminals: [{ id: '1+', does: 'through' }],
      channels: [{ id: '1', plus: '1+', minus: '1-', can: ['off'] }],
    })
    expect(() => readDeviceType(text)).toThrow(/no terminal “1-”/)
  })
})

describe('a controller whose sensor stands apart', () => {
  it.each(SENSOR_INTERFACES)('wired %s is right when it is set so, and stopped when it is set otherwise', (sensor) => {
    for (const power of ['dc', 'mains'] as const) {
      const wiring = propose({ ...PLAIN, output: 'four-wire active', receiver: 'passive card', power, sensor })
      expect(stops(wiring, { sensorInterface: sensor })).toEqual([])
      for (const other of SENSOR_INTERFACES.filter((i) => i !== sensor))
        expect(stops(wiring, { sensorInterface: other })).toEqual(['interface-mismatch'])
    }
  })
  it('has its data pair judged like any bus', () => {
    const wiring = propose({ ...PLAIN, output: 'four-wire active', sensor: 'RS-485 and supply pair' })
    const swapped = {
      ...wiring,
      conductors: wiring.conductors.map((c) =>
        c.to === 'SI:D+' ? { ...c, to: 'SI:D−' } : c.to === 'SI:D−' ? { ...c, to: 'SI:D+' } : c,
      ),
    }
    expect(stops(swapped)).toContain('bus-swapped')
  })
})
