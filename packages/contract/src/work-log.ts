// The log of work at a point: steps of run sheets, sound speeds judged, zeroes, health checks, read-backs, surveys.
// Nothing in it is ever changed.
import { z } from 'zod'
import { Author, EpochMs, filledLine, Id, Instant, line, ReadEntry } from './primitives.ts'
import { doneMark, practiceMark } from './worlds.ts'
import { ProcedureEventSchema } from './procedures.ts'
import { GearUsed } from './gear.ts'
import { Digest, sealMarks } from './seals.ts'
import { sure } from '@calm-loop/core/sure'

/** Most rows of a survey that are sent at once. */
export const SURVEY_CHUNK = 2000
/** Longest survey, h, and most rows of one. */
export const SURVEY_HOURS = 31 * 24
export const SURVEY_ROWS = 1_000_000
/** Rows that a page is shown of a survey that runs. */
export const SURVEY_SHOWN = 600
const small = z.number().min(-1e12).max(1e12)
const name = z.string().regex(/^[a-z0-9-]{1,40}$/)

const Step = z.strictObject({
  what: z.literal('step'),
  sheet: name,
  /** Made when the first step of a run is confirmed. */
  run: Id,
  step: name,
  /** The step as it stood on the page. */
  title: filledLine(200),
  value: ReadEntry.nullable(),
  words: line(300),
  /** What was marked as being the case, of what the step offers; absent where it offers nothing. */
  marked: z.array(name).max(60).optional(),
})
const SoundSpeed = z.strictObject({
  what: z.literal('sound-speed'),
  expected_mps: z.number().positive(),
  measured_mps: z.number().positive(),
  grade: z.enum(['good', 'doubtful', 'wrong']),
  /** The causes as ranked, each with the size it would have to have. */
  causes: z.array(line(200)).max(20),
  /** What was decided. */
  note: line(300),
})
const Zero = z.strictObject({
  what: z.literal('zero'),
  /** In the meter's own measure. */
  unit: z.enum(['ns', 'mbar', 'K']),
  before: small,
  after: small,
  spread: small,
  limit: small.nullable(),
  note: line(300),
})
const Health = z.strictObject({
  what: z.literal('health'),
  left_pct: small,
  right_pct: small,
  /** Whether it was kept as the reference that later ones are held against. */
  reference: z.boolean(),
  output: z.enum(['hold', 'fault']),
  /** What of the configuration has changed since the last check. */
  changed: z.array(line(200)).max(40),
  /** The set-up as it stood, by key: what the next check is held against; absent in what is older. */
  setup: z.record(z.string().max(60), line(400)).optional(),
})
/** A line of the set-up as entered, and as the device showed it: typed by the person, or read over a link. */
const ReadBackLine = z.strictObject({ key: line(60), label: line(200), text: line(400), held: line(400) })
export type ReadBackLine = z.infer<typeof ReadBackLine>
const ReadBack = z.strictObject({
  what: z.literal('read-back'),
  lines: z.array(ReadBackLine).max(80),
})
const SurveyBegun = z.strictObject({
  what: z.literal('survey'),
  /** Seconds between two rows. */
  interval_s: z.number().min(0.2).max(86_400),
  unit: line(20),
  note: line(200),
  /** How long it is to last, h; one of before, logged by a page, has none. */
  hours: z.number().positive().max(SURVEY_HOURS).optional(),
})
/** What a survey is begun with: the server logs it, whoever looks, until it is ended or its hours are over. */
export const BeginSurvey = SurveyBegun.pick({ interval_s: true, note: true, hours: true }).required()
export type BeginSurvey = z.infer<typeof BeginSurvey>
/** Time in ms since 1970, flow, total, sound speed in m/s, signal in %; null where the meter did not show it. */
export const SurveyRow = z.tuple([EpochMs, small.nullable(), small, small.nullable(), small.nullable()])
export type SurveyRow = z.infer<typeof SurveyRow>
const SurveyRows = z.strictObject({
  what: z.literal('survey-rows'),
  survey: Id,
  rows: z.array(SurveyRow).min(1).max(SURVEY_CHUNK),
})
const SurveyEnded = z.strictObject({
  what: z.literal('survey-end'),
  survey: Id,
  total: small,
  rows: z.number().int().nonnegative(),
  /** Why it ended, where nobody ended it. */
  why: line(200).optional(),
})
/** A survey as it stands: how much there is, and its newest rows. */
export const SurveyNow = z.strictObject({
  running: z.boolean(),
  rows: z.number().int().nonnegative(),
  total: small,
  recent: z.array(SurveyRow).max(SURVEY_SHOWN),
  /** Why no flow comes at the moment; empty while it does. */
  problem: z.string(),
})
export type SurveyNow = z.infer<typeof SurveyNow>

