// Reading a point's entries: in SI, in a unit, with the stated default, or as missing.
import {
  differenceUnit,
  entryFrom,
  fromSi,
  isAsTyped,
  spokenNow,
  spokenUnit,
  toSi,
  type Entry,
} from '../quantity/index.ts'
import { strappingOf, strappingWords } from '../level/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { readWiring, wiringWords } from '../wiring/index.ts'
import { inSentence } from '../words/index.ts'
import type { Condition, Entries, Field } from './kind.ts'
import { RUN_SHEETS, type StageId } from './run-sheets.ts'

export interface Reader {
  readonly fields: readonly Field[]
  readonly entries: Entries
  /** Whether the kind has such an entry at all. */
  has(key: string): boolean
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

/** What a condition goes by: the entry, or the default where it is empty or, of a choice, none of the options. */
function chosen(field: Field | undefined, typed: string | undefined): string {
  if (!field || field.default === undefined) return typed ?? ''
  if (field.type === 'choice' && !field.options?.some((o) => o.value === typed)) return field.default
  return typed || field.default
}

/** Whether a field is wanted, given the other entries. */
export function isWanted(field: Field, fields: readonly Field[], entries: Entries): boolean {
  if (!field.when) return true
  const conditions = 'key' in field.when ? [field.when] : field.when
  return conditions.every(({ key, is }) => {
    const other = fields.find((f) => f.key === key)
    const typed = chosen(other, entries[key]?.typed)
    // What hangs on an entry that is itself not wanted is not wanted either.
    return is.includes(typed) && (!other || isWanted(other, fields, entries))
  })
}

const holds = ({ key, is }: Condition, fields: readonly Field[], entries: Entries): boolean =>
  is.includes(
    chosen(
      fields.find((f) => f.key === key),
      entries[key]?.typed,
    ),
  )

/** A field by the name that it has, given the other entries. */
export function namedFor(field: Field, fields: readonly Field[], entries: Entries): Field {
  const { named } = field
  return named && holds(named.when, fields, entries) ? { ...field, label: named.label, help: named.help } : field
}

/** A reader that reads some entries in place of others. */
export function readInstead(r: Reader, instead: Readonly<Record<string, string>>): Reader {
  const of = (key: string) => instead[key] ?? key
  return {
    ...r,
    in: (key, unit) => r.in(of(key), unit),
    unit: (key) => r.unit(of(key)),
    text: (key) => r.text(of(key)),
    label: (key) => r.label(of(key)),
    missing: (...keys) => r.missing(...keys.map(of)),
  }
}

/** The entry that counts for a field: what was entered, else the stated default. */
export function standingEntry(field: Field, entries: Entries): Entry | undefined {
  const entry = entries[field.key]
  if (entry && entry.typed.trim() !== '') return entry
  if (field.default === undefined) return undefined
  return field.type === 'quantity' ? entryFrom(field.default, field) : { typed: field.default }
}

const index = (fields: readonly Field[]): Map<string, Field> => new Map(fields.map((f) => [f.key, f]))

/** A reader of `entries` as described by `fields`. */
export function readEntries(fields: readonly Field[], entries: Entries): Reader {
  // The units of then: a reader is asked long after it was made.
  const spoken = spokenNow()
  const byKey = index(fields)
  const field = (key: string): Field => {
    const found = byKey.get(key)
    if (!found) throw new Error(`no field ${key}`)
    return found
  }
  // Each standing entry is read once for this reader.
  const standing = new Map<string, Entry | undefined>()
  const entry = (key: string): Entry | undefined => {
    if (!standing.has(key)) standing.set(key, standingEntry(field(key), entries))
    return standing.get(key)
  }
  const reader: Reader = {
    fields,
    entries,
    has: (key) => byKey.has(key),
    in(key, unit) {
      const e = entry(key)
      if (e?.value === undefined || e.unit === undefined) return undefined
      return e.unit === unit ? e.value : fromSi(toSi(e.value, e.unit), unit)
    },
    unit(key) {
      const f = field(key)
      return entry(key)?.unit ?? (f.type === 'quantity' ? (spoken ? spokenUnit(f.unit, spoken) : f.unit) : '')
    },
    text: (key) => entry(key)?.typed.trim() ?? '',
    label: (key) => inSentence(namedFor(field(key), fields, entries).label),
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
  if (field?.type === 'table') return strappingWords(typed)
  return field?.type === 'wiring' ? wiringWords(typed) : typed || 'nothing'
}

/** Required entries still missing, by stage. */
export function missingByStage(reader: Reader): Record<StageId, string[]> {
  const stages = Object.values(RUN_SHEETS).flat()
  const missing = Object.fromEntries(stages.map((s) => [s.id, [] as string[]])) as Record<StageId, string[]>
  for (const f of reader.fields) if (f.required) missing[f.stage].push(...reader.missing(f.key))
  return missing
}

/**
 * Entries that are not what their own text says (or belong to no field of the kind), by key. A record must not claim
 * to have
 * understood anything but what was typed.
 */
export function falseEntries(fields: readonly Field[], entries: Entries, when: 'now' | 'ever' = 'now'): string[] {
  const byKey = index(fields)
  return Object.entries(entries)
    .filter(([key, entry]) => {
      const field = byKey.get(key)
      if (!field) return true
      if (field.type === 'table')
        return entry.value !== undefined || attempt(() => strappingOf(entry.typed)) instanceof Refusal
      if (field.type === 'wiring')
        return entry.value !== undefined || attempt(() => readWiring(entry.typed)) instanceof Refusal
      if (
        field.type === 'choice' &&
        when === 'now' &&
        entry.typed &&
        !field.options.some((o) => o.value === entry.typed)
      )
        return true
      if (field.type !== 'quantity') return entry.value !== undefined
      return !isAsTyped(entry, field, when)
    })
    .map(([key]) => key)
}

/**
 * Temperatures at these keys, entered when they were taken for readings, as the differences that they are: the figure
 * as typed.
 */
export function asDifferences(entries: Entries, keys: readonly string[]): Entries {
  const changed = keys.flatMap((key) => {
    const entry = entries[key]
    return entry?.unit ? [[key, { ...entry, unit: differenceUnit(entry.unit) }] as const] : []
  })
  return changed.length ? { ...entries, ...Object.fromEntries(changed) } : entries
}
