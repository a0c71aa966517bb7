// Guided procedures: what the pages send, and what is kept of it.
import { MANIFOLDS, PROCEDURES, STEP_EFFECTS, STEP_KINDS, VALVES, type ProcedureEvent } from '@calm-loop/core/procedure'
import { QUANTITIES } from '@calm-loop/core/quantity'
import { z } from 'zod'
import { filledLine, Id, line } from './primitives.ts'

const figure = z.number().min(-1e12).max(1e12)
const id = z.string().regex(/^[a-z0-9-]{1,60}$/)
const Move = z.strictObject({ valve: z.enum(VALVES), to: z.enum(['open', 'shut']) })

const Command = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('zero-trim') }),
  z.strictObject({ do: z.literal('sensor-trim'), end: z.enum(['lower', 'upper']), value: figure }),
  z.strictObject({ do: z.literal('drive'), mA: figure }),
  z.strictObject({ do: z.literal('release') }),
  z.strictObject({ do: z.literal('current-trim'), at: z.union([z.literal(4), z.literal(20)]), reading: figure }),
  z.strictObject({ do: z.literal('set-range'), lrv: figure, urv: figure }),
  z.strictObject({ do: z.literal('receiver'), low: figure, high: figure }),
  z.strictObject({ do: z.literal('ph-calibrate'), slope_mVperPh: figure, offset_mV: figure }),
  z.strictObject({ do: z.literal('flow-zero') }),
  z.strictObject({ do: z.literal('damping'), seconds: figure }),
  z.strictObject({ do: z.literal('self-test') }),
  z.strictObject({ do: z.literal('store') }),
])

export const HeldSchema = z.strictObject({
  lrv: figure,
  urv: figure,
  receiverLow: figure,
  receiverHigh: figure,
  fixed_mA: figure.nullable(),
  stored: z.boolean(),
  changes: z.number().int().nonnegative(),
  slope_mVperPh: figure.exactOptional(),
  offset_mV: figure.exactOptional(),
  damping_s: figure.exactOptional(),
  health: line(400).exactOptional(),
})

const TermsSchema = z.strictObject({
  tag: line(40),
  unit: line(20),
  quantity: z.enum(QUANTITIES),
  decimals: z.number().int().min(0).max(9),
  lrv: figure,
  urv: figure,
  tolerancePct: figure,
  plausiblePct: figure,
  stability: z.strictObject({
    window_s: figure,
    driftPct: figure,
    noisePct: figure,
    tau_s: figure.exactOptional(),
    stillPct: figure.exactOptional(),
  }),
  sensorLow: figure.exactOptional(),
  sensorHigh: figure.exactOptional(),
  manifold: z.enum(MANIFOLDS),
  controls: line(400),
  tell: line(400),
  cautions: z.array(line(600)).max(12),
  reference: line(120),
  process: line(120),
  lower: figure.exactOptional(),
  upper: figure.exactOptional(),
  rootOf_mbar: figure.exactOptional(),
  faultLow_mA: figure.exactOptional(),
  faultHigh_mA: figure.exactOptional(),
  shunt_Ohm: figure.exactOptional(),
  toLow: figure.exactOptional(),
  toHigh: figure.exactOptional(),
  toUnit: line(20).exactOptional(),
  toDamping_s: figure.exactOptional(),
  receiverUnit: line(20).exactOptional(),
  receiverDecimals: figure.exactOptional(),
  buffers: z.array(line(80)).max(5).exactOptional(),
  recognise: z.literal(true).exactOptional(),
  anyOrder: z.literal(true).exactOptional(),
  ownBuffers: z
    .array(
      z.strictObject({
        name: line(80),
        rows: z
          .array(z.tuple([figure, figure]))
          .min(2)
          .max(60),
      }),
    )
    .max(5)
    .exactOptional(),
  slopePercent: figure.exactOptional(),
})