/** One point of the chain, every witness read at the same moment; what was not read is null. */
const TrimPoint = z.strictObject({
  what: z.literal('trim-point'),
  /** Points taken one after another make a set. */
  set: Id,
  phase: z.enum(['as-found', 'as-left']),
  applied: ReadEntry,
  digital: ReadEntry.nullable(),
  /** The meter, as a current or as volts across the shunt. */
  current: ReadEntry.nullable(),
  receiver: ReadEntry.nullable(),
  source: z.enum(['bench', 'typed']),
})
/** The range that the device itself shows, typed: what it makes 4 and 20 mA of. */
const DeviceRange = z.strictObject({ what: z.literal('device-range'), lrv: ReadEntry, urv: ReadEntry })
const TrimPointWithdrawn = z.strictObject({
  what: z.literal('trim-point-withdrawn'),
  point: Id,
  reason: filledLine(200),
})
/** Changing one entry has put others in doubt. */
const ReEnter = z.strictObject({
  what: z.literal('re-enter'),
  field: line(60),
  from: line(400),
  to: line(400),
  keys: z.array(line(60)).min(1).max(60),
})
/** One of them was looked at and stands. */
const ReEntered = z.strictObject({ what: z.literal('re-entered'), reset: Id, key: line(60), typed: line(400) })
/** A practice case was begun at the bench. */
const BenchCase = z.strictObject({ what: z.literal('bench'), case: line(40) })
/** An event of a guided procedure; a run is the list of its events. */
const ProcedureStep = z.strictObject({ what: z.literal('procedure'), run: Id, event: ProcedureEventSchema })
/** Steps of a run done out of coverage that do not stand, as somebody had gone on first; and what was put right. */
const RunAside = z.strictObject({
  what: z.literal('run-aside'),
  run: Id,
  steps: z.array(line(300)).min(1).max(200),
  putRight: z.array(line(300)).max(40),
  words: filledLine(600),
})
/** What was measured with a loop that was found out of tolerance, since the last check that passed. */
const MeasuredSince = z.strictObject({ what: z.literal('measured-since'), check: Id, answer: filledLine(600) })
/** Another interval between checks, accepted by someone who may. */
const IntervalAccepted = z.strictObject({
  what: z.literal('interval'),
  days: z.number().int().min(1).max(3650),
  /** The interval as it was entered when this was decided; another entered since takes its place. */
  instead: line(40),
  /** What the record suggested then. */
  suggested_days: z.number().int().positive(),
  reason: filledLine(400),
})
/** A loop left out of tolerance may be used all the same. */
const Fit = z.strictObject({ what: z.literal('fit'), check: Id, reason: filledLine(400) })
/** A name under a verification, a run of a sheet: with what it was done, and where. */
const RunSigned = z.strictObject({
  what: z.literal('run-signed'),
  run: Id,
  sheet: name,
  role: z.enum(['performed', 'reviewed']),
  statement: filledLine(400),
  /** SHA-256 of the canonical form of what was signed. */
  digest: Digest,
  /** The entries that it is judged by. */
  version: Id,
  gear: z.array(GearUsed).max(20),
  ambient: line(120),
})
/** Decided at another installation: kept as it came, and not followed here. */
const elsewhere = { elsewhere: z.boolean().optional() }

const parts = [
  Step,
  SoundSpeed,
  Zero,
  Health,
  ReadBack,
  TrimPoint,
  TrimPointWithdrawn,
  DeviceRange,
  ReEnter,
  ReEntered,
  RunAside,
  MeasuredSince,
] as const
const own = [
  ...parts,
  // Of a survey, which the server logs.
  SurveyBegun,
  SurveyRows,
  SurveyEnded,
  BenchCase,
  ProcedureStep,
  IntervalAccepted.extend(elsewhere),
  Fit.extend(elsewhere),
  RunSigned.extend(elsewhere),
] as const
const one = { id: Id, by: Author, at: Instant, ...practiceMark, ...doneMark }
export const WorkEntry = z.discriminatedUnion('what', [
  Step.extend(one),
  SoundSpeed.extend(one),
  Zero.extend(one),
  Health.extend(one),
  ReadBack.extend(one),
  SurveyBegun.extend(one),
  SurveyRows.extend(one),
  SurveyEnded.extend(one),
  TrimPoint.extend(one),
  TrimPointWithdrawn.extend(one),
  DeviceRange.extend(one),
  ReEnter.extend(one),
  ReEntered.extend(one),
  BenchCase.extend(one),
  ProcedureStep.extend(one),
  RunAside.extend(one),
  MeasuredSince.extend(one),
  IntervalAccepted.extend(elsewhere).extend(one),
  Fit.extend(elsewhere).extend(one),
  RunSigned.extend({ ...elsewhere, ...sealMarks }).extend(one),
])
export type WorkEntry = z.infer<typeof WorkEntry>
export const AddWorkEntry = z.discriminatedUnion('what', parts)
export type AddWorkEntry = z.infer<typeof AddWorkEntry>
/** What is kept of an entry. Runs, practice cases, decisions and signatures are put there by the server only. */
export const WorkBody = z.discriminatedUnion('what', own)
export type WorkBody = z.infer<typeof WorkBody>
/** What someone with the duty decides of a loop, and their password. */
export const Decide = z.strictObject({
  decision: z.discriminatedUnion('what', [IntervalAccepted, Fit]),
  password: z.string().max(200),
})
export type Decide = z.infer<typeof Decide>
/** What is asked for under a verification; kit and surroundings count with the first signature. */
export const SignRun = RunSigned.pick({ role: true, statement: true, ambient: true }).extend({
  password: z.string().max(200),
  gearIds: z.array(Id).max(20),
  /** Why equipment is used that is past its due date; needed where some is. */
  expiredReason: line(300).default(''),
})
export type SignRun = z.infer<typeof SignRun>
export type WorkOf<W extends WorkEntry['what']> = Extract<WorkEntry, { what: W }>

