// Calculators of the link: frames and fields of HART and Modbus.
import { z } from 'zod'
import { bytesOf, floatAt, floatBytes, hexOf, isHex, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import {
  dateBytes,
  dateText,
  decodeFrame,
  decodePayload,
  encodeFrame,
  encodePayload,
  latinBytes,
  latinText,
  need,
  packAscii,
  readStatus,
  unitCode,
  unitSymbol,
  unpackAscii,
  type Frame,
} from '../hart/index.ts'
import { decodeModbus, encodeModbus, ORDERS, pack, REGISTER_TYPES, unpack, type ToEncode } from '../modbus/index.ts'
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import { calculator, oneOf } from './calculator.ts'

const hex = z.string().max(20_000).refine(isHex, 'two hex digits a byte')
const upTo = (most: number, least = 0) => z.number().int().min(least).max(most)
const byte = upTo(255)
const one = (...keys: string[]) => [oneOf(...keys), `exactly one of ${keys.join(', ')}`] as const

const address = z.union([
  z.strictObject({ short: upTo(63) }),
  z.strictObject({ long: hex.refine((h) => h.length === 10 && parseInt(h.slice(0, 2), 16) < 0x40, 'five bytes') }),
])
const frameToEncode = z
  .strictObject({
    type: z.enum(['request', 'response', 'burst']),
    address,
    master: z.enum(['primary', 'secondary']),
    command: upTo(253),
    data: hex,
    status: z.tuple([byte, byte]).optional(),
    burstMode: z.boolean().default(false),
    preambles: upTo(20, 2).default(5),
  })
  .refine((f) => (f.type === 'request') === (f.status === undefined), 'status in answers and bursts, and only there')
  .refine((f) => f.data.length / 2 <= (f.type === 'request' ? 255 : 253), 'too many bytes')

const frames = calculator(
  'hart-frame',
  'A HART data-link frame as bytes, or what the bytes of one say',
  z.strictObject({ encode: frameToEncode.optional(), decode: hex.optional() }).refine(...one('encode', 'decode')),
  ({ encode, decode }) => {
    if (encode) {
      const { data, status, preambles, ...rest } = encode
      const frame: Frame = { ...rest, data: bytesOf(data), status: status ?? null }
      return { hex: hexOf(encodeFrame(frame, preambles)) }
    }
    const found = decodeFrame(bytesOf(decode ?? ''))
    return { ...found, data: hexOf(found.data) }
  },
)

const FIELDS = [
  'float',
  'packed-ascii',
  'latin-1',
  'date',
  'unsigned-8',
  'unsigned-16',
  'unsigned-24',
  'unit',
  'status',
] as const
type FieldName = (typeof FIELDS)[number]
const SIZES: Partial<Record<FieldName, 1 | 2 | 3>> = { 'unsigned-8': 1, 'unsigned-16': 2, 'unsigned-24': 3 }
const field = z.enum(FIELDS)
const characters = upTo(10_000)
const fieldToEncode = z.union([
  z.strictObject({ field: z.literal('float'), value: z.number().nullable(), characters: characters.optional() }),
  z.strictObject({
    field: z.literal('packed-ascii'),
    value: z.string(),
    characters: characters.refine((n) => n % 4 === 0, 'a multiple of 4'),
  }),
  z.strictObject({ field: z.literal('latin-1'), value: z.string(), characters }),
  z.strictObject({ field: z.literal('date'), value: z.string().nullable(), characters: characters.optional() }),
  z.strictObject({ field: z.literal('unsigned-8'), value: byte, characters: characters.optional() }),
  z.strictObject({ field: z.literal('unsigned-16'), value: upTo(65_535), characters: characters.optional() }),
  z.strictObject({ field: z.literal('unsigned-24'), value: upTo(16_777_215), characters: characters.optional() }),
  z.strictObject({ field: z.literal('unit'), value: z.string(), characters: characters.optional() }),
  z.strictObject({ field: z.literal('status'), value: z.unknown(), characters: characters.optional() }),
])
const direction = z.enum(['request', 'response'])
const payload = { command: byte, direction }

function encodeField(what: z.infer<typeof fieldToEncode>): number[] {
  switch (what.field) {
    case 'float':
      return floatBytes(what.value)
    case 'packed-ascii':
      return packAscii(what.value, what.characters)
    case 'latin-1':
      return latinBytes(what.value, what.characters)
    case 'date':
      return dateBytes(what.value)
    case 'unit':
      return [unitCode(what.value)]
    case 'status':
      throw new Refusal('unsupported', 'Status bytes are the device’s to send.')
    default:
      return unsignedBytes(what.value, SIZES[what.field] ?? 1)
  }
}
function decodeField(name: FieldName, bytes: Uint8Array): unknown {
  switch (name) {
    case 'float':
      need(bytes, 4)
      return floatAt(bytes, 0)
    case 'packed-ascii':
      return unpackAscii(bytes)
    case 'latin-1':
      return latinText(bytes)
    case 'date':
      return dateText(bytes)
    case 'unit':
      need(bytes, 1)
      return unitSymbol(bytes[0]!)
    case 'status':
      need(bytes, 2)
      return readStatus(bytes[0]!, bytes[1]!)
    default: {
      const size = SIZES[name] ?? 1
      need(bytes, size)
      return unsignedAt(bytes, 0, size)
    }
  }
}

const data = calculator(
  'hart-data',
  'A field or a command’s payload of HART as bytes, or what the bytes say',
  z
    .strictObject({
      encode: z
        .union([fieldToEncode, z.strictObject({ ...payload, fields: z.record(z.string(), z.unknown()) })])
        .optional(),
      decode: z.union([z.strictObject({ field, hex }), z.strictObject({ ...payload, hex })]).optional(),
    })
    .refine(...one('encode', 'decode')),
  ({ encode, decode }) => {
    if (encode)
      return {
        hex: hexOf(
          'field' in encode ? encodeField(encode) : encodePayload(encode.command, encode.direction, encode.fields),
        ),
      }
    const asked = sure(decode)
    return 'field' in asked
      ? { value: decodeField(asked.field, bytesOf(asked.hex)) }
      : { fields: decodePayload(asked.command, asked.direction, bytesOf(asked.hex)) }
  },
)

const transport = z.enum(['rtu', 'tcp'])
const register = upTo(65_535)
const ROW_KEYS = ['start', 'count', 'bits', 'registers', 'on', 'register'] as const
const modbusToEncode = z
  .strictObject({
    transport,
    direction,
    transaction: register.optional(),
    unitId: byte,
    function: upTo(127, 1),
    start: register.optional(),
    count: register.optional(),
    bits: z.array(z.boolean()).optional(),
    registers: z.array(register).optional(),
    on: z.boolean().optional(),
    register: register.optional(),
    exception: upTo(255, 1).optional(),
  })
  .refine((f) => f.transport === 'tcp' || f.unitId <= 247, 'unitId: 0 to 247 on RTU')
  .refine((f) => f.exception === undefined || f.direction === 'response', 'exceptions are answers')
  .refine((f) => f.exception === undefined || ROW_KEYS.every((k) => f[k] === undefined), 'an exception carries no more')
const values = { type: z.enum(REGISTER_TYPES), order: z.enum(ORDERS).default('ABCD') }

const modbus = calculator(
  'modbus-frame',
  'A Modbus frame as bytes, what the bytes of one say, or values in registers',
  z
    .strictObject({
      encode: modbusToEncode.optional(),
      decode: z.strictObject({ transport, direction, hex, count: upTo(2000, 1).optional() }).optional(),
      pack: z.strictObject({ ...values, values: z.array(z.number()).min(1) }).optional(),
      unpack: z.strictObject({ ...values, registers: z.array(register).min(1) }).optional(),
    })
    .refine(...one('encode', 'decode', 'pack', 'unpack')),
  (input) => {
    if (input.encode) return { hex: hexOf(encodeModbus(input.encode as ToEncode)) }
    if (input.decode) {
      const { hex: received, ...rest } = input.decode
      return decodeModbus({ ...rest, bytes: bytesOf(received) })
    }
    if (input.pack) return { registers: pack(input.pack.type, input.pack.order, input.pack.values) }
    const { type, order, registers } = sure(input.unpack)
    return { values: unpack(type, order, registers) }
  },
)

export const linkCalculators = [frames, data, modbus]