const orTaken = z.union([figure, z.strictObject({ taken: id })])
const CommandPlanSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('zero-trim') }),
  z.strictObject({ do: z.literal('sensor-trim'), end: z.enum(['lower', 'upper']), value: orTaken }),
  z.strictObject({ do: z.literal('drive'), mA: orTaken }),
  z.strictObject({ do: z.literal('release') }),
  z.strictObject({
    do: z.literal('current-trim'),
    at: z.union([z.literal(4), z.literal(20)]),
    reading: orTaken,
  }),
  z.strictObject({ do: z.literal('set-range'), lrv: orTaken, urv: orTaken }),
  z.strictObject({ do: z.literal('receiver'), low: orTaken, high: orTaken }),
  z.strictObject({ do: z.literal('ph-calibrate'), slope_mVperPh: orTaken, offset_mV: orTaken }),
  z.strictObject({ do: z.literal('flow-zero') }),
  z.strictObject({ do: z.literal('damping'), seconds: orTaken }),
  z.strictObject({ do: z.literal('self-test') }),
  z.strictObject({ do: z.literal('store') }),
])

/** A step as it was composed when its run was begun. */
const StepSchema = z.strictObject({
  id,
  kind: z.enum(STEP_KINDS),
  title: line(300),
  says: line(4000),
  caution: line(1000).exactOptional(),
  asks: line(200).exactOptional(),
  move: Move.exactOptional(),
  target: figure.exactOptional(),
  reads: z
    .strictObject({
      what: z.enum(['digital', 'current', 'receiver', 'electrode']),
      unit: line(20),
      quantity: z.enum(QUANTITIES),
      expected: figure.exactOptional(),
      decimals: z.number().int().min(0).max(9),
    })
    .exactOptional(),
  verifies: z.boolean().exactOptional(),
  of: z.enum(['digital', 'current', 'electrode']).exactOptional(),
  writes: z.boolean().exactOptional(),
  sends: CommandPlanSchema.exactOptional(),
  expectedFrom: id.exactOptional(),
  gives: id.exactOptional(),
  buffer: id.exactOptional(),
  judges: z.array(id).max(20).exactOptional(),
  makes: z.enum(STEP_EFFECTS).exactOptional(),
})

/** An event of a run as it is kept: the core's own shape, read. */
export const ProcedureEventSchema: z.ZodType<ProcedureEvent> = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('begin'),
    procedure: z.enum(PROCEDURES),
    terms: TermsSchema,
    steps: z.array(StepSchema).min(1).max(200).exactOptional(),
  }),
  z.strictObject({
    do: z.literal('pass'),
    step: id,
    words: line(300).exactOptional(),
    typed: line(120).exactOptional(),
    also: z.record(z.string().max(40), figure).exactOptional(),
    steady: z
      .strictObject({
        state: z.enum(['waiting', 'moving', 'noisy', 'stable']),
        driftPct: figure,
        noisePct: figure,
        toGoPct: figure.exactOptional(),
        window_s: figure,
        samples: z.number().int(),
        temp_C: figure.exactOptional(),
        tempDrift_K: figure.exactOptional(),
      })
      .exactOptional(),
    points: z.array(Id).max(200).exactOptional(),
  }),
  z.strictObject({ do: z.literal('again'), step: id, reason: line(300) }),
  z.strictObject({ do: z.literal('valve'), step: id, move: Move }),
  z.strictObject({ do: z.literal('sent'), step: id, command: Command, changesBefore: z.number().int() }),
  z.strictObject({ do: z.literal('answered'), step: id, taken: z.boolean(), says: line(400) }),
  z.strictObject({
    do: z.literal('read'),
    step: id,
    held: HeldSchema,
    seen: line(300).exactOptional(),
    typed: z.tuple([line(60), line(60)]).exactOptional(),
  }),
  z.strictObject({ do: z.literal('cancel'), reason: line(300) }),
  z.strictObject({ do: z.literal('undone'), undo: id, words: line(300) }),
])

