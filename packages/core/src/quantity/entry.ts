// An entry on record: the text as typed, and what it was understood as.
import { parseQuantity, type ParseOptions } from './parse.ts'
import { fromSi, toSi, unitOf } from './units.ts'

/**
 * A quantity as kept on record: what was typed, and what it was understood as. Without `value` the text could not be
 * read.
 */
export interface Entry {
  readonly typed: string
  readonly value?: number | undefined
  readonly unit?: string | undefined
}

/** The entry that `text` makes; an unreadable text is kept, without a value. */
export function entryFrom(text: string, options: ParseOptions): Entry {
  const parsed = parseQuantity(text, options)
  return parsed.ok ? { typed: text, value: parsed.value, unit: parsed.unit } : { typed: text }
}

/** An entry's value in SI, or undefined when it has none. */
export function entrySi(entry: Entry | undefined): number | undefined {
  return entry?.value === undefined || entry.unit === undefined ? undefined : toSi(entry.value, entry.unit)
}

/** An entry's value in the unit asked for, or undefined when it has none. */
export function entryIn(entry: Entry | undefined, unit: string): number | undefined {
  const si = entrySi(entry)
  return si === undefined ? undefined : entry?.unit === unit ? entry.value : fromSi(si, unit)
}

const NOW = [{ rules: 2 }, { rules: 2, decimalMark: ',' }] as const
const READINGS = { now: NOW, ever: [...NOW, { rules: 1 }] } as const

/**
 * Whether an entry is what its own text says: by the rules of reading of `now`, or of any release there `ever` was.
 * What was understood
 * when it was typed stands, also where the same text would be read otherwise today.
 */
export function isAsTyped(entry: Entry, options: ParseOptions, when: keyof typeof READINGS = 'now'): boolean {
  return READINGS[when].some((how) => {
    const read = entryFrom(entry.typed, { ...options, ...how })
    return read.value === entry.value && read.unit === entry.unit
  })
}

/** Whether a reading's value is what its text says; see `isAsTyped`. */
export function entryIsTrue(entry: Entry, when: keyof typeof READINGS = 'now'): boolean {
  if (entry.unit === undefined) return entry.value === undefined
  return isAsTyped(entry, { quantity: unitOf(entry.unit).quantity, unit: entry.unit }, when)
}
