// A loop, its versions, its checks: what crosses the wire and what stands in a bundle.
import { CHECK_RULE, CONFORMITY_RULES } from '@calm-loop/core/check'
import { z } from 'zod'
import { CountEntry, EdgeTrain, TrainHead } from './counting.ts'
import { WorkEntry } from './work-log.ts'
import { GearUsed } from './gear.ts'
import { Signature } from './seals.ts'
import { TAG } from '@calm-loop/core/words'
import { WireEntry } from './wire-log.ts'
import { BenchConnected, LoopDevice } from './worlds.ts'
import { Author, Day, filledLine, Id, Instant, line, PointEntries, ReadEntry } from './primitives.ts'

export const Tag = z.string().trim().regex(TAG, 'letters and a number, such as LT-112')

export const LoopState = z.enum([
  'half-entered',
  'stopped',
  'ready',
  'in-check',
  'awaiting-review',
  'passed',
  'failed',
  'not-fit',
  'seal-broken',
])
export type LoopState = z.infer<typeof LoopState>

export const loopStateWords: Record<LoopState, string> = {
  'half-entered': 'half entered',
  stopped: 'a stop to clear',
  ready: 'ready to check',
  'in-check': 'check under way',
  'awaiting-review': 'awaits review',
  passed: 'in tolerance',
  failed: 'out of tolerance',
  'not-fit': 'not fit for use',
  'seal-broken': 'seal broken',
}

export const LoopIdentity = z.strictObject({
  tag: Tag,
  service: filledLine(120),
  area: filledLine(80),
  kind: z.string().max(60),
})
export type LoopIdentity = z.infer<typeof LoopIdentity>

export const LoopRow = LoopIdentity.extend({
  id: Id,
  state: LoopState,
  nextDue: Day.nullable(),
  /** Worst error of the last signed check, % of span. */
  lastErrorPct: z.number().nullable(),
  tolerancePct: z.number().nullable(),
})
export type LoopRow = z.infer<typeof LoopRow>

/** A kind of point as lists name it. */
export const KindRow = z.strictObject({
  id: z.string().max(60),
  name: line(120),
  summary: line(300),
  family: z.enum(['current', 'switch']),
})
export type KindRow = z.infer<typeof KindRow>

export const LoopQuery = z.object({
  q: z.string().max(80).optional(),
  area: z.string().max(80).optional(),
  kind: z.string().max(60).optional(),
  state: z.union([LoopState, z.literal('overdue')]).optional(),
  /** Tag after which the page begins. */
  after: z.string().max(40).optional(),
  limit: z.coerce.number().int().min(1).max(200).optional(),
})
export const LoopPage = z.strictObject({
  loops: z.array(LoopRow),
  next: z.string().nullable(),
  areas: z.array(z.string()),
})
export type LoopPage = z.infer<typeof LoopPage>

export const LABEL_SHEETS = ['single', '24'] as const
/** Labels on one sheet, three by eight. */
export const LABELS_A_SHEET = 24
export const MOST_LABELS = 960
/** Which loops have labels made, as the register is asked, or one; and on what. */
export const LabelQuery = LoopQuery.omit({ after: true, limit: true }).extend({
  loopId: Id.optional(),
  /** Labels one by one, each on its own page of 70 × 37 mm, or A4 sheets of 24. */
  sheet: z.enum(LABEL_SHEETS).default('24'),
  /** Place on the first sheet at which it begins, where some are used already. */
  from: z.coerce.number().int().min(1).max(LABELS_A_SHEET).default(1),
})

export const Version = z.strictObject({
  id: Id,
  number: z.number().int().positive(),
  parentId: Id.nullable(),
  /** Counts the saves of a version that is still open. */
  revision: z.number().int().nonnegative(),
  entries: PointEntries,
  /** Version of the kind that they were entered under; absent: the first. */
  kindVersion: z.number().int().min(2).max(1000).optional(),
  author: Author,
  startedAt: Instant,
  savedAt: Instant,
  /** Why it was changed; empty while it is still open. */
  reason: line(300),
  /** Closed: no more saves; null while its author is still typing. */
  sealedAt: Instant.nullable(),
})
export type Version = z.infer<typeof Version>

