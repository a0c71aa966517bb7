// Reading a point's entries: in SI, in a unit, with the stated default, or as missing.
import { entryFrom, fromSi, isAsTyped, toSi, type Entry } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { readWiring, wiringWords } from '../wiring/index.ts'
import { inSentence } from '../words/index.ts'
import type { Entries, Field, StageId } from './kind.ts'
import { RUN_SHEETS } from './kind.ts'

export interface Reader {
  /** Value in the unit asked for; undefined when missing or unreadable. */
  in(key: string, unit: string): number | undefined
  /** Unit it was typed in, or the field's own. */
  unit(key: string): string
  /** Text or choice; '' when missing. */
  text(key: string): string
  /** Labels of those of the keys that have no value. */
  missing(...keys: string[]): string[]
  label(key: string): string
}

/** Whether a field is wanted, given the other entries. */
export function isWanted(field: Field, fields: readonly Field[], entries: Entries): boolean {
  if (!field.when) return true
  const { key, is } = field.when
  const other = fields.find((f) => f.key === key)
  const typed = entries[key]?.typed || other?.default || ''
  // What hangs on an entry that is itself not wanted is not wanted either.
  return is.includes(typed) && (!other || isWanted(other, fields, entries))
}

/** Stated defaults, read once. */
const standard = new WeakMap<Field, Entry>()

/** The entry that counts for a field: what was entered, else the stated default. */
export function standingEntry(field: Field, entries: Entries): Entry | undefined {
  const entry = entries[field.key]
  if (entry && entry.typed.trim() !== '') return entry
  if (field.default === undefined) return undefined
  const known = standard.get(field)
  if (known) return known
  const made = field.type === 'quantity' ? entryFrom(field.default, field) : { typed: field.default }
  standard.set(field, made)
  return made
}

const readers = new WeakMap<readonly Field[], Map<string, Field>>()

function index(fields: readonly Field[]): Map<string, Field> {
  const known = readers.get(fields) ?? new Map(fields.map((f) => [f.key, f]))
  readers.set(fields, known)
  return known
}

/** A reader of `entries` as described by `fields`. */
export function readEntries(fields: readonly Field[], entries: Entries): Reader {
  const byKey = index(fields)
  const field = (key: string): Field => {
    const found = byKey.get(key)
    if (!found) throw new Error(`no field ${key}`)
    return found
  }
  const entry = (key: string) => standingEntry(field(key), entries)
  const reader: Reader = {
    in(key, unit) {
      const e = entry(key)
      if (e?.value === undefined || e.unit === undefined) return undefined
      return e.unit === unit ? e.value : fromSi(toSi(e.value, e.unit), unit)
    },
    unit(key) {
      const f = field(key)
      return entry(key)?.unit ?? (f.type === 'quantity' ? f.unit : '')
    },
    text: (key) => entry(key)?.typed.trim() ?? '',
    label: (key) => inSentence(field(key).label),
    missing: (...keys) =>
      keys
        .filter((key) => {
          const f = field(key)
          if (!isWanted(f, fields, entries)) return false
          return f.type === 'quantity' ? entry(key)?.value === undefined : reader.text(key) === ''
        })
        .map((key) => reader.label(key)),
  }
  return reader
}

/** What stands at an entry, as a person would read it. */
export function entryWords(field: Field | undefined, typed: string): string {
  return field?.type === 'wiring' ? wiringWords(typed) : typed || 'nothing'
}

/** Required entries still missing, by stage. */
export function missingByStage(fields: readonly Field[], entries: Entries): Record<StageId, string[]> {
  const reader = readEntries(fields, entries)
  const stages = Object.values(RUN_SHEETS).flat()
  const missing = Object.fromEntries(stages.map((s) => [s.id, [] as string[]])) as Record<StageId, string[]>
  for (const field of fields) if (field.required) missing[field.stage].push(...reader.missing(field.key))
  return missing
}

/**
 * Entries that are not what their own text says (or belong to no field of the kind), by key. A record must not claim to have
 * understood anything but what was typed.
 */
export function falseEntries(fields: readonly Field[], entries: Entries, when: 'now' | 'ever' = 'now'): string[] {
  const byKey = index(fields)
  return Object.entries(entries)
    .filter(([key, entry]) => {
      const field = byKey.get(key)
      if (!field) return true
      if (field.type === 'wiring')
        return entry.value !== undefined || attempt(() => readWiring(entry.typed)) instanceof Refusal
      if (field.type !== 'quantity') return entry.value !== undefined
      return !isAsTyped(entry, field, when)
    })
    .map(([key]) => key)
}
