// Descriptions: what is refused of one, and values read and written by them at a device that answers.
import { describe, expect, it } from 'vitest'
import { answerRequest, newDevice, type DeviceMake, type Frame } from '../hart/index.ts'
import {
  descriptionFor,
  descriptionSchema,
  differences,
  faultsOf,
  isOther,
  publishedSchema,
  readBackOf,
  readPlan,
  refusedValue,
  SHIPPED,
  UNIVERSAL,
  valuesIn,
  withUniversal,
  writeStep,
  type Description,
  type Parameter,
  type Value,
  type Values,
} from './index.ts'

const make: DeviceMake = {
  expandedType: 0x3d11,
  deviceId: 7,
  deviceRevision: 3,
  softwareRevision: 1,
  hardwareRevision: 1,
  profile: 1,
  unit: 'kPa',
  upperLimit: 1000,
  lowerLimit: -100,
  minimumSpan: 10,
  serialNumber: 99,
  others: [],
  parameters: [
    { id: 1, name: 'Cut-off', type: 'float', least: 0, most: 25, initial: 6 },
    { id: 2, name: 'At 0 %', type: 'float', initial: 0 },
    { id: 3, name: 'At 100 %', type: 'float', initial: 600 },
    { id: 4, name: 'Fill', type: 'text', initial: 'SILICONE', readOnly: true },
    { id: 5, name: 'Failure', type: 'integer', initial: 1 },
  ],
}
function bench() {
  const at = { device: newDevice(make, { tag: 'PT-104', range: { unit: 'kPa', lrv: 0, urv: 600 } }) }
  const ask = (command: number, data: Uint8Array): Uint8Array => {
    const request: Frame = {
      type: 'request',
      address: { long: '3d11000007' },
      master: 'primary',
      burstMode: false,
      command,
      data,
      status: null,
    }
    const { device, answer } = answerRequest(at.device, request, { sensed: 240, others: [] })
    at.device = device
    if (answer?.status?.[0]) throw new Error(`code ${answer.status[0]}`)
    return answer!.data
  }
  const all = (d: Description): Values =>
    Object.assign({}, ...readPlan(d).map((step) => valuesIn(step, ask(step.command, step.data)))) as Values
  return { at, ask, all }
}
const description = withUniversal(SHIPPED.find((d) => d.id === 'pressure-standard'))
const parameter = (id: string): Parameter => description.parameters.find((p) => p.id === id)!

describe('a description', () => {
  it('that is shipped has no fault, and is found by the type of the device', () => {
    for (const d of SHIPPED) expect(faultsOf(d), d.id).toEqual([])
    expect(faultsOf(UNIVERSAL)).toEqual([])
    expect(descriptionFor(SHIPPED, make)?.id).toBe('pressure-standard')
    expect(descriptionFor(SHIPPED, { ...make, expandedType: 1 })).toBeUndefined()
    const older = { ...SHIPPED[0]!, id: 'older', matches: { expandedType: 0x3d11, deviceRevisions: [3] } }
    expect(descriptionFor([...SHIPPED, older], make)?.id).toBe('older')
  })
  it('has a published schema', () => expect(publishedSchema()).toMatchObject({ type: 'object' }))

  const [first] = SHIPPED[0]!.parameters
  const broken = (change: Partial<Description>) => faultsOf({ ...SHIPPED[0]!, ...change }).join('\n')
  it.each<[string, Partial<Description>, RegExp]>([
    [
      'a circle of groups',
      {
        groups: [
          { id: 'own', label: 'A', within: 'b' },
          { id: 'b', label: 'B', within: 'own' },
        ],
      },
      /circle: own → b → own/,
    ],
    [
      'a circle that leads back to another',
      {
        groups: [
          { id: 'own', label: 'A', within: 'b' },
          { id: 'b', label: 'B', within: 'c' },
          { id: 'c', label: 'C', within: 'b' },
        ],
      },
      /circle: b → c → b/,
    ],
    [
      'a circle of parameters',
      { parameters: [{ ...first!, where: { parameter: first!.id, is: [1] } }] },
      /depend on one another in a circle/,
    ],
    ['a figure without a unit', { parameters: [{ ...first!, unit: undefined }] }, /a figure without a unit/],
    ['a unit that is none', { parameters: [{ ...first!, unit: 'furlong' }] }, /“furlong” is not known/],
    ['a unit from what is none', { parameters: [{ ...first!, unitFrom: 'zork' }] }, /which is no unit/],
    ['a parameter twice', { parameters: [first!, first!] }, /is there twice/],
    ['a group that is not there', { parameters: [{ ...first!, group: 'zork' }] }, /which is not there/],
    [
      'a field that is not there',
      { parameters: [{ ...first!, read: { command: 15, field: 'zork' } }] },
      /has no field “zork”/,
    ],
    ['a choice without choices', { parameters: [{ ...first!, type: 'choice' }] }, /a choice without choices/],
    ['limits that cross', { parameters: [{ ...first!, least: 5, most: 1 }] }, /above its most/],
    [
      'ten thousand parameters',
      { parameters: Array.from({ length: 10_000 }, (_, i) => ({ ...first!, id: `p${i}` })) },
      /10000 parameters; at most 2000/,
    ],
  ])('with %s is refused in words', (_, change, says) => expect(broken(change)).toMatch(says))
  it('of a later format, or with keys of its own, is none', () => {
    expect(descriptionSchema.safeParse({ ...SHIPPED[0], format: 'calm-loop/device-description/2' }).success).toBe(false)
    expect(descriptionSchema.safeParse({ ...SHIPPED[0], run: 'rm' }).success).toBe(false)
  })
})

