// A Modbus slave: a request’s bytes in, an answer’s bytes out, over a register map whose values are somebody else’s.
import { unsignedAt } from '../bytes/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import {
  crc16,
  decodeModbus,
  encodeModbus,
  EXCEPTION,
  type ModbusReceived,
  type ToEncode,
  type Transport,
} from './frame.ts'
import { placesOf, registersFor, valueFrom, type Register, type RegisterMap, type Table } from './map.ts'

/** The values behind a map, all of one instant. */
export interface Bank {
  /** Value by register’s name, scaled; a bit is 0 or 1. */
  read(): Readonly<Record<string, number>>
  /** Takes values all together or not at all; says with which exception it refuses. */
  write(values: Readonly<Record<string, number>>): number | undefined
}
export interface SlaveState {
  readonly busy: boolean
}

class Exception extends Error {
  constructor(readonly code: number) {
    super()
  }
}
const TABLE_OF: Readonly<Record<number, Table>> = {
  1: 'coil',
  2: 'discrete',
  3: 'holding',
  4: 'input',
  5: 'coil',
  6: 'holding',
  15: 'coil',
  16: 'holding',
}

interface Place {
  readonly register: Register
  /** Which of its words. */
  readonly word: number
}
/** Every place of the map by table and address. */
export function placesBy(map: RegisterMap): ReadonlyMap<string, Place> {
  const places = new Map<string, Place>()
  for (const register of map.registers)
    for (let word = 0; word < placesOf(register); word++)
      places.set(`${register.table} ${register.address + word}`, { register, word })
  return places
}
type Places = ReadonlyMap<string, Place>

function placesIn(places: Places, table: Table, start: number, count: number): Place[] {
  return Array.from({ length: count }, (_, i) => {
    const place = places.get(`${table} ${start + i}`)
    if (!place) throw new Exception(EXCEPTION.address)
    return place
  })
}
function wordsOf(bank: Bank, wanted: readonly Place[]): number[] {
  const values = bank.read()
  return wanted.map(({ register, word }) => {
    const value = values[register.name] ?? 0
    return register.type === 'bit' ? value : sure(registersFor(register, value)[word])
  })
}

function write(bank: Bank, wanted: readonly Place[], words: readonly number[]): void {
  const values: Record<string, number> = {}
  wanted.forEach(({ register, word }, i) => {
    if (register.readOnly) throw new Exception(EXCEPTION.address)
    const size = placesOf(register)
    // A value is written whole: half of one would be another.
    if (word > 0) {
      if (wanted[i - 1]?.register !== register) throw new Exception(EXCEPTION.value)
      return
    }
    const own = words.slice(i, i + size)
    if (own.length < size) throw new Exception(EXCEPTION.value)
    const value = register.type === 'bit' ? sure(own[0]) : valueFrom(register, own)
    if (value === null || value < (register.least ?? -Infinity) || value > (register.most ?? Infinity))
      throw new Exception(EXCEPTION.value)
    values[register.name] = value
  })
  const refused = bank.write(values)
  if (refused !== undefined) throw new Exception(refused)
}

function done(places: Places, bank: Bank, asked: ModbusReceived): Omit<ToEncode, 'transport' | 'direction' | 'unitId'> {
  const { function: code, start = 0, count = 1 } = asked
  const wanted = placesIn(places, sure(TABLE_OF[code]), start, count)
  switch (code) {
    case 1:
    case 2:
      return { function: code, bits: wordsOf(bank, wanted).map((b) => b !== 0) }
    case 3:
    case 4:
      return { function: code, registers: wordsOf(bank, wanted) }
    case 5:
      write(bank, wanted, [asked.on ? 1 : 0])
      return { function: code, start, on: asked.on === true }
    case 6:
      write(bank, wanted, [asked.register ?? 0])
      return { function: code, start, register: asked.register ?? 0 }
    default:
      write(bank, wanted, asked.bits ? asked.bits.map(Number) : (asked.registers ?? []))
      return { function: code, start, count }
  }
}

