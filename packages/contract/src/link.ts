// Live readings from a device link: what the stream carries.
import { z } from 'zod'

export const LinkDescription = z.strictObject({
  driver: z.enum(['stand-in', 'hart']),
  /** Whether it shows a current or a switch. */
  family: z.enum(['current', 'switch']),
  /** Process knot's unit, and how far the process can be moved. */
  unit: z.string(),
  lowest: z.number(),
  highest: z.number(),
})
export type LinkDescription = z.infer<typeof LinkDescription>
const name = z.string().max(40)
/** A simulated flow meter as it stands: its phase, what it shows beside its flow, what it holds. */
export const MeterLive = z.strictObject({
  phase: z.enum(['off', 'searching', 'running', 'no-signal', 'zeroing', 'health']),
  phase_s: z.number(),
  /** How long the phase lasts; 0 when it has no end of its own. */
  lasts_s: z.number(),
  practice: name,
  tells: z
    .array(
      z.strictObject({ id: name, label: z.string(), value: z.number(), unit: z.string(), decimals: z.number().int() }),
    )
    .readonly(),
  zero: z.number(),
  zeroed: z.strictObject({ before: z.number(), after: z.number(), spread: z.number() }).optional(),
  mount: z.strictObject({ spacing_mm: z.number().nullable(), swapped: z.boolean() }),
  gas: z.strictObject({ pressure_kPa: z.number(), temp_C: z.number() }).optional(),
  /** Reported value; null while it cannot measure. */
  digital: z.number().nullable(),
})
export type MeterLive = z.infer<typeof MeterLive>
/** What a meter holds, and the practice cases there are. */
export const MeterHeld = z.strictObject({
  held: z.record(z.string().max(40), z.string().max(400)),
  cases: z.array(name),
})
export type MeterHeld = z.infer<typeof MeterHeld>

/** The simulated transmitter at the bench. */
export const TransmitterLive = z.strictObject({
  practice: name,
  manifold: z.record(z.string().max(20), z.enum(['open', 'shut'])),
  /** Applied at the bench; null while the process feeds the sensor. */
  bench: z.strictObject({ value: z.number(), wanted: z.number() }).nullable(),
  fixed_mA: z.number().nullable(),
  protected: z.boolean(),
  changes: z.number().int(),
  electrode_mV: z.number().optional(),
  electrode_C: z.number().optional(),
})
export type TransmitterLive = z.infer<typeof TransmitterLive>
/** Twenty times a second, for a trend: time and the witnesses in per cent of span; the electrode in mV and °C. */
export const TrendSample = z.strictObject({
  t_s: z.number(),
  digital: z.number().nullable(),
  current: z.number().nullable(),
  electrode: z.number().nullable(),
  temperature: z.number().exactOptional(),
})
export type TrendSample = z.infer<typeof TrendSample>

export const LiveReading = z.strictObject({
  t_s: z.number(),
  /** Of a simulated process: where it stands, where it is to come to rest. A real one nobody knows. */
  reference: z.number().optional(),
  wanted: z.number().optional(),
  moving: z.boolean().optional(),
  /** By knot id, each in its knot's unit. */
  knots: z.record(z.string(), z.number()),
  /**
   * A switch: the server's clock, ms since 1970; whether the machine moves by itself; changes of the controller's
   * state since the last one, each with where the process was.
   */
  at_ms: z.number().optional(),
  running: z.boolean().optional(),
  edges: z
    .array(z.strictObject({ t_ms: z.number().int(), state: z.boolean(), at: z.number() }))
    .readonly()
    .optional(),
  /** Where no current carries the value: what it would be on 4–20 mA, so that steadiness has one measure. */
  signal_mA: z.number().optional(),
  meter: MeterLive.optional(),
  transmitter: TransmitterLive.optional(),
  /** A device over its link: the loop current as it believes it, which no meter has seen, and its flags. */
  believes: z.strictObject({ mA: z.number().nullable(), flags: z.array(z.string().max(40)) }).optional(),
  /** Proves to the server, within its time, that it gave these figures. */
  token: z.string().optional(),
})
export type LiveReading = z.infer<typeof LiveReading>
/** Moves the stand-in's process, or lets a discrete point's machine run by itself. */
export const MoveProcess = z.union([z.strictObject({ wanted: z.number() }), z.strictObject({ running: z.boolean() })])
export const CommandMeter = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('start') }),
  z.strictObject({ do: z.literal('practice'), case: name }),
  z.strictObject({ do: z.literal('mount'), spacing_mm: z.number().positive().max(20_000), swapped: z.boolean() }),
  z.strictObject({ do: z.literal('zero'), length_s: z.number().min(2).max(300) }),
  z.strictObject({
    do: z.literal('write'),
    values: z.record(z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,39}$/), z.string().max(400)),
  }),
  z.strictObject({ do: z.literal('health'), output: z.enum(['hold', 'fault']) }),
  z.strictObject({
    do: z.literal('gas'),
    pressure_kPa: z.number().positive().max(100_000),
    temp_C: z.number().min(-100).max(200),
  }),
  z.strictObject({ do: z.literal('process') }),
])
export type CommandMeter = z.infer<typeof CommandMeter>
export const Revealed = z.strictObject({ case: name, reveals: z.string() })
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
  what: z.enum([
    'version',
    'check',
    'reading',
    'gate',
    'signature',
    'wire-log',
    'count',
    'work',
    'clash',
    'bench',
    'device',
  ]),
  id: z.uuid(),
  by: z.string(),
  /** Of a clash: what happened, in words. */
  says: z.string().optional(),
})
export type LoopEvent = z.infer<typeof LoopEvent>