/** Saving what has been entered. The same version may be saved again while it is open and newest. */
export const SaveVersion = z.strictObject({
  /** The version this one was made from; null for a loop's first. */
  parentId: Id.nullable(),
  /** How far the parent had been saved when this one was made from it; null without a parent. */
  parentRevision: z.number().int().nonnegative().nullable(),
  revision: z.number().int().nonnegative(),
  entries: PointEntries,
  /** Version of the kind that they are entered under; absent: the first. */
  kindVersion: z.number().int().min(2).max(1000).optional(),
  reason: line(300),
  /** Close it, with its reason. */
  seal: z.boolean(),
})
export type SaveVersion = z.infer<typeof SaveVersion>

export const Direction = z.enum(['up', 'down'])

export const PlannedPoint = z.strictObject({
  index: z.number().int().nonnegative(),
  percent: z.number().min(-10).max(110),
  direction: Direction,
})

export const Gate = z.strictObject({
  id: Id,
  gate: z.enum(['loop-in-manual', 'loop-released']),
  /** What was confirmed, in the words that stood on the page. */
  words: filledLine(300),
  /** Who in operations was told. */
  told: filledLine(120),
  by: Author,
  at: Instant,
})
export type Gate = z.infer<typeof Gate>
export const ConfirmGate = Gate.pick({ gate: true, words: true, told: true })

/** Typed by the person; taken live over a link from a real device; or from the simulated one at the bench. */
export const Origin = z.enum(['typed', 'live', 'simulated'])
export type Origin = z.infer<typeof Origin>
export const Origins = z.record(z.string().max(40), Origin)
export type Origins = z.infer<typeof Origins>

/** How the meter stands in the circuit of a loop current. */
export const METER_STANDS = ['in-series', 'resistor-in-lead', 'across-shunt', 'test-terminals', 'clamp'] as const
export const MeterStand = z.enum(METER_STANDS)
export type MeterStand = z.infer<typeof MeterStand>
export const meterStandWords: Record<MeterStand, string> = {
  'in-series': 'meter in series',
  'resistor-in-lead': 'volts across a resistor put in the lead',
  'across-shunt': 'volts across the receiver’s resistor',
  'test-terminals': 'meter at the test terminals',
  clamp: 'clamp round one core',
}
/** Places where the current is read as volts across a resistor. */
export const readsVolts = (stand: MeterStand | undefined): boolean =>
  stand === 'resistor-in-lead' || stand === 'across-shunt'

/** What is at hand for a check: where the standard stands, what is read, and with which piece of kit. */
export const CheckReads = z.strictObject({
  /** Knot at which the true input is given, and with which piece; null for one that is not in the kit. */
  standardAt: line(40),
  standardGear: Id.nullable(),
  reads: z
    .array(
      z.strictObject({
        at: line(40),
        gear: Id.nullable(),
        stand: MeterStand.exactOptional(),
        /** A display that shows per cent of its range. */
        shows: z.literal('%').exactOptional(),
      }),
    )
    .min(1)
    .max(12),
  /** Of the volts that a current is read by, with its tolerance. */
  resistor: z.strictObject({ ohm: ReadEntry, tolerancePct: z.number().nonnegative().max(100) }).exactOptional(),
  /** Where the kit was used, °C. */
  ambient_C: z.number().min(-90).max(90).exactOptional(),
})
export type CheckReads = z.infer<typeof CheckReads>
/** The terms that a check is judged by, as they stood when it was begun. */
export const CheckTerms = CheckReads.extend({
  rule: z.enum(CONFORMITY_RULES),
  /** ± % of span of what the controller shows. */
  controllerTolerancePct: z.number().positive(),
})
export type CheckTerms = z.infer<typeof CheckTerms>

export const Reading = z.strictObject({
  id: Id,
  seq: z.number().int().positive(),
  pointIndex: z.number().int().nonnegative(),
  percent: z.number(),
  direction: Direction,
  /** True input reached. */
  applied: ReadEntry,
  /** What was read, by place. Of a switch `controller` is always there. */
  reads: z.record(z.string().max(40), ReadEntry),
  source: z.enum(['live', 'typed']),
  /** The reading that this one corrects, and why. */
  supersedes: Id.nullable(),
  reason: line(300),
  by: Author,
  takenAt: Instant,
  savedAt: Instant,
  /** When the server's link gave the live figures; absent for a typed reading. */
  sampledAt: Instant.optional(),
  /** Where each figure came from, by knot, the true input as `applied`; absent where that was not recorded. */
  origins: Origins.optional(),
})
export type Reading = z.infer<typeof Reading>
export const TakeReading = Reading.pick({
  pointIndex: true,
  applied: true,
  reads: true,
  source: true,
  supersedes: true,
  reason: true,
  takenAt: true,
})
  .extend({
    /** Token of the live sample that the figures were taken from; a reading is only live with one. */
    sample: z.string().max(2000).optional(),
  })
  .refine((r) => r.supersedes === null || r.reason.trim() !== '', 'a correction needs its reason')
