// The count of a discrete point: its changes packed as gaps, and a log of stops and rejected pieces. Nothing in either
// is ever changed.
import { refuseUnsound, type EdgeTrain as CoreTrain } from '@calm-loop/core/discrete'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { z } from 'zod'
import { Author, Day, EpochMs, filledLine, Id, Instant, line } from './primitives.ts'
import { practiceMark } from './worlds.ts'

/** Longest text of gaps: some two million changes. */
export const GAPS_LIMIT = 24_000_000
/** Largest body that carries a train. */
export const TRAIN_BODY = '26mb'

/** Gaps as they cross the wire: whole milliseconds with a space between, in one text. */
export function gapsOf(text: string): number[] {
  return text === '' ? [] : text.split(' ').map(Number)
}
export const gapsText = (gaps: readonly number[]): string => gaps.join(' ')

export const coreTrain = (train: Pick<EdgeTrain, 'startMs' | 'startState' | 'gaps'>): CoreTrain => ({
  start_ms: train.startMs,
  startState: train.startState,
  gaps_ms: gapsOf(train.gaps),
})

const Content = z.strictObject({
  /** Milliseconds since 1970-01-01 UTC at which `startState` was known. */
  startMs: EpochMs,
  startState: z.boolean(),
  /** Milliseconds to each change, with spaces between. */
  gaps: z.string().max(GAPS_LIMIT),
  origin: z.enum(['live', 'file']),
  /** File name, or what was going on. */
  note: line(200),
})
export const AddEdges = Content.superRefine((train, ctx) => {
  const unsound = attempt(() => refuseUnsound(coreTrain(train)))
  if (unsound instanceof Refusal) ctx.addIssue({ code: 'custom', path: ['gaps'], message: unsound.message })
})
export type AddEdges = z.infer<typeof AddEdges>

const one = { id: Id, by: Author, at: Instant, ...practiceMark }
export const EdgeTrain = Content.extend({ ...one, endMs: z.number().int(), changes: z.number().int().nonnegative() })
export type EdgeTrain = z.infer<typeof EdgeTrain>
/** What stands of a train without its gaps. */
export const TrainHead = EdgeTrain.omit({ gaps: true })
export type TrainHead = z.infer<typeof TrainHead>

const Stopped = z.strictObject({ what: z.literal('stop'), from: Instant, to: Instant, reason: filledLine(200) })
const Rejected = z.strictObject({
  what: z.literal('rejected'),
  day: Day,
  shift: filledLine(60),
  pieces: z.number().int().min(0).max(1_000_000),
})
const Withdrawn = z.strictObject({ what: z.literal('withdrawn'), entry: Id, reason: filledLine(200) })
export const CountEntry = z.discriminatedUnion('what', [
  Stopped.extend(one),
  Rejected.extend(one),
  Withdrawn.extend(one),
])
export type CountEntry = z.infer<typeof CountEntry>
export const AddCountEntry = z.discriminatedUnion('what', [
  Stopped.refine((s) => s.from < s.to, 'a stop ends after it begins'),
  Rejected,
  Withdrawn,
])
export type AddCountEntry = z.infer<typeof AddCountEntry>
export type StopEntry = Extract<CountEntry, { what: 'stop' }>

/** The stops that stand, and the pieces rejected by `day shift`, the latest word for each. */
export function standingCount(log: readonly CountEntry[]): { stops: StopEntry[]; rejected: Record<string, number> } {
  const gone = new Set(log.flatMap((e) => (e.what === 'withdrawn' ? [e.entry] : [])))
  const rejected: Record<string, number> = {}
  for (const e of log) if (e.what === 'rejected' && !gone.has(e.id)) rejected[`${e.day} ${e.shift}`] = e.pieces
  return { stops: log.filter((e): e is StopEntry => e.what === 'stop' && !gone.has(e.id)), rejected }
}

/** Whether the server records the changes of a point, since when and for whom. */
export const Recorded = z.strictObject({
  recorded: z
    .strictObject({
      by: Author,
      at: Instant,
      /** Seen since the server that records took it up. */
      changes: z.number().int().nonnegative(),
      /** Why nothing is seen just now, or was not kept; empty where all is well. */
      problem: z.string(),
    })
    .nullable(),
})
export type Recorded = z.infer<typeof Recorded>
