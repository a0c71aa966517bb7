// Modbus frames (application protocol V1.1b3, serial line V1.02): RTU and TCP, requests and answers.
import { unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export type Transport = 'rtu' | 'tcp'
export type Way = 'request' | 'response'

/** What a frame carries beside function and unit: the keys of the function’s row. */
export interface Body {
  readonly start?: number
  readonly count?: number
  readonly bits?: readonly boolean[]
  readonly registers?: readonly number[]
  readonly on?: boolean
  readonly register?: number
}
export interface ModbusFrame extends Body {
  /** TCP only; null on RTU. */
  readonly transaction: number | null
  readonly unitId: number
  /** Without the 128 of an exception. */
  readonly function: number
  /** 1 to 255; null where there is none. */
  readonly exception: number | null
}
export interface ModbusReceived extends ModbusFrame {
  /** Bytes of the input that the frame takes. */
  readonly used: number
}

/** Exception codes. */
export const EXCEPTION = { function: 1, address: 2, value: 3, failure: 4, busy: 6 } as const

const MOST_BITS = { read: 2000, write: 1968 }
const MOST_REGISTERS = { read: 125, write: 123 }

/** CRC-16 of the serial line: start FFFF, reflected polynomial A001. */
export function crc16(bytes: Iterable<number>): number {
  let crc = 0xffff
  for (const b of bytes) {
    crc ^= b
    for (let i = 0; i < 8; i++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1
  }
  return crc
}

const two = (value: number) => unsignedBytes(value, 2)
const bitBytes = (bits: readonly boolean[]): number[] =>
  Array.from({ length: Math.ceil(bits.length / 8) }, (_, i) =>
    bits.slice(8 * i, 8 * i + 8).reduce((byte, on, bit) => byte | (on ? 1 << bit : 0), 0),
  )
const bitsIn = (bytes: Uint8Array, count: number): boolean[] =>
  Array.from({ length: count }, (_, i) => ((bytes[i >> 3]! >> (i & 7)) & 1) === 1)
const registersIn = (bytes: Uint8Array): number[] =>
  Array.from({ length: bytes.length / 2 }, (_, i) => unsignedAt(bytes, 2 * i, 2))

const malformed = (says: string) => new Refusal('malformed', says)
const invalid = (says: string) => new Refusal('invalid-input', says)

/** One way of one function: how its PDU behind the function byte is made, how long it is, and what it says. */
interface Row {
  encode(body: Body): number[]
  /** Bytes behind the function byte; undefined while the byte that says so is not there. */
  size(bytes: Uint8Array): number | undefined
  /** @throws Refusal `malformed` */
  decode(bytes: Uint8Array, asked: number | undefined): Body
}

function given<K extends keyof Body>(body: Body, key: K): NonNullable<Body[K]> {
  const value = body[key]
  if (value === undefined) throw invalid(`${key} is missing.`)
  return value
}
const inside = (count: number, most: number) => count >= 1 && count <= most
const fitsBlock = (start: number, count: number) => start + count <= 65536

/** start and count. */
const block = (most: number): Row => ({
  encode(body) {
    const [start, count] = [given(body, 'start'), given(body, 'count')]
    if (!inside(count, most) || !fitsBlock(start, count)) throw invalid(`count: 1 to ${most}, within 65536 in all.`)
    return [...two(start), ...two(count)]
  },
  size: () => 4,
  decode(bytes) {
    const [start, count] = [unsignedAt(bytes, 0, 2), unsignedAt(bytes, 2, 2)]
    if (!inside(count, most) || !fitsBlock(start, count)) throw malformed(`A block of ${count} from ${start}.`)
    return { start, count }
  },
})
const readBits: Row = {
  encode(body) {
    const bits = given(body, 'bits')
    if (!inside(bits.length, MOST_BITS.read)) throw invalid(`bits: 1 to ${MOST_BITS.read}.`)
    const bytes = bitBytes(bits)
    return [bytes.length, ...bytes]
  },
  size: (bytes) => (bytes.length ? 1 + bytes[0]! : undefined),
  decode(bytes, asked) {
    const held = bytes[0]!
    if (!inside(held, MOST_BITS.read / 8)) throw malformed(`${held} bytes of bits.`)
    if (asked !== undefined && held !== Math.ceil(asked / 8)) throw malformed(`${held} bytes for ${asked} bits.`)
    return { bits: bitsIn(bytes.subarray(1), asked ?? held * 8) }
  },
}
const readRegisters: Row = {
  encode(body) {
    const registers = given(body, 'registers')
    if (!inside(registers.length, MOST_REGISTERS.read)) throw invalid(`registers: 1 to ${MOST_REGISTERS.read}.`)
    return [registers.length * 2, ...registers.flatMap(two)]
  },
  size: (bytes) => (bytes.length ? 1 + bytes[0]! : undefined),
  decode(bytes) {
    const held = bytes[0]!
    if (held % 2 || !inside(held, MOST_REGISTERS.read * 2)) throw malformed(`${held} bytes of registers.`)
    return { registers: registersIn(bytes.subarray(1, 1 + held)) }
  },
}
const oneBit: Row = {
  encode: (body) => [...two(given(body, 'start')), given(body, 'on') ? 0xff : 0, 0],
  size: () => 4,
  decode(bytes) {
    const said = unsignedAt(bytes, 2, 2)
    if (said !== 0xff00 && said !== 0) throw malformed(`Neither on nor off: ${said}.`)
    return { start: unsignedAt(bytes, 0, 2), on: said === 0xff00 }
  },
}
const oneRegister: Row = {
  encode: (body) => [...two(given(body, 'start')), ...two(given(body, 'register'))],
  size: () => 4,
  decode: (bytes) => ({ start: unsignedAt(bytes, 0, 2), register: unsignedAt(bytes, 2, 2) }),
}
/** start, count, byte count, and the values. */
function many(most: number, bytesFor: (count: number) => number, values: Pick<Row, 'encode' | 'decode'>): Row {
  return {
    encode(body) {
      const start = given(body, 'start')
      const bytes = values.encode(body)
      const count = (body.bits ?? body.registers ?? []).length
      if (!inside(count, most) || !fitsBlock(start, count)) throw invalid(`1 to ${most} values, within 65536 in all.`)
      return [...two(start), ...two(count), bytes.length, ...bytes]
    },
    size: (bytes) => (bytes.length > 4 ? 5 + bytes[4]! : undefined),
    decode(bytes) {
      const [start, count, held] = [unsignedAt(bytes, 0, 2), unsignedAt(bytes, 2, 2), bytes[4]!]
      if (!inside(count, most) || !fitsBlock(start, count)) throw malformed(`A block of ${count} from ${start}.`)
      if (held !== bytesFor(count)) throw malformed(`${held} bytes for ${count} values.`)
      return { start, count, ...values.decode(bytes.subarray(5), count) }
    },
  }
}
const writeBits = many(MOST_BITS.write, (count) => Math.ceil(count / 8), {
  encode: (body) => bitBytes(given(body, 'bits')),
  decode: (bytes, count = 0) => ({ bits: bitsIn(bytes, count) }),
})
const writeRegisters = many(MOST_REGISTERS.write, (count) => count * 2, {
  encode: (body) => given(body, 'registers').flatMap(two),
  decode: (bytes, count = 0) => ({ registers: registersIn(bytes.subarray(0, 2 * count)) }),
})

const ROWS: Readonly<Record<number, Readonly<Record<Way, Row>>>> = {
  1: { request: block(MOST_BITS.read), response: readBits },
  2: { request: block(MOST_BITS.read), response: readBits },
  3: { request: block(MOST_REGISTERS.read), response: readRegisters },
  4: { request: block(MOST_REGISTERS.read), response: readRegisters },
  5: { request: oneBit, response: oneBit },
  6: { request: oneRegister, response: oneRegister },
  15: { request: writeBits, response: block(MOST_BITS.write) },
  16: { request: writeRegisters, response: block(MOST_REGISTERS.write) },
}

export interface ToEncode extends Body {
  readonly transport: Transport
  readonly direction: Way
  readonly unitId: number
  readonly function: number
  readonly transaction?: number | undefined
  readonly exception?: number | undefined
}

/** The bytes of a frame. @throws Refusal `invalid-input`, `unsupported` */
export function encodeModbus(frame: ToEncode): Uint8Array {
  const row = ROWS[frame.function]?.[frame.direction]
  if (!row && frame.exception === undefined)
    throw new Refusal('unsupported', `Function ${frame.function} is not known here.`)
  const pdu =
    frame.exception === undefined
      ? [frame.function, ...sure(row).encode(frame)]
      : [frame.function + 128, frame.exception]
  const body = [frame.unitId, ...pdu]
  if (frame.transport === 'tcp')
    return Uint8Array.from([...two(frame.transaction ?? 0), 0, 0, ...two(body.length), ...body])
  const crc = crc16(body)
  return Uint8Array.from([...body, crc & 0xff, crc >> 8])
}

export type ModbusFault = 'incomplete' | 'unsupported' | 'bad-crc' | 'malformed'
export interface ToDecode {
  readonly transport: Transport
  readonly direction: Way
  readonly bytes: Uint8Array
  /** How many bits were asked for. */
  readonly count?: number | undefined
}
const incomplete = () => new Refusal('incomplete', 'Bytes of the frame are missing still.')

/** The PDU’s function and its row; an exception has none. @throws Refusal `unsupported` */
function rowOf(direction: Way, code: number): { function: number; row: Row | undefined } {
  if (direction === 'response' && code & 0x80) return { function: code & 0x7f, row: undefined }
  const row = ROWS[code]?.[direction]
  if (!row) throw new Refusal('unsupported', `Function ${code} is not known here.`)
  return { function: code, row }
}
function said(row: Row | undefined, rest: Uint8Array, count: number | undefined): Body & { exception: number | null } {
  return row ? { exception: null, ...row.decode(rest, count) } : { exception: rest[0]! }
}

function decodeRtu({ direction, bytes, count }: ToDecode): ModbusReceived {
  if (bytes.length < 2) throw incomplete()
  const { function: code, row } = rowOf(direction, bytes[1]!)
  const size = row ? row.size(bytes.subarray(2)) : 1
  if (size === undefined || bytes.length < size + 4) throw incomplete()
  const end = size + 2
  const crc = crc16(bytes.subarray(0, end))
  if (bytes[end] !== (crc & 0xff) || bytes[end + 1] !== crc >> 8)
    throw new Refusal('bad-crc', 'The check sum is wrong.')
  const rest = bytes.subarray(2, end)
  return { transaction: null, unitId: bytes[0]!, function: code, ...said(row, rest, count), used: end + 2 }
}

function decodeTcp({ direction, bytes, count }: ToDecode): ModbusReceived {
  if (bytes.length < 6) throw incomplete()
  const length = unsignedAt(bytes, 4, 2)
  if (unsignedAt(bytes, 2, 2) !== 0) throw malformed('Another protocol than Modbus.')
  if (length < 2 || length > 254) throw malformed(`A length of ${length}.`)
  if (bytes.length < 6 + length) throw incomplete()
  const rest = bytes.subarray(8, 6 + length)
  const { function: code, row } = rowOf(direction, bytes[7]!)
  if ((row ? row.size(rest) : 1) !== rest.length) throw malformed('The length does not fit what it carries.')
  return {
    transaction: unsignedAt(bytes, 0, 2),
    unitId: bytes[6]!,
    function: code,
    ...said(row, rest, count),
    used: 6 + length,
  }
}

/** The frame that starts at the first byte. @throws Refusal by `ModbusFault`, the first that holds */
export const decodeModbus = (what: ToDecode): ModbusReceived =>
  what.transport === 'rtu' ? decodeRtu(what) : decodeTcp(what)
