// Values in registers: types, and the four orders of their bytes.
import { floatAt, floatBytes, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'

export const REGISTER_TYPES = ['int16', 'uint16', 'int32', 'uint32', 'float32'] as const
export type RegisterType = (typeof REGISTER_TYPES)[number]
/** The four bytes as sent, A the most significant, a register’s high byte first. */
export const ORDERS = ['ABCD', 'CDAB', 'BADC', 'DCBA'] as const
export type Order = (typeof ORDERS)[number]

/** Registers that a value takes. */
export const sizeOf = (type: RegisterType): 1 | 2 => (type.endsWith('16') ? 1 : 2)

/** Bytes turned from an order into ABCD, or back: each order is its own way back. */
function turned(bytes: readonly number[], order: Order): number[] {
  const swap = order === 'BADC' || order === 'DCBA'
  const words: number[][] = []
  for (let i = 0; i < bytes.length; i += 2) {
    const [high, low] = [bytes[i]!, bytes[i + 1]!]
    words.push(swap ? [low, high] : [high, low])
  }
  if (order === 'CDAB' || order === 'DCBA') words.reverse()
  return words.flat()
}

function valueBytes(type: RegisterType, value: number): number[] {
  if (type === 'float32') return floatBytes(value)
  const size = sizeOf(type) * 2
  const whole = 256 ** size
  const [least, most] = type.startsWith('u') ? [0, whole - 1] : [-whole / 2, whole / 2 - 1]
  if (!Number.isInteger(value) || value < least || value > most)
    throw new Refusal('invalid-input', `${value} is no ${type}.`)
  return unsignedBytes(value < 0 ? value + whole : value, size)
}

/** @throws Refusal `invalid-input` for what does not fit, `out-of-range` for a float that rounds to infinity */
export const pack = (type: RegisterType, order: Order, values: readonly number[]): number[] =>
  values.flatMap((value) => {
    const bytes = turned(valueBytes(type, value), order)
    return Array.from({ length: bytes.length / 2 }, (_, i) => unsignedAt(bytes, 2 * i, 2))
  })

/** Null for a float that is no number. @throws Refusal `invalid-input` for an odd number of registers of 32 bits */
export function unpack(type: RegisterType, order: Order, registers: readonly number[]): (number | null)[] {
  const size = sizeOf(type)
  if (registers.length % size) throw new Refusal('invalid-input', 'Values of 32 bits take two registers each.')
  return Array.from({ length: registers.length / size }, (_, i) => {
    const bytes = turned(
      registers.slice(size * i, size * i + size).flatMap((r) => unsignedBytes(r, 2)),
      order,
    )
    if (type === 'float32') return floatAt(Uint8Array.from(bytes), 0)
    const value = unsignedAt(bytes, 0, bytes.length)
    const whole = 256 ** bytes.length
    return type.startsWith('i') && value >= whole / 2 ? value - whole : value
  })
}