/** What is wanted of a procedure when it is begun; each figure as typed, with its unit. */
export const ProcedureChoices = z.strictObject({
  lower: line(60).optional(),
  upper: line(60).optional(),
  low: line(60).optional(),
  high: line(60).optional(),
  buffers: z.array(line(80)).max(5).optional(),
  damping: line(60).optional(),
})
export type ProcedureChoices = z.infer<typeof ProcedureChoices>

/** The site's limits for trims. */
export const TrimLimits = z.strictObject({
  /** A stage is adjusted when its error is above this share of the tolerance, %. */
  adjustAbovePct: z.number().gt(0).max(100),
  /** A correction above this stops a procedure, % of span. */
  plausiblePct: z.number().gt(0).max(50),
  /** Steady: over this window, s, the fitted line changes and the readings scatter by no more than these, % of span. */
  window_s: z.number().min(2).max(60),
  driftPct: z.number().gt(0).max(10),
  noisePct: z.number().gt(0).max(10),
})
export type TrimLimits = z.infer<typeof TrimLimits>
export const USUAL_TRIM_LIMITS: TrimLimits = {
  adjustAbovePct: 70,
  plausiblePct: 3,
  window_s: 4,
  driftPct: 0.1,
  noisePct: 0.0625,
}

/**
 * Marks of what was done by hand, where nothing answered: it is told to no device when it comes, whatever answers by
 * then; and it is refused where the run went on meanwhile from another entry than the one it followed.
 */
const hand = { byHand: z.literal(true).optional(), after: Id.optional() }

/** What a page asks for. The server adds what only it can know: terms, steadiness, what the device holds. */
export const DoProcedure = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('begin'),
    procedure: z.enum(PROCEDURES),
    choices: ProcedureChoices,
    ...hand,
    /** The entries and the limits that it was begun by, out of coverage: others would make it another run. */
    on: z.strictObject({ version: Id, revision: z.number().int().min(0), limits: TrimLimits }).optional(),
  }),
  z.strictObject({
    do: z.literal('pass'),
    step: id,
    words: line(300).optional(),
    typed: line(120).optional(),
    ...hand,
  }),
  z.strictObject({ do: z.literal('again'), step: id, reason: filledLine(300), ...hand }),
  z.strictObject({ do: z.literal('valve'), step: id, move: Move, ...hand }),
  z.strictObject({ do: z.literal('send'), step: id, ...hand }),
  z.strictObject({
    do: z.literal('read'),
    step: id,
    /** Without a link: what the device shows, in words, and the figures that it shows of what was written. */
    seen: filledLine(300).optional(),
    typed: z.tuple([line(60), line(60)]).optional(),
    ...hand,
  }),
  z.strictObject({ do: z.literal('cancel'), reason: filledLine(300), ...hand }),
  z.strictObject({ do: z.literal('undone'), undo: id, words: filledLine(300), ...hand }),
])
export type DoProcedure = z.infer<typeof DoProcedure>

/** The transmitter behind the link, as it says that it stands. */
export const TransmitterView = z.strictObject({
  held: HeldSchema,
  cases: z.array(z.string().max(40)),
  practice: z.string().max(40),
  log: z.array(z.strictObject({ at: z.string(), what: z.string() })),
})
export type TransmitterView = z.infer<typeof TransmitterView>
/** What is done at the bench itself, not told to the device. */
export const CommandBench = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('practice'), case: z.string().max(40) }),
  z.strictObject({ do: z.literal('apply'), value: figure }),
  z.strictObject({ do: z.literal('power-cycle') }),
  z.strictObject({ do: z.literal('protect'), on: z.boolean() }),
  /** The record is about to change: the device goes on holding the range that it holds now. */
  z.strictObject({ do: z.literal('keep') }),
])
export type CommandBench = z.infer<typeof CommandBench>
