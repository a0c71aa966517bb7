// Live readings from a device link: what the stream carries.
import { z } from 'zod'

export const LinkDescription = z.strictObject({
  driver: z.literal('stand-in'),
  /** Whether it shows a current or a switch. */
  family: z.enum(['current', 'switch']),
  /** Process knot's unit, and how far the process can be moved. */
  unit: z.string(),
  lowest: z.number(),
  highest: z.number(),
})
export const LiveReading = z.strictObject({
  t_s: z.number(),
  reference: z.number(),
  wanted: z.number(),
  moving: z.boolean(),
  /** By knot id, each in its knot's unit. */
  knots: z.record(z.string(), z.number()),
  /** A switch: the server's clock, ms since 1970; whether the machine moves by itself; changes of the controller's state since the last one, each with where the process was. */
  at_ms: z.number().optional(),
  running: z.boolean().optional(),
  edges: z.array(z.strictObject({ t_ms: z.number().int(), state: z.boolean(), at: z.number() })).optional(),
})
export type LiveReading = z.infer<typeof LiveReading>
/** Moves the stand-in's process, or lets a discrete point's machine run by itself. */
export const MoveProcess = z.union([z.strictObject({ wanted: z.number() }), z.strictObject({ running: z.boolean() })])
export type MoveProcess = z.infer<typeof MoveProcess>

/** States of many discrete points at one moment. */
export const PointStates = z.strictObject({
  at_ms: z.number().int(),
  /** In the order of `watchPoints`: 1 true, 0 false, -1 not known. */
  states: z.array(z.number().int().min(-1).max(1)),
  /** Rises since the stream was opened, in the same order. */
  counts: z.array(z.number().int().nonnegative()),
})
export type PointStates = z.infer<typeof PointStates>
export const WatchedPoint = z.strictObject({
  loopId: z.uuid(),
  tag: z.string(),
  service: z.string(),
  name: z.string(),
  meansTrue: z.string(),
  meansFalse: z.string(),
  /** Why it cannot be watched; empty when it can. */
  says: z.string(),
})
export type WatchedPoint = z.infer<typeof WatchedPoint>

export const LoopEvent = z.strictObject({
  loopId: z.uuid(),
  what: z.enum(['version', 'check', 'reading', 'gate', 'signature', 'wire-log', 'count']),
  id: z.uuid(),
  by: z.string(),
})
export type LoopEvent = z.infer<typeof LoopEvent>
