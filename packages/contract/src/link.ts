// Live readings from a device link: what the stream carries.
import { z } from 'zod'

export const LinkDescription = z.strictObject({
  driver: z.literal('stand-in'),
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
})
export type LiveReading = z.infer<typeof LiveReading>
export const MoveProcess = z.strictObject({ wanted: z.number() })

export const LoopEvent = z.strictObject({
  loopId: z.uuid(),
  what: z.enum(['version', 'check', 'reading', 'gate', 'signature', 'wire-log']),
  id: z.uuid(),
  by: z.string(),
})
export type LoopEvent = z.infer<typeof LoopEvent>
