// The lines of a set-up sheet from the entries, in the order in which they are keyed.
import { formatQuantity } from '../../quantity/index.ts'
import type { Entries, Field, SetupLine } from '../kind.ts'
import { isWanted, namedFor, standingEntry, type Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

/** What stands at an entry, as it is keyed: a quantity with its unit, a choice by its label, words as typed. */
export function keyedText(field: Field, entries: Entries): string {
  const entry = standingEntry(field, entries)
  if (!entry) return ''
  if (field.type === 'choice') return field.options.find((o) => o.value === entry.typed)?.label ?? entry.typed
  if (field.type !== 'quantity') return entry.typed
  return entry.value === undefined || entry.unit === undefined
    ? ''
    : formatQuantity(entry.value, entry.unit, { decimals: 6, trim: true })
}

/** Lines for the keys named, those that are wanted; `title:` begins a group. */
export function linesOf({ fields, entries }: Reader, keys: readonly string[]): SetupLine[] {
  let group = ''
  const lines: SetupLine[] = []
  for (const key of keys) {
    if (key.endsWith(':')) {
      group = key.slice(0, -1)
      continue
    }
    const field = namedFor(sure(fields.find((f) => f.key === key)), fields, entries)
    if (isWanted(field, fields, entries))
      lines.push({ key, group, label: field.label, text: keyedText(field, entries) })
  }
  return lines
}

/** What is keyed at the end of every flow point: range, damping, fault, cutoff. */
export const OUTPUT_KEYS = ['Output:', 'lrv', 'urv', 'damping', 'cutoff', 'faultAction', 'faultCurrent'] as const
export const keyedOf = (lines: readonly SetupLine[]): Record<string, string> =>
  Object.fromEntries(lines.map((l) => [l.key, l.text]))
/** The number at the start of a keyed text. */
export const keyedNumber = (text: string | undefined): number | undefined => {
  const n = Number.parseFloat((text ?? '').replace('−', '-'))
  return Number.isFinite(n) ? n : undefined
}
