// Device templates: what is edited comes back from its file, and what cannot be is refused in words.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { Refusal } from '../refusal/index.ts'
import {
  builtIn,
  DEVICE_TYPES,
  deviceSchema,
  draftOf,
  editedType,
  energise,
  readDeviceType,
  sensorType,
  writeDeviceType,
  type Draft,
  type Wiring,
} from './index.ts'
import { usual } from './wiring.fixture.ts'

const fuse = builtIn('fuse')
const card = builtIn('card-passive')
const edit = (type: typeof fuse, changed: Partial<Draft>) => editedType(type, { ...draftOf(type), ...changed })

describe('a device template', () => {
  it('left as it is makes the same device, for every device that comes with the product', () => {
    for (const type of DEVICE_TYPES) {
      const same = editedType(type, draftOf(type))
      expect({ ...same, inside: [] }).toEqual({ ...type, inside: [] })
      expect(readDeviceType(writeDeviceType(same))).toEqual(same)
    }
  })
  it('takes other names for its terminals into every part, channels too', () => {
    const flow = builtIn('flow-channels')
    const named = editedType(flow, {
      ...draftOf(flow),
      terminals: draftOf(flow).terminals.map((t) => ({ ...t, id: t.id === '2+' ? '24' : t.id })),
    })
    expect(named.channels!.find((c) => c.id === '2')!.plus).toBe('24')
  })
  it('takes them into an output stage too', () => {
    const own = sensorType({
      ...{ stage: 'NPN', contact: 'NO', terminals: { plus: 'BN', minus: 'BU', signal: 'BK' }, legend: 'iec-sensor' },
      ...{ least_V: 10, most_V: 30, load: false, common: 'positive' },
    })
    const draft = draftOf(own)
    const terminals = draft.terminals.map((t) => (t.id === 'BK' ? { ...t, id: '4' } : t))
    expect(editedType(own, { ...draft, terminals }).inside[0]).toMatchObject({ plus: 'BN', signal: '4' })
  })
  it('has the resistance that was entered in its circuit', () => {
    const own = edit(card, { ohms: { shunt: 100 } })
    const wiring: Wiring = {
      ...{ format: 'calm-loop/wiring-1', cables: [], conductors: [] },
      devices: [{ id: 'X', type: own.id, name: 'Own', own }],
    }
    expect(energise({ wiring, conditions: usual }).parts.find((p) => p.id === 'X/0')).toMatchObject({ ohm: 100 })
  })
  it.each([
    ['a terminal named twice', { terminals: [1, 2].map((n) => ({ was: String(n), id: 'A', does: 'through' })) }, /“A”/],
    ['no terminal at all', { terminals: [] }, /terminal/],
    ['a part whose terminal is gone', { terminals: [{ was: '1', id: '1', does: 'through' }] }, /no terminal “2”/],
    ['a terminal without a name', { terminals: draftOf(fuse).terminals.map((t) => ({ ...t, id: ' ' })) }, /./],
    ['limits that cross', { leastV: 30, mostV: 10 }, /least supply is above the most/],
    ['a resistance below 0', { ohms: { shunt: -5 } }, /must be above 0/],
    ['a figure that is none', { ohms: { shunt: NaN } }, /must be above 0/],
  ] as const)('with %s is refused in words', (_, changed, says) => {
    const make = () => edit(fuse, changed as Partial<Draft>)
    expect(make).toThrow(Refusal)
    expect(make).toThrow(says)
  })
  it('of the demo plant is read as it stands', () => {
    const folder = join(import.meta.dirname, '../../../../demo/devices')
    const files = readdirSync(folder)
    expect(files.length).toBeGreaterThan(1)
    for (const file of files) {
      const text = readFileSync(join(folder, file), 'utf8')
      expect(writeDeviceType(readDeviceType(text))).toBe(text)
    }
  })
  it('has a schema that names what a file must have', () => {
    const schema = deviceSchema()
    expect(schema['$id']).toBe('calm-loop/device-1')
    expect(schema['required']).toEqual(expect.arrayContaining(['id', 'name', 'terminals', 'inside']))
    expect(schema['additionalProperties']).toBe(false)
  })
})
