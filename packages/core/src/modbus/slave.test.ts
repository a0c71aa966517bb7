// A slave over a register map: what it answers, refuses, and is silent to.
import { describe, expect, it } from 'vitest'
import { bytesOf, hexOf } from '../bytes/index.ts'
import {
  crc16,
  decodeModbus,
  encodeModbus,
  manualNumber,
  mapSchema,
  orderSettled,
  registersFor,
  serveRtu,
  serveTcp,
  slaveOf,
  tryOrders,
  valueFrom,
  type ToEncode,
} from './index.ts'

const map = mapSchema.parse({
  unit: 1,
  rtu: { baud: 9600, parity: 'none' },
  registers: [
    { name: 'level', table: 'input', address: 0, type: 'float32', order: 'CDAB', readOnly: true },
    { name: 'damping', table: 'holding', address: 10, type: 'float32', least: 0, most: 100 },
    { name: 'alarm', table: 'holding', address: 12, type: 'uint16', scale: 0.001, most: 20 },
    { name: 'offset', table: 'holding', address: 13, type: 'int16' },
    { name: 'serial', table: 'holding', address: 20, type: 'uint32', readOnly: true },
    { name: 'horn', table: 'coil', address: 0, type: 'bit' },
    { name: 'hold', table: 'coil', address: 1, type: 'bit' },
    { name: 'high', table: 'discrete', address: 0, type: 'bit', readOnly: true },
  ],
})
function bench(refuses?: number) {
  const values: Record<string, number> = {
    level: 2.5,
    damping: 1,
    alarm: 5.5,
    offset: -3,
    serial: 70_000,
    horn: 1,
    hold: 0,
    high: 1,
  }
  const slave = slaveOf(map, {
    read: () => values,
    write(changed) {
      if (refuses !== undefined) return refuses
      Object.assign(values, changed)
      return undefined
    },
  })
  const ask = (request: Omit<ToEncode, 'transport' | 'direction' | 'unitId'>, unitId = 1, busy = false) => {
    const bytes = encodeModbus({ ...request, transport: 'rtu', direction: 'request', unitId })
    const { answers, rest } = serveRtu(slave, bytes, { busy }, false)
    expect(rest).toHaveLength(0)
    return (
      answers[0] && decodeModbus({ transport: 'rtu', direction: 'response', bytes: answers[0], count: request.count })
    )
  }
  return { values, slave, ask }
}
const raw = (hex: string) => {
  const bytes = bytesOf(hex)
  const crc = crc16(bytes)
  return Uint8Array.from([...bytes, crc & 255, crc >> 8])
}

