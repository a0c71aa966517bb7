// A register map as data: what stands where, and how it is read.
import { z } from 'zod'
import { ORDERS, pack, REGISTER_TYPES, sizeOf, unpack, type Order, type RegisterType } from './pack.ts'
import { Refusal } from '../refusal/index.ts'

export const TABLES = ['coil', 'discrete', 'input', 'holding'] as const
export type Table = (typeof TABLES)[number]
/** Where the manual’s numbers of each table begin. */
const FIRST_NUMBER: Record<Table, number> = { coil: 1, discrete: 10_001, input: 30_001, holding: 40_001 }

export const registerSchema = z
  .strictObject({
    name: z.string().min(1).max(60),
    table: z.enum(TABLES),
    /** On the wire, from 0. */
    address: z.number().int().min(0).max(65_535),
    type: z.enum([...REGISTER_TYPES, 'bit']),
    order: z.enum(ORDERS).default('ABCD'),
    /** Symbol of the unit, after scaling; empty for a plain number. */
    unit: z.string().max(20).default(''),
    /** What the register’s number is multiplied with. */
    scale: z.number().default(1),
    readOnly: z.boolean().default(false),
    least: z.number().optional(),
    most: z.number().optional(),
  })
  .refine((r) => (r.type === 'bit') === (r.table === 'coil' || r.table === 'discrete'), 'bits in tables of bits')
export type Register = z.infer<typeof registerSchema>

export const mapSchema = z.strictObject({
  unit: z.number().int().min(1).max(247),
  rtu: z.strictObject({
    baud: z.number().int().min(300).max(921_600),
    parity: z.enum(['none', 'even', 'odd']),
  }),
  registers: z.array(registerSchema).min(1).max(10_000),
})
export type RegisterMap = z.infer<typeof mapSchema>

/** The number that manuals print for a register. */
export const manualNumber = ({ table, address }: Pick<Register, 'table' | 'address'>): number =>
  FIRST_NUMBER[table] + address
/** Words that a register takes; a bit takes one place of its own table. */
export const placesOf = ({ type }: Register): number => (type === 'bit' ? 1 : sizeOf(type))

/** The registers of a value, scaled. @throws Refusal `invalid-input` */
export const registersFor = ({ type, order, scale }: Register, value: number): number[] =>
  pack(type as RegisterType, order, [type === 'float32' ? value / scale : Math.round(value / scale)])
/** The value of registers; null where they hold no number. */
export function valueFrom({ type, order, scale }: Register, registers: readonly number[]): number | null {
  const [value] = unpack(type as RegisterType, order, registers)
  return value === null || value === undefined ? null : value * scale
}

export interface OrderFound {
  readonly order: Order
  readonly value: number | null
  /** How far from what is known, as a share of it; null where there is no number. */
  readonly off: number | null
}
/**
 * What registers say in each of the four orders, the nearest to a known value first. @param known what another witness
 * shows, in the register’s unit
 */
export function tryOrders(register: Register, registers: readonly number[], known: number): OrderFound[] {
  if (register.type === 'bit') throw new Refusal('invalid-input', 'A bit has no order.')
  const all = ORDERS.map((order) => {
    const value = valueFrom({ ...register, order }, registers)
    return { order, value, off: value === null ? null : Math.abs(value - known) / Math.max(Math.abs(known), 1e-9) }
  })
  return all.sort((a, b) => (a.off ?? Infinity) - (b.off ?? Infinity))
}
/** Whether one order fits a known value and no other with another value does; else it is not settled. */
export function orderSettled(found: readonly OrderFound[], within = 0.02): Order | undefined {
  const fits = found.filter((f) => f.off !== null && f.off <= within)
  return fits.length && new Set(fits.map((f) => f.value)).size === 1 ? fits[0]?.order : undefined
}
