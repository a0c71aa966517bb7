// HART data-link frames (revision 7, asynchronous): bytes in, frames out.
import { bytesOf, hexOf } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export type FrameType = 'request' | 'response' | 'burst'
export type Master = 'primary' | 'secondary'
/** A polling address (0 to 63), or the five bytes of a unique one as hex, bits 7 and 6 of the first 0. */
export type Address = { readonly short: number } | { readonly long: string }

export interface Frame {
  readonly type: FrameType
  readonly address: Address
  readonly master: Master
  readonly burstMode: boolean
  /** 0 to 255. */
  readonly command: number
  readonly data: Uint8Array
  /** First and second status byte; null in a request. */
  readonly status: readonly [number, number] | null
}
export interface Received extends Frame {
  readonly checksumOk: boolean
  /** Bytes up to and with the check byte, junk and preambles too. */
  readonly used: number
}

export const PREAMBLE = 0xff
const CODE: Record<FrameType, number> = { burst: 1, request: 2, response: 6 }
const LONG = 0x80
const PRIMARY = 0x80
const BURST = 0x40
/** The long address that is everybody’s. */
export const EVERY_DEVICE = '0000000000'

export const parity = (bytes: Iterable<number>): number => {
  let check = 0
  for (const b of bytes) check ^= b
  return check
}

function addressBytes({ type, address, master, burstMode }: Frame): number[] {
  const long = 'long' in address
  const body = long ? [...bytesOf(address.long)] : [address.short]
  const flags =
    (master === 'primary' ? PRIMARY : 0) | (type === 'burst' || (type === 'response' && burstMode) ? BURST : 0)
  return [(body[0] ?? 0) | flags, ...body.slice(1)]
}

/** The bytes of a frame. @param preambles 2 to 20 */
export function encodeFrame(frame: Frame, preambles = 5): Uint8Array {
  const body = [...(frame.status ?? []), ...frame.data]
  const counted = [
    CODE[frame.type] | ('long' in frame.address ? LONG : 0),
    ...addressBytes(frame),
    frame.command,
    body.length,
    ...body,
  ]
  return Uint8Array.from([...Array<number>(preambles).fill(PREAMBLE), ...counted, parity(counted)])
}

const TYPE_OF: Readonly<Record<number, FrameType>> = { 1: 'burst', 2: 'request', 6: 'response' }
/** What sort of frame a delimiter begins; undefined for any other byte. */
const typeBegun = (byte: number): FrameType | undefined => (byte & 0x18 ? undefined : TYPE_OF[byte & 7])

/** Index of the first delimiter directly after two preambles; −1 where there is none. */
export function startOf(bytes: Uint8Array, from = 0): number {
  for (let i = from + 2; i < bytes.length; i++)
    if (bytes[i - 1] === PREAMBLE && bytes[i - 2] === PREAMBLE && typeBegun(bytes[i]!)) return i
  return -1
}

/** How a frame could not be read. */
export type FrameFault = 'no-frame' | 'unsupported' | 'bad-count' | 'incomplete'
const SAYS: Record<FrameFault, string> = {
  'no-frame': 'No frame starts here: a delimiter after two bytes FF is missing.',
  unsupported: 'The frame announces expansion bytes, which revision 7 gives no meaning.',
  'bad-count': 'A response counts its two status bytes; this one counts fewer than two.',
  incomplete: 'Bytes of the frame are missing still.',
}

/** The first frame in `bytes`, or why there is none. */
export function readFrame(bytes: Uint8Array): Received | FrameFault {
  const start = startOf(bytes)
  if (start < 0)
    return bytes.length >= 2 && bytes.at(-1) === PREAMBLE && bytes.at(-2) === PREAMBLE ? 'incomplete' : 'no-frame'
  const delimiter = bytes[start]!
  if (delimiter & 0x60) return 'unsupported'
  const type = sure(typeBegun(delimiter))
  const long = (delimiter & LONG) !== 0
  const command = start + 1 + (long ? 5 : 1)
  const count = bytes[command + 1]
  if (count === undefined) return 'incomplete'
  if (type !== 'request' && count < 2) return 'bad-count'
  const end = command + 2 + count
  if (end >= bytes.length) return 'incomplete'
  const first = bytes[start + 1]!
  const body = bytes.slice(command + 2, end)
  const address: Address = long
    ? { long: hexOf([first & 0x3f, ...bytes.subarray(start + 2, command)]) }
    : { short: first & 0x3f }
  return {
    type,
    address,
    master: first & PRIMARY ? 'primary' : 'secondary',
    burstMode: (first & BURST) !== 0,
    command: bytes[command]!,
    data: type === 'request' ? body : body.subarray(2),
    status: type === 'request' ? null : [body[0]!, body[1]!],
    checksumOk: parity(bytes.subarray(start, end)) === bytes[end],
    used: end + 1,
  }
}

/** The first frame in `bytes`. A wrong check byte is told, not refused. @throws Refusal by `FrameFault` */
export function decodeFrame(bytes: Uint8Array): Received {
  const found = readFrame(bytes)
  if (typeof found === 'string') throw new Refusal(found, SAYS[found])
  return found
}