/** Entries of one sort, in order. */
export const workOf = <W extends WorkEntry['what']>(log: readonly WorkEntry[], what: W): WorkOf<W>[] =>
  log.filter((e): e is WorkOf<W> => e.what === what)

/** Points of the newest set of a phase, without those withdrawn, in order. */
export function trimSet(log: readonly WorkEntry[], phase: 'as-found' | 'as-left'): WorkOf<'trim-point'>[] {
  const gone = new Set(workOf(log, 'trim-point-withdrawn').map((w) => w.point))
  const points = workOf(log, 'trim-point').filter((p) => p.phase === phase && !gone.has(p.id))
  const set = points.at(-1)?.set
  return points.filter((p) => p.set === set)
}
/** As found that still counts: nothing was left since. */
export function asFoundStanding(log: readonly WorkEntry[]): WorkOf<'trim-point'>[] {
  const found = trimSet(log, 'as-found')
  const place = (id: string | undefined) => log.findIndex((e) => e.id === id)
  const left = trimSet(log, 'as-left').at(-1)
  return found.length && (!left || place(sure(found.at(-1)).id) > place(left.id)) ? found : []
}
/** Events of each run of a guided procedure, oldest run first. */
export function runsOf(log: readonly WorkEntry[]): { run: string; entries: WorkOf<'procedure'>[] }[] {
  const runs = new Map<string, WorkOf<'procedure'>[]>()
  for (const e of workOf(log, 'procedure')) runs.set(e.run, [...(runs.get(e.run) ?? []), e])
  return [...runs].map(([run, entries]) => ({ run, entries }))
}

/** A row of the site's own tables: what it fills in when it is chosen. */
export const SiteRow = z.strictObject({
  id: Id,
  table: z.enum(['material', 'liner', 'liquid', 'gas', 'pair', 'dielectric', 'fill', 'buffer']),
  name: filledLine(80),
  /** Entry key to what is typed there. */
  fills: z
    .record(z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,39}$/), line(400))
    .refine((f) => Object.keys(f).length > 0, 'fills nothing'),
  /** Where its figures come from. */
  source: filledLine(200),
  /** The row that it stands in place of: what was kept before stays on record. */
  follows: Id.optional(),
  by: Author,
  at: Instant,
})
export type SiteRow = z.infer<typeof SiteRow>
export const AddSiteRow = SiteRow.omit({ id: true, by: true, at: true })
export type AddSiteRow = z.infer<typeof AddSiteRow>

/** Which loops use a row: one of the site's own with all before it, or a built-in one by the choice that names it. */
export const TableUse = z.strictObject({
  of: z.union([
    z.strictObject({ rowId: Id }),
    z.strictObject({ choice: z.string().max(40), value: filledLine(80), kinds: z.array(z.string().max(60)).max(20) }),
  ]),
  /** Figures that would stand there instead: what they would move is told. */
  fills: SiteRow.shape.fills.optional(),
})
export type TableUse = z.infer<typeof TableUse>
/** A figure of a loop before and after, in words with its unit. */
const Moved = z.strictObject({ label: z.string(), before: z.string(), after: z.string() })
export const TableUses = z.strictObject({
  loops: z.array(
    z.strictObject({
      id: Id,
      tag: z.string(),
      service: z.string(),
      area: z.string(),
      /** The row of the site's own whose figures it has; null of a built-in one. */
      row: Id.nullable(),
      moved: z.array(Moved),
      /** Codes of findings that would come, and that would go. */
      come: z.array(z.string()),
      gone: z.array(z.string()),
    }),
  ),
  /** Loops beyond those. */
  more: z.number().int().nonnegative(),
})
export type TableUses = z.infer<typeof TableUses>
