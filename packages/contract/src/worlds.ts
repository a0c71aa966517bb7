// The two worlds of a loop: what was measured, and what was practised at the bench.
import { z } from 'zod'
import { Author, Instant } from './primitives.ts'

/** By whom and when the bench of a loop was connected. */
export const BenchConnected = z.strictObject({ by: Author, at: Instant })
export type BenchConnected = z.infer<typeof BenchConnected>
export const ConnectBench = z.strictObject({ connected: z.boolean() })
/** Null while nothing is simulated. */
export const BenchState = z.strictObject({ bench: BenchConnected.nullable() })

/** The device of a loop: which, and by which port it is spoken with. */
export const LoopDevice = z.strictObject({
  portId: z.string().regex(/^[0-9a-f]{16}$/),
  port: z.string().max(120),
  serial: z.string().max(40),
  /** Polling address at which it was found; null where it did not tell. */
  address: z.number().int().min(0).max(63).nullable(),
  /** A stand-in: it answers only while the bench is connected, and all it says is practice. */
  simulated: z.boolean(),
  by: Author,
  at: Instant,
})
export type LoopDevice = z.infer<typeof LoopDevice>
/** The port whose device is the loop’s, with its serial as it was seen; null takes it off. */
export const TieDevice = z.strictObject({
  device: LoopDevice.pick({ portId: true, serial: true }).nullable(),
})
/** What answers in a loop: the bench, its own device, or nothing; then what is read is typed. */
export const answering = (view: {
  readonly bench: BenchConnected | null
  readonly device: LoopDevice | null
}): 'bench' | 'device' | undefined =>
  view.bench
    ? view.device?.simulated
      ? 'device'
      : 'bench'
    : view.device && !view.device.simulated
      ? 'device'
      : undefined

/** A body of a log as it is kept: with the marks that the server gives it. */
export type Kept<Body> = Body & { readonly practice?: boolean | undefined; readonly doneAt?: string | undefined }

/** When it was done, where it was sent later: it waited on a device out of coverage. */
export const doneMark = { doneAt: Instant.optional() }
/** What waited less than this, ms, counts as sent when it was done. */
export const WAITED_ms = 60_000

/** The mark of what was put on record while the bench was connected; absent where that was not recorded. */
export const practiceMark = { practice: z.boolean().optional() }

/** What belongs to practice, or what does not; what is older than the question counts as record. */
export const inWorld = <T extends { readonly practice?: boolean | undefined }>(
  of: readonly T[],
  practising: boolean,
): T[] => of.filter((each) => (each.practice ?? false) === practising)
