// pH buffers: what a buffer is at a temperature.
import { Refusal } from '../refusal/index.ts'
import tables from './buffers.json' with { type: 'json' }
import { sure } from '../sure/index.ts'

export const BUFFER_SETS = ['technical', 'nist'] as const
export type BufferSet = (typeof BUFFER_SETS)[number]

interface Table {
  readonly from_C: number
  readonly step_C: number
  readonly buffers: Readonly<Record<string, readonly number[]>>
}

/** Nominal values (at 25 °C) of a set, as printed on the bottle, lowest first. */
export const buffersOf = (set: BufferSet): string[] =>
  Object.keys((tables[set] as Table).buffers).sort((a, b) => Number(a) - Number(b))

/** Temperatures that a set's table spans, °C. */
export function bufferTemperatures(set: BufferSet): { readonly low: number; readonly high: number } {
  const { from_C, step_C, buffers } = tables[set] as Table
  return { low: from_C, high: from_C + step_C * (sure(Object.values(buffers)[0]).length - 1) }
}

/**
 * pH of a buffer at `temp_C`, linear between the table's points.
 * @param nominal its value at 25 °C
 * @throws Refusal `unknown-buffer`, `out-of-range`
 */
export function phBuffer({ set, nominal, temp_C }: { set: BufferSet; nominal: number; temp_C: number }): {
  ph: number
} {
  const { from_C, step_C, buffers } = tables[set] as Table
  const row = Object.entries(buffers).find(([name]) => Number(name) === nominal)?.[1]
  if (!row)
    throw new Refusal('unknown-buffer', `The set has no buffer of pH ${nominal}: it has ${buffersOf(set).join(', ')}.`)
  const { low, high } = bufferTemperatures(set)
  if (!(temp_C >= low && temp_C <= high))
    throw new Refusal('out-of-range', `The set’s table goes from ${low} to ${high} °C.`)
  const place = (temp_C - from_C) / step_C
  const i = Math.min(row.length - 2, Math.floor(place))
  return { ph: row[i]! + (place - i) * (row[i + 1]! - row[i]!) }
}

/** A name on a bottle is rounded: this close to a nominal it is that buffer. */
const NAMED_SO = 0.0051

/** Set and nominal of a buffer by what is printed on its bottle, or typed for it: `9.18`, `7`, `7,00`. */
function named(name: string): { readonly set: BufferSet; readonly nominal: number } | undefined {
  const ph = Number(name.replace(',', '.'))
  if (name.trim() === '' || Number.isNaN(ph)) return undefined
  const all = BUFFER_SETS.flatMap((set) => buffersOf(set).map((printed) => ({ set, nominal: Number(printed) })))
  const off = (b: { nominal: number }) => Math.abs(b.nominal - ph)
  return all.filter((b) => off(b) <= NAMED_SO).sort((a, b) => off(a) - off(b))[0]
}

/** A buffer’s name as it is printed: that of its set where it has one, else the figure as typed. */
export function bufferName(typed: string): string {
  const known = named(typed)
  if (known) return buffersOf(known.set).find((printed) => Number(printed) === known.nominal) ?? typed.trim()
  return typed.trim().replace(',', '.')
}

/**
 * pH of a buffer by its name as printed, at a temperature: from the table of the set that has it; any other is the
 * site's own, whose pH is taken as named. What is typed is brought to its printed name by `bufferName` first: a
 * recorded run goes on meaning what it meant.
 * @throws Refusal `out-of-range`, `not-a-buffer`
 */
export function bufferPh(name: string, temp_C: number): { ph: number; set: BufferSet | 'own' } {
  const set = BUFFER_SETS.find((s) => buffersOf(s).includes(name))
  if (set) return { ...phBuffer({ set, nominal: Number(name), temp_C }), set }
  const ph = Number(name)
  if (name.trim() === '' || !(ph >= 0 && ph <= 14))
    throw new Refusal('not-a-buffer', `“${name}” is not a buffer: its pH lies between 0 and 14.`)
  return { ph, set: 'own' }
}