describe('values', () => {
  it('are read with each request once', () => {
    const { all } = bench()
    expect(
      readPlan(description)
        .map((s) => s.command)
        .sort((a, b) => a - b),
    ).toEqual([12, 13, 14, 15, 130, 130, 130, 130, 130])
    expect(all(description)).toMatchObject({
      tag: 'PT-104',
      unit: 'kPa',
      urv: 600,
      upperLimit: 1000,
      fillOfTheCell: 'SILICONE',
      lowflowCutoffOfTheRoot: 6,
    })
    expect(all(UNIVERSAL)).not.toHaveProperty('fillOfTheCell')
  })
  it('of a late answer to another number are not taken', () => {
    const { ask } = bench()
    const [a, b] = readPlan(description).filter((s) => s.command === 130)
    expect(isOther(a!, ask(a!.command, a!.data))).toBe(false)
    expect(isOther(a!, ask(b!.command, b!.data))).toBe(true)
  })
  it.each<[string, Value]>([
    ['urv', 480],
    ['urv', 20.1],
    ['tag', 'PT-105'],
    ['message', 'CHECKED'],
    ['date', '2026-11-28'],
    ['damping', 1.6],
    ['unit', 'bar'],
    ['lowflowCutoffOfTheRoot', 4.7],
  ])('%s is written with what goes with it, and agrees when it is read back', (id, value) => {
    const { ask, all } = bench()
    const before = all(description)
    const p = parameter(id)
    expect(refusedValue(p, value)).toBe('')
    const back = readBackOf(p)
    const step = writeStep([[p, value]], ask(back.command, back.data))
    expect(step.agrees(ask(back.command, back.data))).toBe(false)
    ask(step.command, step.data)
    const held = ask(back.command, back.data)
    expect(step.agrees(held)).toBe(true)
    expect(step.held(held)).toEqual({ [id]: typeof value === 'number' ? Math.fround(value) : value })
    const changed = differences(description, before, all(description)).map((d) => d.id)
    if (id !== 'unit') expect(changed).toEqual([id])
    else expect(changed).toEqual(expect.arrayContaining(['unit', 'urv', 'upperLimit']))
  })
  it('both ends of a range are written by one request', () => {
    const { ask, all } = bench()
    const back = readBackOf(parameter('urv'))
    const step = writeStep(
      [
        [parameter('lrv'), 100],
        [parameter('urv'), 500],
      ],
      ask(back.command, back.data),
    )
    ask(step.command, step.data)
    expect(all(description)).toMatchObject({ lrv: 100, urv: 500 })
    expect(() =>
      writeStep(
        [
          [parameter('lrv'), 1],
          [parameter('tag'), 'X'],
        ],
        ask(15, new Uint8Array()),
      ),
    ).toThrow()
  })
  it.each<[string, Value]>([
    ['upperLimit', 5],
    ['urv', null],
    ['damping', -1],
    ['tag', 'TOO LONG A TAG'],
    ['failureCurrent', 0.5],
    ['date', 5],
    ['unit', 7],
  ])('%s is not given %j', (id, value) => expect(refusedValue(parameter(id), value)).not.toBe(''))
})
