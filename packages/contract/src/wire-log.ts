// The log of wiring work: gates confirmed and readings taken at the terminals. Nothing in it is ever changed.
import { GATE_WORDS } from '@calm-loop/core/wiring'
import { z } from 'zod'
import { Author, filledLine, Id, Instant, line, ReadEntry } from './primitives.ts'
import { practiceMark } from './worlds.ts'

/** The longest text of a wiring that is taken. */
export const WIRING_LIMIT = 400_000

const Ref = z.string().min(3).max(30)
export const LoopSpot = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('volts'), red: Ref, black: Ref }),
  z.strictObject({ of: z.literal('current'), conductor: z.string().min(1).max(16) }),
])
export type LoopSpot = z.infer<typeof LoopSpot>

const Confirmed = z.strictObject({
  what: z.literal('gate'),
  gate: z.enum(Object.keys(GATE_WORDS) as [keyof typeof GATE_WORDS, ...(keyof typeof GATE_WORDS)[]]),
  /** What was confirmed, in the words that stood on the page. */
  words: filledLine(300),
  /** Who in operations was told, and by which permit or lock. */
  told: filledLine(120),
  /** The wiring it was confirmed for, whole. */
  wiring: z.string().max(WIRING_LIMIT),
})
const Read = z.strictObject({
  what: z.literal('reading'),
  spot: LoopSpot,
  read: ReadEntry,
  /**
   * What was expected there at that moment, and the loop current it was expected for; null while it could not be
   * computed.
   */
  expected: z.number().nullable(),
  signal_mA: z.number().nullable(),
  /** The reading of the same spot that this one replaces, and why. */
  supersedes: Id.nullable(),
  reason: line(300),
})
const Afresh = z.strictObject({ what: z.literal('afresh'), reason: filledLine(300) })

const one = { id: Id, by: Author, at: Instant, ...practiceMark }
export const WireEntry = z.discriminatedUnion('what', [Confirmed.extend(one), Read.extend(one), Afresh.extend(one)])
export type WireEntry = z.infer<typeof WireEntry>
export const AddWireEntry = z.discriminatedUnion('what', [
  Confirmed,
  Read.refine((r) => r.supersedes === null || r.reason.trim() !== '', 'a correction needs its reason'),
  Afresh,
])
export type AddWireEntry = z.infer<typeof AddWireEntry>
export type WireReading = Extract<WireEntry, { what: 'reading' }>

/** The readings that count: since the last fresh start, each spot's latest. */
export function standingReadings(log: readonly WireEntry[]): WireReading[] {
  const from = log.map((e) => e.what).lastIndexOf('afresh')
  const readings = log.slice(from + 1).filter((e): e is WireReading => e.what === 'reading')
  const replaced = new Set(readings.map((r) => r.supersedes))
  return readings.filter((r) => !replaced.has(r.id))
}
