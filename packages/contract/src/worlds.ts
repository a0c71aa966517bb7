// The two worlds of a loop: what was measured, and what was practised at the bench.
import { z } from 'zod'
import { Author, Instant } from './primitives.ts'

/** By whom and when the bench of a loop was connected. */
export const BenchConnected = z.strictObject({ by: Author, at: Instant })
export type BenchConnected = z.infer<typeof BenchConnected>
export const ConnectBench = z.strictObject({ connected: z.boolean() })
/** Null while nothing is simulated. */
export const BenchState = z.strictObject({ bench: BenchConnected.nullable() })

/** A body of a log as it is kept: with the mark that the server gives it. */
export type Kept<Body> = Body & { readonly practice?: boolean | undefined }

/** The mark of what was put on record while the bench was connected; absent where that was not recorded. */
export const practiceMark = { practice: z.boolean().optional() }

/** What belongs to practice, or what does not; what is older than the question counts as record. */
export const inWorld = <T extends { readonly practice?: boolean | undefined }>(
  of: readonly T[],
  practising: boolean,
): T[] => of.filter((each) => (each.practice ?? false) === practising)
