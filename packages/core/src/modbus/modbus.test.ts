// Frames and registers of Modbus: back and forth, and whatever comes.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  crc16,
  decodeModbus,
  encodeModbus,
  ORDERS,
  pack,
  REGISTER_TYPES,
  unpack,
  type ToEncode,
  type Transport,
  type Way,
} from './index.ts'

const word = fc.integer({ min: 0, max: 65_535 })
const start = fc.integer({ min: 0, max: 60_000 })
const transport = fc.constantFrom<Transport>('rtu', 'tcp')
const bits = (most: number) => fc.array(fc.boolean(), { minLength: 1, maxLength: most })
const registers = (most: number) => fc.array(word, { minLength: 1, maxLength: most })
const bodies: fc.Arbitrary<Pick<ToEncode, 'direction' | 'function' | 'start' | 'count' | 'bits' | 'registers'>> =
  fc.oneof(
    fc.record({
      direction: fc.constant<Way>('request'),
      function: fc.constantFrom(1, 2),
      start,
      count: fc.integer({ min: 1, max: 2000 }),
    }),
    fc.record({
      direction: fc.constant<Way>('request'),
      function: fc.constantFrom(3, 4),
      start,
      count: fc.integer({ min: 1, max: 125 }),
    }),
    fc.record({ direction: fc.constant<Way>('response'), function: fc.constantFrom(1, 2), bits: bits(200) }),
    fc.record({ direction: fc.constant<Way>('response'), function: fc.constantFrom(3, 4), registers: registers(125) }),
    fc.record({
      direction: fc.constantFrom<Way>('request', 'response'),
      function: fc.constant(5),
      start,
      on: fc.boolean(),
    }),
    fc.record({
      direction: fc.constantFrom<Way>('request', 'response'),
      function: fc.constant(6),
      start,
      register: word,
    }),
    fc.record({ direction: fc.constant<Way>('request'), function: fc.constant(15), start, bits: bits(200) }),
    fc.record({ direction: fc.constant<Way>('request'), function: fc.constant(16), start, registers: registers(123) }),
    fc.record({
      direction: fc.constant<Way>('response'),
      function: fc.constant(3),
      exception: fc.integer({ min: 1, max: 255 }),
    }),
  )

/** The same check sum by division of polynomials, bit by bit, of the reflected message. */
function crcByDivision(bytes: readonly number[]): number {
  const message = [...bytes].flatMap((b) => Array.from({ length: 8 }, (_, i) => (b >> i) & 1))
  const padded = [...message, ...Array<number>(16).fill(0)].map((bit, i) => (i < 16 ? bit ^ 1 : bit))
  const poly = [1, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 1]
  for (let i = 0; i < message.length; i++) if (padded[i]) poly.forEach((p, k) => (padded[i + k] = padded[i + k]! ^ p))
  return padded.slice(-16).reduce((sum, bit, i) => sum | (bit << i), 0)
}

describe('the check sum', () => {
  it('is that of the standard’s own example, and of a second method', () => {
    expect(crc16([0x02, 0x07])).toBe(0x1241)
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 2, maxLength: 60 }),
        (b) => void expect(crc16(b)).toBe(crcByDivision([...b])),
      ),
    )
  })
})

describe('frames', () => {
  it('come back as they were sent, and no byte behind them is looked at', () => {
    fc.assert(
      fc.property(
        bodies,
        transport,
        fc.integer({ min: 0, max: 247 }),
        word,
        fc.uint8Array(),
        (body, by, unitId, t, rest) => {
          const sent = { ...body, transport: by, unitId, transaction: t }
          const hex = encodeModbus(sent)
          const got = decodeModbus({
            transport: by,
            direction: body.direction,
            bytes: Uint8Array.from([...hex, ...rest]),
            count: body.direction === 'response' && body.bits ? body.bits.length : undefined,
          })
          const { direction: _way, ...carried } = body
          expect(got).toMatchObject({ ...carried, unitId, transaction: by === 'tcp' ? t : null, used: hex.length })
        },
      ),
      { numRuns: 3000 },
    )
  })
  it('are read or refused by name, whatever comes: a hundred thousand inputs', () => {
    const seen = new Set<string>()
    const near = fc.tuple(
      fc.array(fc.oneof(fc.integer({ min: 0, max: 255 }), fc.constantFrom(0, 0, 1, 3, 6, 16, 0x83)), { maxLength: 24 }),
      fc.boolean(),
    )
    fc.assert(
      fc.property(near, transport, fc.constantFrom<Way>('request', 'response'), ([input, sum], by, direction) => {
        // Every other one with its check sum right, so that what stands behind that is reached.
        const crc = crc16(input)
        const bytes = Uint8Array.from(sum ? [...input, crc & 255, crc >> 8] : input)
        const got = attempt(() => decodeModbus({ transport: by, direction, bytes }))
        if (got instanceof Refusal) seen.add(got.code)
        else expect(got.used).toBeLessThanOrEqual(bytes.length)
      }),
      { numRuns: 100_000 },
    )
    expect([...seen].sort()).toEqual(['bad-crc', 'incomplete', 'malformed', 'unsupported'])
  })
})

describe('values in registers', () => {
  it('come back in each order, and in no other where their bytes differ', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...REGISTER_TYPES),
        fc.constantFrom(...ORDERS),
        fc.integer({ min: 0, max: 32_767 }),
        (type, order, v) => void expect(unpack(type, order, pack(type, order, [v, 1]))).toEqual([v, 1]),
      ),
    )
    const orders = ORDERS.map((order) => pack('float32', order, [123.456]).join())
    expect(new Set(orders).size).toBe(4)
  })
  it.each([
    ['int16', [32_768]],
    ['uint16', [-1]],
    ['int32', [2 ** 31]],
    ['uint32', [0.5]],
  ] as const)('%s refuses %j', (type, values) => {
    expect(() => pack(type, 'ABCD', values)).toThrow(expect.objectContaining({ code: 'invalid-input' }))
  })
  it('a float that is no number is none', () => expect(unpack('float32', 'ABCD', [0x7fa0, 0])).toEqual([null]))
})
