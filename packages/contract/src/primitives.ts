// The small parts of every message: ids, times, entries.
import { findUnit } from '@calm-loop/core/quantity'
import { z } from 'zod'

/** Made by the client (UUIDv7), so that a write can be sent again without harm. */
export const Id = z.uuid().meta({ description: 'UUID, version 7 where the client makes it' })
/** Years that a record can be of: anything else is a slip, or a clock that was never set. */
const [FIRST_YEAR, LAST_YEAR] = [1900, 2200]
const inYears = (text: string) => Number(text.slice(0, 4)) >= FIRST_YEAR && Number(text.slice(0, 4)) <= LAST_YEAR
const YEARS = `must lie between the years ${FIRST_YEAR} and ${LAST_YEAR}`
export const Instant = z.iso
  .datetime({ precision: 3 })
  .refine(inYears, YEARS)
  .meta({ description: 'UTC, to the millisecond' })
export const Day = z.iso.date().refine(inYears, YEARS)
/** Milliseconds since 1970-01-01 UTC, up to the year 2200. */
export const EpochMs = z
  .number()
  .int()
  .min(0)
  .max(Date.UTC(LAST_YEAR, 0, 1))

/** A line of text without control characters. */
export const line = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^\P{Cc}*$/u, 'must not hold control characters')
export const filledLine = (most: number) => line(most).refine((s) => s.trim() !== '', 'must not be blank')

/** Entries whose text is a whole: everything else is a line. */
const LONG: ReadonlySet<string> = new Set(['wiring', 'strapping'])
/** The longest text of an entry. */
const MOST_TYPED = 400_000

/** What was typed, and what it was understood as; without a value the text could not be read (yet). */
export const EntrySchema = z
  .strictObject({ typed: line(MOST_TYPED), value: z.number().optional(), unit: line(20).optional() })
  .refine((e) => (e.value === undefined) === (e.unit === undefined), 'value and unit go together')
  .refine((e) => e.unit === undefined || findUnit(e.unit) !== undefined, 'unknown unit')

/** An entry that must have been understood. */
export const ReadEntry = z
  .strictObject({ typed: line(400), value: z.number().min(-1e12).max(1e12), unit: line(20) })
  .refine((e) => findUnit(e.unit) !== undefined, 'unknown unit')
export type ReadEntry = z.infer<typeof ReadEntry>

export const PointEntries = z
  .record(z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,39}$/), EntrySchema)
  .refine((entries) => Object.keys(entries).length <= 200, 'at most 200 entries')
  .refine(
    (entries) => Object.entries(entries).every(([key, e]) => LONG.has(key) || e.typed.length <= 400),
    'at most 400 characters',
  )
export type PointEntries = z.infer<typeof PointEntries>

export const Author = z.strictObject({ id: Id, name: line(120) })
export type Author = z.infer<typeof Author>

/**
 * RFC 9457 problem details; `code` is stable (docs/codes.md lists them), `accepted` says what would be taken instead,
 * `fields` names what was wrong and the rule.
 */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string().optional(),
  code: z.string(),
  accepted: z.string().optional(),
  fields: z.array(z.object({ path: z.string(), rule: z.string() })).optional(),
  current: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>
