// Registers of a Modbus device by its map: read, and written with their read-back.
import type { BusLine, RegisterValue, WriteRegister } from '@calm-loop/contract'
import { manualNumber, placesOf, registersFor, valueFrom, type Register } from '@calm-loop/core/modbus'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import type { Answered, ModbusLine } from './modbus-line.ts'

export const BUS_WORDS: Record<BusLine['outcome'], string> = {
  device: 'answers',
  exception: 'answers, and refuses this register: a device is there',
  silence: 'nothing',
  damaged: 'bytes came that make no frame',
  'other-unit': 'another address answered',
}

const FUNCTION = { coil: 1, discrete: 2, holding: 3, input: 4 } as const
export async function readOne(line: ModbusLine, unitId: number, register: Register): Promise<RegisterValue> {
  const { name, unit, table, address, type } = register
  const got: Answered = await line.ask({ unitId, function: FUNCTION[table], start: address, count: placesOf(register) })
  const registers = [...(got.frame?.registers ?? got.frame?.bits?.map(Number) ?? [])]
  const value =
    got.outcome !== 'device' ? null : type === 'bit' ? (registers[0] ?? null) : valueFrom(register, registers)
  const says =
    got.outcome === 'device'
      ? ''
      : got.outcome === 'exception'
        ? `refused with exception ${got.frame?.exception}`
        : BUS_WORDS[got.outcome]
  return { name, number: manualNumber({ table, address }), unit, value, registers, says }
}

function refuseRegister({ register, value }: Pick<WriteRegister, 'register' | 'value'>): void {
  const { name, table, readOnly, least, most, type } = register
  const refuse = (why: string) => {
    throw new Refusal('value-refused', `${name}: ${why}`)
  }
  if (readOnly || table === 'input' || table === 'discrete') refuse('it can only be read.')
  if (least !== undefined && value < least) refuse(`at least ${least}.`)
  if (most !== undefined && value > most) refuse(`at most ${most}.`)
  if (type === 'bit' && value !== 0 && value !== 1) refuse('a bit is 0 or 1.')
}

/** What a write of a register is on the wire, and the words that it is to hold then. */
export interface RegisterWrite {
  readonly request: Parameters<ModbusLine['ask']>[0]
  readonly words: readonly number[]
}

/** @throws Refusal `value-refused` where it cannot be written, or not so */
export function registerWrite(wish: Omit<WriteRegister, 'cautions'>): RegisterWrite {
  refuseRegister(wish)
  const { unit, register, value } = wish
  const at = { unitId: unit, start: register.address }
  if (register.type === 'bit') return { request: { ...at, function: 5, on: value === 1 }, words: [value] }
  const words = attempt(() => registersFor(register, value))
  if (words instanceof Refusal) throw new Refusal('value-refused', `${register.name}: ${words.message}`)
  const [first = 0] = words
  const request =
    words.length === 1 ? { ...at, function: 6, register: first } : { ...at, function: 16, registers: words }
  return { request, words }
}

/** Writes once, and reads back whatever was answered: what is held counts. */
export async function writeOne(
  line: ModbusLine,
  { unit, register }: Pick<WriteRegister, 'unit' | 'register'>,
  { request, words }: RegisterWrite,
): Promise<RegisterValue> {
  const got = await line.ask(request, 1)
  const held = await readOne(line, unit, register)
  if (got.outcome === 'exception') return { ...held, says: `refused with exception ${got.frame?.exception}` }
  if (!held.registers.length) return { ...held, says: 'unknown: read back first' }
  const same = words.length === held.registers.length && words.every((word, i) => word === held.registers[i])
  return { ...held, says: same ? 'held, read back' : 'the device holds something else' }
}