/** The exception for a PDU that could not be read; `rest` is what stands behind its function. */
function exceptionFor(error: Refusal, code: number, rest: Uint8Array): number {
  if (error.code === 'unsupported') return EXCEPTION.function
  const [start, count] = [unsignedAt(rest, 0, 2), unsignedAt(rest, 2, 2)]
  const most = code <= 2 ? 2000 : code <= 4 ? 125 : code === 15 ? 1968 : code === 16 ? 123 : 0
  return count >= 1 && count <= most && start + count > 65_536 ? EXCEPTION.address : EXCEPTION.value
}

export interface Slave {
  readonly map: RegisterMap
  readonly places: Places
  readonly bank: Bank
}
export const slaveOf = (map: RegisterMap, bank: Bank): Slave => ({ map, places: placesBy(map), bank })

interface Request {
  readonly transport: Transport
  readonly unitId: number
  readonly transaction: number
  readonly function: number
}
/** The answer to a request that was read, or could not be. */
function answer(slave: Slave, request: Request, asked: ModbusReceived | Refusal, rest: Uint8Array): Uint8Array {
  const head = { ...request, direction: 'response' as const }
  try {
    if (asked instanceof Refusal) throw new Exception(exceptionFor(asked, request.function, rest))
    return encodeModbus({ ...head, ...done(slave.places, slave.bank, asked) })
  } catch (error) {
    if (!(error instanceof Exception)) throw error
    return encodeModbus({ ...head, exception: error.code })
  }
}

export interface SlaveStep {
  readonly rest: Uint8Array
  readonly answers: readonly Uint8Array[]
  /** The stream makes no sense any more: a TCP connection is closed. */
  readonly broken?: true
}

/** Requests on TCP: several may stand in one piece. */
export function serveTcp(slave: Slave, bytes: Uint8Array, { busy }: SlaveState): SlaveStep {
  const answers: Uint8Array[] = []
  let rest = bytes
  while (rest.length >= 6) {
    const length = unsignedAt(rest, 4, 2)
    if (unsignedAt(rest, 2, 2) !== 0 || length < 2 || length > 254) return { rest, answers, broken: true }
    if (rest.length < 6 + length) break
    const one = rest.subarray(0, 6 + length)
    const head = {
      transport: 'tcp' as const,
      transaction: unsignedAt(one, 0, 2),
      unitId: sure(one[6]),
      function: sure(one[7]) & 0x7f,
    }
    const asked = attempt(() => decodeModbus({ transport: 'tcp', direction: 'request', bytes: one }))
    answers.push(
      busy
        ? encodeModbus({ ...head, direction: 'response', exception: EXCEPTION.busy })
        : answer(slave, head, asked, one.subarray(8)),
    )
    rest = rest.subarray(6 + length)
  }
  return { rest, answers }
}

const crcIsRight = (bytes: Uint8Array) => {
  const crc = crc16(bytes.subarray(0, -2))
  return bytes.length >= 4 && bytes.at(-2) === (crc & 255) && bytes.at(-1) === crc >> 8
}

/**
 * Requests on a serial line. @param ended the line has been silent: what is held is all that will come of a frame
 */
export function serveRtu(slave: Slave, bytes: Uint8Array, { busy }: SlaveState, ended: boolean): SlaveStep {
  const answers: Uint8Array[] = []
  let rest = bytes
  const take = (size: number, asked: ModbusReceived | Refusal) => {
    const one = rest.subarray(0, size)
    rest = rest.subarray(size)
    const unitId = sure(one[0])
    if (unitId !== slave.map.unit && unitId !== 0) return
    const head = { transport: 'rtu' as const, transaction: 0, unitId, function: sure(one[1]) & 0x7f }
    const said = busy
      ? encodeModbus({ ...head, direction: 'response', exception: EXCEPTION.busy })
      : answer(slave, head, asked, one.subarray(2, -2))
    // To everybody: done, and not answered.
    if (unitId !== 0) answers.push(said)
  }
  while (rest.length) {
    const asked = attempt(() => decodeModbus({ transport: 'rtu', direction: 'request', bytes: rest }))
    if (!(asked instanceof Refusal)) {
      take(asked.used, asked)
      continue
    }
    if (!ended) break
    // A frame that cannot be read, but came whole: it is answered with an exception.
    if (crcIsRight(rest)) {
      take(rest.length, asked)
      continue
    }
    // Something damaged, perhaps with a good frame behind it.
    rest = rest.subarray(1)
  }
  return { rest, answers }
}
