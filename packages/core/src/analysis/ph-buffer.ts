// pH buffers: what a buffer is at a temperature.
import { attempt, Refusal } from '../refusal/index.ts'
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

/** A buffer of the site's own: its pH at temperatures, °C, lowest first. */
export interface OwnBuffer {
  readonly name: string
  readonly rows: readonly (readonly [temp_C: number, ph: number])[]
}

/** @throws Refusal `out-of-range` */
function ownPh({ name, rows }: OwnBuffer, temp_C: number): number {
  const above = rows.findIndex(([t]) => t >= temp_C)
  const [a, b] = [rows[Math.max(0, above - 1)], rows[above]]
  if (!a || !b || temp_C < a[0])
    throw new Refusal(
      'out-of-range',
      `The table of “${name}” goes from ${rows[0]?.[0] ?? '?'} to ${rows.at(-1)?.[0] ?? '?'} °C.`,
    )
  return a === b ? b[1] : a[1] + ((temp_C - a[0]) / (b[0] - a[0])) * (b[1] - a[1])
}

/**
 * The table of a buffer of the site's own as it is typed: `20: 4.65, 25: 4.66`, °C and pH, rising.
 * @throws Refusal `not-a-buffer`
 */
export function ownBuffer(name: string, table: string): OwnBuffer {
  const rows = table.split(/[;\n]|,(?!\d)/).flatMap((part) => {
    if (!part.trim()) return []
    const [temp, ph] = part.split(':').map((v) => Number(v.trim().replace(',', '.') || 'x'))
    return [[temp ?? NaN, ph ?? NaN] as const]
  })
  const rises = rows.every(([t, ph], i) => t > (rows[i - 1]?.[0] ?? -Infinity) && ph >= 0 && ph <= 14)
  if (rows.length < 2 || !rises)
    throw new Refusal(
      'not-a-buffer',
      'A buffer’s table has two rows or more, temperature and pH, as “20: 4.65; 25: 4.66”, the temperature rising.',
    )
  return { name, rows }
}

/**
 * The site's own buffers from the rows of its tables, oldest first: the newest of a name counts, and what cannot be
 * read is left out.
 */
export function ownBuffersOf(
  rows: readonly { readonly table: string; readonly name: string; readonly fills: Readonly<Record<string, string>> }[],
): OwnBuffer[] {
  const read = rows.flatMap(({ table, name, fills }) => {
    const b = table === 'buffer' ? attempt(() => ownBuffer(name, fills['table'] ?? '')) : undefined
    return b && !(b instanceof Refusal) ? [b] : []
  })
  return [...new Map(read.map((b) => [b.name, b])).values()]
}

/** pH by which buffers are told apart before any is read: at 25 °C, or as near to it as its own table goes. */
export function nominalPh(name: string, own: readonly OwnBuffer[] = []): number {
  const rows = own.find((b) => b.name === name)?.rows
  const [low, high] = [rows?.[0]?.[0] ?? 25, rows?.at(-1)?.[0] ?? 25]
  return bufferPh(name, Math.min(high, Math.max(low, 25)), own).ph
}

/**
 * pH of a buffer by its name as printed, at a temperature: from the site's own table of that name, or the table of the
 * set that has it; any other is taken as it is named. What is typed is brought to its printed name by `bufferName`
 * first: a recorded run goes on meaning what it meant.
 * @throws Refusal `out-of-range`, `not-a-buffer`
 */
export function bufferPh(
  name: string,
  temp_C: number,
  own: readonly OwnBuffer[] = [],
): { ph: number; set: BufferSet | 'own' } {
  const kept = own.find((b) => b.name === name)
  if (kept) return { ph: ownPh(kept, temp_C), set: 'own' }
  const set = BUFFER_SETS.find((s) => buffersOf(s).includes(name))
  if (set) return { ...phBuffer({ set, nominal: Number(name), temp_C }), set }
  const ph = Number(name)
  if (name.trim() === '' || !(ph >= 0 && ph <= 14))
    throw new Refusal('not-a-buffer', `“${name}” is not a buffer: its pH lies between 0 and 14.`)
  return { ph, set: 'own' }
}