export type TakeReading = z.infer<typeof TakeReading>

export const Sign = z.strictObject({
  role: Signature.shape.role,
  statement: filledLine(400),
  password: z.string().max(200),
})

export type Sign = z.infer<typeof Sign>

export const CheckPhase = z.enum(['as-found', 'as-left'])

export const Check = z.strictObject({
  id: Id,
  versionId: Id,
  phase: CheckPhase,
  /** How it is judged: absent for the rule of release 0.1; see `CheckRule` of the core. */
  rule: z.union([z.literal(2), z.literal(CHECK_RULE)]).optional(),
  /** Of rule 3. */
  terms: CheckTerms.optional(),
  /** Whether it was begun at the bench, and is no record; absent for what is older than that question. */
  practice: z.boolean().optional(),
  /** ± % of span. */
  tolerancePct: z.number().positive(),
  /** Process values at 4 and 20 mA, in `unit`. */
  range: z.strictObject({ lrv: z.number(), urv: z.number(), unit: z.string().max(20) }),
  points: z.array(PlannedPoint).min(1).max(60),
  gear: z.array(GearUsed).max(20),
  ambient: line(120),
  startedBy: Author,
  startedAt: Instant,
  gates: z.array(Gate),
  readings: z.array(Reading),
  signatures: z.array(Signature),
  /** When and by whom it was brought in from elsewhere: it keeps this mark for good. */
  imported: z.strictObject({ at: Instant, by: Author.nullable() }).optional(),
})
export type Check = z.infer<typeof Check>
export const StartCheck = z.strictObject({
  phase: CheckPhase,
  percents: z.array(z.number().min(0).max(100)).min(1).max(30),
  gearIds: z.array(Id).max(20),
  ambient: line(120),
  /** Loop in manual, operations told: confirmed before anything is moved. */
  told: filledLine(120),
  gateId: Id,
  /** The gate's words as they stood on the page. */
  words: filledLine(300),
  /** Why equipment is used that is past its due date; needed where some is. */
  expiredReason: line(300).default(''),
  /** Of a loop current; absent: current and controller read, the input given at the process, no kit said. */
  reads: CheckReads.optional(),
  /** The entries that it was begun by, out of coverage: others would make it another check. */
  on: z.strictObject({ version: Id, revision: z.number().int().min(0) }).optional(),
})
export type StartCheck = z.infer<typeof StartCheck>

/** A whole loop folder. */
export const Folder = z.strictObject({
  loop: LoopIdentity.extend({ id: Id, createdAt: Instant }),
  versions: z.array(Version),
  checks: z.array(Check),
  /** Gates and readings of the wiring work, in their order. */
  wireLog: z.array(WireEntry).default([]),
  /** Stops and rejected pieces of a discrete point. */
  countLog: z.array(CountEntry).default([]),
  /** Work at the point, in its order. */
  workLog: z.array(WorkEntry).default([]),
})
export type Folder = z.infer<typeof Folder>

/** A folder with every change that was counted. */
export const WholeFolder = Folder.extend({ edges: z.array(EdgeTrain).default([]) })
export type WholeFolder = z.infer<typeof WholeFolder>

/** A folder as the page opens it: what was counted without the changes themselves. */
export const FolderView = Folder.extend({
  row: LoopRow,
  trains: z.array(TrainHead).default([]),
  /** Since when and by whose hand the bench is connected; null while nothing is simulated. */
  bench: BenchConnected.nullable().default(null),
  /** Its device on a port; null where none is tied to it. */
  device: LoopDevice.nullable().default(null),
})
export type FolderView = z.infer<typeof FolderView>

export const BUNDLE_FORMAT = 'calm-loop/folder'
export const BUNDLE_VERSION = 2
export const Bundle = z.strictObject({
  format: z.literal(BUNDLE_FORMAT),
  /** 1 knew neither seals nor marks of import; everything else is the same. */
  version: z.union([z.literal(1), z.literal(BUNDLE_VERSION)]),
  folder: WholeFolder,
})
export type Bundle = z.infer<typeof Bundle>
