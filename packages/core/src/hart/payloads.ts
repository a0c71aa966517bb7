// Payloads of the commands: which fields a request and an answer carry, read and written by one table.
import { bytesOf, floatAt, floatBytes, hexOf, isHex, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'
import { dateBytes, dateText, need, packAscii, unpackAscii } from './fields.ts'

export type Direction = 'request' | 'response'
export type Fields = Readonly<Record<string, unknown>>

/** How one field is sent. */
interface Sent {
  readonly size: number
  /** @throws Refusal `invalid-input` and the field’s own */
  encode(value: unknown, name: string): number[]
  decode(bytes: Uint8Array): unknown
}
const wrong = (name: string, wanted: string) => new Refusal('invalid-input', `${name}: ${wanted} is needed.`)

const unsigned = (size: number, most = 256 ** size - 1): Sent => ({
  size,
  encode(value, name) {
    if (typeof value !== 'number' || !Number.isInteger(value) || value < 0 || value > most)
      throw wrong(name, `an integer from 0 to ${most}`)
    return unsignedBytes(value, size)
  },
  decode: (bytes) => unsignedAt(bytes, 0, size),
})
const [u8, u16, u24] = [unsigned(1), unsigned(2), unsigned(3)]
const f: Sent = {
  size: 4,
  encode(value, name) {
    if (value !== null && typeof value !== 'number') throw wrong(name, 'a number, or null')
    return floatBytes(value)
  },
  decode: (bytes) => floatAt(bytes, 0),
}
const packed = (characters: number): Sent => ({
  size: (characters * 3) / 4,
  encode(value, name) {
    if (typeof value !== 'string') throw wrong(name, 'a text')
    return packAscii(value, characters)
  },
  decode: unpackAscii,
})
const date: Sent = {
  size: 3,
  encode(value, name) {
    if (value !== null && typeof value !== 'string') throw wrong(name, 'a date, or null')
    return dateBytes(value)
  },
  decode: dateText,
}
const hexText = (value: unknown, name: string): number[] => {
  if (typeof value !== 'string' || !isHex(value)) throw wrong(name, 'bytes as hex')
  return [...bytesOf(value)]
}
const raw = (size: number): Sent => ({
  size,
  encode(value, name) {
    const bytes = hexText(value, name)
    if (bytes.length !== size) throw wrong(name, `${size} bytes as hex`)
    return bytes
  },
  decode: hexOf,
})
/** A byte that is always the same; not judged when it comes. */
const fixed = (value: number): Sent => ({ size: 1, encode: () => [value], decode: () => undefined })

type Layout = readonly (readonly [name: string, sent: Sent, absent?: 'may-be-absent'])[]

/** How a whole payload is read and written. */
interface Payload {
  encode(fields: Fields): number[]
  decode(bytes: Uint8Array): Record<string, unknown>
}

/** Fields one after the other; those that may be absent only at the end. */
function laid(layout: Layout): Payload {
  return {
    encode: (fields) =>
      layout.flatMap(([name, sent, absent]) => {
        const value = fields[name]
        if (absent && value === null) return []
        return sent.encode(value, name)
      }),
    decode(bytes) {
      need(
        bytes,
        layout.reduce((sum, [, sent, absent]) => sum + (absent ? 0 : sent.size), 0),
      )
      let at = 0
      const read = layout.map(([name, sent]) => {
        const whole = at + sent.size <= bytes.length
        const value = whole ? sent.decode(bytes.subarray(at, at + sent.size)) : null
        at += sent.size
        return [name, value] as const
      })
      return Object.fromEntries(read.filter(([name]) => name !== ''))
    },
  }
}
/** The same, where later fields come in newer devices only: encoding needs all of them. */
function grown(needed: Layout, later: Layout): Payload {
  const all = laid([...needed, ...later])
  const known = laid([...needed, ...later.map(([name, sent]) => [name, sent, 'may-be-absent'] as const)])
  return { encode: all.encode, decode: known.decode }
}
const NOTHING = laid([])

const identityBody = grown(
  [
    ['', fixed(254)],
    ['expandedType', u16],
    ['requestPreambles', u8],
    ['universalRevision', u8],
    ['deviceRevision', u8],
    ['softwareRevision', u8],
    ['hardwareAndSignalling', u8],
    ['flags', u8],
    ['deviceId', u24],
  ],
  [
    ['responsePreambles', u8],
    ['maxDeviceVariables', u8],
    ['configurationCounter', u16],
    ['extendedStatus', u8],
    ['manufacturer', u16],
    ['distributor', u16],
    ['profile', u8],
  ],
)
/** The unique address of a device, as frames carry it. */
export const longAddressOf = (expandedType: number, deviceId: number): string =>
  hexOf([...unsignedBytes(expandedType & 0x3fff, 2), ...unsignedBytes(deviceId, 3)])

const identity: Payload = {
  encode(fields) {
    const [hardware] = unsigned(1, 31).encode(fields['hardwareRevision'], 'hardwareRevision') as [number]
    const [signalling] = unsigned(1, 7).encode(fields['signalling'], 'signalling') as [number]
    return identityBody.encode({ ...fields, hardwareAndSignalling: hardware * 8 + signalling })
  },
  decode(bytes) {
    need(bytes, 12)
    if (bytes[0] !== 254) throw new Refusal('unsupported', 'The identity does not begin with 254.')
    const { hardwareAndSignalling, ...fields } = identityBody.decode(bytes)
    const both = hardwareAndSignalling as number
    return {
      ...fields,
      hardwareRevision: both >> 3,
      signalling: both & 7,
      longAddress: longAddressOf(fields['expandedType'] as number, fields['deviceId'] as number),
    }
  },
}

export interface Variable {
  readonly unitCode: number
  readonly value: number | null
}
const variable = laid([
  ['unitCode', u8],
  ['value', f],
])
const currentAndVariables: Payload = {
  encode(fields) {
    const list = fields['variables']
    if (!Array.isArray(list) || list.length < 1 || list.length > 4) throw wrong('variables', 'a list of 1 to 4')
    return [
      ...f.encode(fields['mA'], 'mA'),
      ...list.flatMap((v: unknown) => {
        if (typeof v !== 'object' || v === null) throw wrong('variables', 'a unit code and a value each')
        return variable.encode(v as Fields)
      }),
    ]
  },
  decode(bytes) {
    need(bytes, 9)
    const whole = Math.min(4, Math.floor((bytes.length - 4) / 5))
    return {
      mA: f.decode(bytes.subarray(0, 4)),
      variables: Array.from({ length: whole }, (_, i) => variable.decode(bytes.subarray(4 + 5 * i, 9 + 5 * i))),
    }
  },
}

const STATUS_REST = 11
const statusBody = grown(
  [['deviceStatus', raw(6)]],
  [
    ['extendedStatus', u8],
    ['operatingMode', u8],
    ['standardStatus0', u8],
    ['standardStatus1', u8],
    ['analogSaturated', u8],
    ['standardStatus2', u8],
    ['standardStatus3', u8],
    ['analogFixed', u8],
  ],
)
const moreStatus: Payload = {
  encode(fields) {
    const more = hexText(fields['moreDeviceStatus'], 'moreDeviceStatus')
    if (more.length > STATUS_REST) throw wrong('moreDeviceStatus', `at most ${STATUS_REST} bytes`)
    return [...statusBody.encode(fields), ...more]
  },
  decode: (bytes) => ({
    ...statusBody.decode(bytes),
    moreDeviceStatus: hexOf(bytes.subarray(14, 14 + STATUS_REST)),
  }),
}

const twice = (payload: Payload) => ({ request: payload, response: payload })
const asks = (response: Payload) => ({ request: NOTHING, response })
const text = laid([['message', packed(32)]])
const names = laid([
  ['tag', packed(8)],
  ['descriptor', packed(16)],
  ['date', date],
])
const trimmed = twice(laid([['mA', f]]))

const PAYLOADS: Readonly<Record<number, Readonly<Record<Direction, Payload>>>> = {
  0: asks(identity),
  1: asks(variable),
  2: asks(
    laid([
      ['mA', f],
      ['percent', f],
    ]),
  ),
  3: asks(currentAndVariables),
  6: twice(
    laid([
      ['pollingAddress', unsigned(1, 63)],
      ['loopCurrentMode', u8, 'may-be-absent'],
    ]),
  ),
  11: { request: laid([['tag', packed(8)]]), response: identity },
  12: asks(text),
  13: asks(names),
  14: asks(
    laid([
      ['serialNumber', u24],
      ['unitCode', u8],
      ['upperLimit', f],
      ['lowerLimit', f],
      ['minimumSpan', f],
    ]),
  ),
  15: asks(
    laid([
      ['alarmSelection', u8],
      ['transferFunction', u8],
      ['unitCode', u8],
      ['urv', f],
      ['lrv', f],
      ['damping_s', f],
      ['writeProtect', u8],
      ['', fixed(250)],
      ['channelFlags', u8],
    ]),
  ),
  17: twice(text),
  18: twice(names),
  34: twice(laid([['damping_s', f]])),
  35: twice(
    laid([
      ['unitCode', u8],
      ['urv', f],
      ['lrv', f],
    ]),
  ),
  38: twice(laid([['configurationCounter', u16, 'may-be-absent']])),
  40: trimmed,
  43: twice(NOTHING),
  44: twice(laid([['unitCode', u8]])),
  45: trimmed,
  46: trimmed,
  48: asks(moreStatus),
}

/** @throws Refusal `unsupported` */
function payloadOf(command: number, direction: Direction): Payload {
  const known = PAYLOADS[command]
  if (!known) throw new Refusal('unsupported', `The payload of command ${command} is not known here.`)
  return known[direction]
}

/** A command’s data, without status bytes. @throws Refusal `unsupported`, `invalid-input` and those of the fields */
export const encodePayload = (command: number, direction: Direction, fields: Fields): Uint8Array =>
  Uint8Array.from(payloadOf(command, direction).encode(fields))

/** Bytes beyond the last one needed are ignored. @throws Refusal `unsupported`, `too-short` */
export const decodePayload = (command: number, direction: Direction, bytes: Uint8Array): Record<string, unknown> =>
  payloadOf(command, direction).decode(bytes)

/** Whether the payload of a command is in the table. */
export const knowsPayload = (command: number): boolean => command in PAYLOADS