describe('a slave', () => {
  it('reads each of its tables', () => {
    const { ask } = bench()
    expect(ask({ function: 1, start: 0, count: 2 })?.bits).toEqual([true, false])
    expect(ask({ function: 2, start: 0, count: 1 })?.bits).toEqual([true])
    expect(valueFrom(map.registers[0]!, ask({ function: 4, start: 0, count: 2 })!.registers!)).toBe(2.5)
    expect(ask({ function: 3, start: 12, count: 2 })?.registers).toEqual([5500, 65_533])
    // Half of a value is read as it stands.
    expect(ask({ function: 3, start: 21, count: 1 })?.registers).toEqual([70_000 % 65_536])
  })
  it('writes one or many, and repeats what it took', () => {
    const { ask, values } = bench()
    expect(ask({ function: 5, start: 0, on: false })).toMatchObject({ start: 0, on: false })
    expect(ask({ function: 5, start: 1, on: true })).toMatchObject({ on: true })
    expect(ask({ function: 6, start: 13, register: 7 })).toMatchObject({ register: 7 })
    expect(ask({ function: 15, start: 0, bits: [true, false] })).toMatchObject({ count: 2 })
    const both = [...registersFor(map.registers[1]!, 2.5), ...registersFor(map.registers[2]!, 6)]
    expect(ask({ function: 16, start: 10, registers: both })).toMatchObject({ count: 3 })
    expect(values).toMatchObject({ horn: 1, hold: 0, offset: 7, damping: 2.5, alarm: 6 })
  })
  it.each<[string, Omit<ToEncode, 'transport' | 'direction' | 'unitId'>, number]>([
    ['an address that is not there', { function: 3, start: 500, count: 1 }, 2],
    ['a block whose end is outside', { function: 3, start: 13, count: 2 }, 2],
    ['what is read only', { function: 6, start: 20, register: 1 }, 2],
    ['the second half of a value', { function: 6, start: 11, register: 1 }, 3],
    ['the first half of a value', { function: 6, start: 10, register: 1 }, 3],
    ['a value above its most', { function: 6, start: 12, register: 20_001 }, 3],
    ['no number', { function: 16, start: 10, registers: [0x7fa0, 0] }, 3],
    ['a value below its least', { function: 16, start: 10, registers: [0xbf80, 0] }, 3],
  ])('refuses %s and changes nothing', (_, request, exception) => {
    const { ask, values } = bench()
    const before = { ...values }
    expect(ask(request)).toMatchObject({ exception })
    expect(values).toEqual(before)
  })
  it('refuses as its bank does, and says that it is busy', () => {
    expect(bench(4).ask({ function: 5, start: 0, on: true })).toMatchObject({ exception: 4 })
    expect(bench().ask({ function: 3, start: 10, count: 1 }, 1, true)).toMatchObject({ exception: 6 })
  })
  it('is silent to others, does what is for everybody, and answers nobody for it', () => {
    const { ask, values } = bench()
    expect(ask({ function: 5, start: 0, on: false }, 2)).toBeUndefined()
    expect(values['horn']).toBe(1)
    expect(ask({ function: 5, start: 0, on: false }, 0)).toBeUndefined()
    expect(values['horn']).toBe(0)
  })
  it.each([
    ['012b0e0100', 'ab', 1],
    ['010300000000', '83', 3],
    ['01030000007e', '83', 3],
    ['0104ffff0002', '84', 2],
    ['010100000000', '81', 3],
    ['010f0000000209ff', '8f', 3],
    ['01100000000205ffffffffff', '90', 3],
    ['010500000001', '85', 3],
  ])('answers %s, which came whole and cannot be read, with an exception', (hex, code, exception) => {
    const { slave } = bench()
    const held = serveRtu(slave, raw(hex), { busy: false }, false)
    const { answers } = held.answers.length ? held : serveRtu(slave, held.rest, { busy: false }, true)
    expect(hexOf(answers[0]!).slice(0, 6)).toBe(`01${code}0${exception}`)
  })
  it('hears a good request behind a damaged one, once the line was silent', () => {
    const { slave } = bench()
    const good = encodeModbus({ transport: 'rtu', direction: 'request', unitId: 1, function: 1, start: 0, count: 1 })
    const bytes = Uint8Array.from([1, 3, 0, 0, 0, 1, 0xaa, 0xbb, ...good])
    expect(serveRtu(slave, bytes, { busy: false }, false).answers).toEqual([])
    expect(serveRtu(slave, bytes, { busy: false }, true).answers).toHaveLength(1)
  })
  it('on TCP answers each of several, waits for the rest of one, and gives up what is no Modbus', () => {
    const { slave } = bench()
    const one = encodeModbus({
      transport: 'tcp',
      direction: 'request',
      unitId: 9,
      function: 1,
      start: 0,
      count: 1,
      transaction: 5,
    })
    const step = serveTcp(slave, Uint8Array.from([...one, ...one, ...one.subarray(0, 5)]), { busy: false })
    expect(step.answers.map((a) => hexOf(a).slice(0, 4))).toEqual(['0005', '0005'])
    expect(step.rest).toHaveLength(5)
    expect(serveTcp(slave, one.subarray(0, 9), { busy: false })).toMatchObject({ answers: [] })
    expect(serveTcp(slave, one, { busy: true }).answers.map(hexOf)).toEqual(['000500000003098106'])
    expect(serveTcp(slave, bytesOf('474554202f20485454'), { busy: false }).broken).toBe(true)
    expect(serveTcp(slave, bytesOf('000100000001'), { busy: false }).broken).toBe(true)
    const unknown = serveTcp(slave, bytesOf('0001000000050163000000'), { busy: false }).answers
    expect(hexOf(unknown[0]!)).toBe('00010000000301e301')
  })
})

describe('a register map', () => {
  it('numbers its registers as manuals do, and refuses what contradicts itself', () => {
    expect(map.registers.map(manualNumber)).toEqual([30_001, 40_011, 40_013, 40_014, 40_021, 1, 2, 10_001])
    const wrong = { name: 'x', table: 'coil', address: 0, type: 'float32' }
    expect(mapSchema.safeParse({ ...map, registers: [wrong] }).success).toBe(false)
  })
  it('an order is settled by one value that fits, and by no other', () => {
    const level = map.registers[0]!
    const found = tryOrders(level, registersFor(level, 2.4), 2.41)
    expect(found[0]).toMatchObject({ order: 'CDAB', value: expect.closeTo(2.4, 5) as number })
    expect(orderSettled(found)).toBe('CDAB')
    expect(orderSettled(tryOrders(level, registersFor(level, 2.4), 9))).toBeUndefined()
    // Zero is zero in every order: nothing follows from it but that any will do.
    expect(orderSettled(tryOrders(level, [0, 0], 0))).toBeDefined()
    expect(() => tryOrders(map.registers[5]!, [1], 1)).toThrow()
    expect(valueFrom(level, [0, 0x7fa0])).toBeNull()
  })
})
