// The round: what is due and what was asked for, who has which piece of the kit, and how each person has put their day.
import { WORKS } from '@calm-loop/core/round'
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { GearRange } from './gear.ts'
import { MOST_PACKED } from './limits.ts'
import { Author, Day, filledLine, Id, Instant, line } from './primitives.ts'

/** Most loops of one round; what is due beyond them is counted. */
export const MOST_STOPS = 500

/** What it was made from. */
export const JobOrigin = z.enum(['finding', 'failed-check', 'call', 'stop', 'kit'])
export type JobOrigin = z.infer<typeof JobOrigin>

/** Something that is asked for at a loop. */
export const NewJob = z.strictObject({
  loopId: Id,
  what: filledLine(200),
  why: line(300),
  /** By when; null where nobody said. */
  by: Day.nullable(),
  /** Who asked, in their own words: a person, or a department. */
  from: filledLine(120),
  origin: JobOrigin,
  /** Works that it takes. */
  works: z
    .array(z.enum(WORKS))
    .max(WORKS.length)
    .refine((list) => new Set(list).size === list.length, 'each work once'),
})
export type NewJob = z.infer<typeof NewJob>
export const EndJob = z.strictObject({ how: z.enum(['done', 'withdrawn']), words: line(300) })
export type EndJob = z.infer<typeof EndJob>
export const Job = NewJob.extend({
  id: Id,
  tag: z.string(),
  made: Instant,
  madeBy: Author,
  ended: EndJob.extend({ by: Author, at: Instant }).nullable(),
})
export type Job = z.infer<typeof Job>

const Place = z.strictObject({
  what: z.string(),
  unit: z.string(),
  low: z.number(),
  high: z.number(),
  tolerance: z.number(),
})
/** What a check of a loop takes, as it was last worked out. */
export const LoopRoundView = z.strictObject({
  works: z.array(z.enum(WORKS)).readonly(),
  /** What to bring by its entries. */
  brings: z
    .array(z.strictObject({ what: z.string(), each: z.boolean(), instead: z.string().exactOptional() }))
    .readonly(),
  needs: z.array(Place.extend({ or: z.array(Place).readonly().exactOptional() })).readonly(),
})
export type LoopRoundView = z.infer<typeof LoopRoundView>

export const RoundStop = LoopRoundView.extend({
  id: Id,
  tag: z.string(),
  service: z.string(),
  area: z.string(),
  kind: z.string(),
  due: Day.nullable(),
})

/** Where a piece of the kit is: with a person, or in its place. */
export const KitMove = z.strictObject({
  id: Id,
  holder: Author.nullable(),
  place: line(120),
  by: Author,
  at: Instant,
})
export type KitMove = z.infer<typeof KitMove>
export const MoveKit = z.strictObject({
  /** Taken by the one who says so, or laid down. */
  taken: z.boolean(),
  /** Where it is laid down; where it is taken to. */
  place: line(120),
  /** The move that stood when this was done; null where the piece had none. */
  after: Id.nullable(),
})
export type MoveKit = z.infer<typeof MoveKit>

export const RoundPiece = z.strictObject({
  id: Id,
  name: z.string(),
  serial: z.string(),
  due: Day,
  ranges: z.array(GearRange),
  move: KitMove.nullable(),
})

/** How a person has put a day. */
export const RoundState = z.strictObject({
  /** The last day whose checks are taken. */
  until: Day,
  /** When they set out, hours and minutes of the site. */
  begins: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'hours and minutes, such as 07:30'),
  /** Only these areas; all where none is named. */
  areas: z.array(filledLine(80)).max(200),
  /** Loops as they were put by hand. */
  byHand: z.array(Id).max(MOST_STOPS),
  /** What is packed, by the words of the list. */
  packed: z.array(filledLine(200)).max(MOST_PACKED),
})
export type RoundState = z.infer<typeof RoundState>
/** What of a day is put otherwise; the rest stands, whatever another tab has put it to. */
export const PutRound = RoundState.partial().extend({
  /** One thing that is packed, or is not any more. */
  pack: z.strictObject({ key: filledLine(200), on: z.boolean() }).optional(),
})
export type PutRound = z.infer<typeof PutRound>

/** Areas in the order in which one walks, and whom to tell before work in them. */
export const Walking = z.strictObject({
  areas: z
    .array(z.strictObject({ area: filledLine(80), told: line(200) }))
    .max(500)
    .refine((list) => new Set(list.map((a) => a.area)).size === list.length, 'each area once'),
})
export type Walking = z.infer<typeof Walking>
export const NO_ORDER: Walking = { areas: [] }

export const Round = z.strictObject({
  day: Day,
  loops: z.array(RoundStop),
  /** Due as well, and not listed. */
  more: z.number().int().nonnegative(),
  jobs: z.array(Job),
  kit: z.array(RoundPiece),
  walking: Walking,
  /** Minutes of past visits, by kind and works. */
  past: z.record(z.string(), z.array(z.number())),
  /** Least ratio of tolerance to uncertainty. */
  wanted: z.number(),
  /** As the person put this day; null where they have not. */
  mine: RoundState.nullable(),
})
export type Round = z.infer<typeof Round>

const job = z.object({ jobId: Id })
const ofDay = z.object({ day: Day, until: Day.optional() })

export const roundRoutes = {
  round: endpoint({
    method: 'get',
    path: '/api/round',
    access: 'signed-in',
    summary: 'What a round of a day is planned from: due checks, open jobs, kit, minutes of past visits',
    query: ofDay,
    response: Round,
  }),
  roundPdf: endpoint({
    method: 'get',
    path: '/api/round.pdf',
    access: 'signed-in',
    summary: 'The round of a day on one sheet, as the person has put it',
    query: ofDay,
    media: 'application/pdf',
  }),
  saveRound: endpoint({
    method: 'put',
    path: '/api/rounds/:day',
    access: 'signed-in',
    summary: 'Put one’s own day: its order by hand, when one sets out, what is packed',
    params: z.object({ day: Day }),
    body: PutRound,
    response: RoundState,
  }),
  jobs: endpoint({
    method: 'get',
    path: '/api/jobs',
    access: 'signed-in',
    summary: 'Open jobs, the first due first; with a loop, those of it that have ended as well',
    query: z.object({ loopId: Id.optional() }),
    response: z.array(Job),
  }),
  makeJob: endpoint({
    method: 'put',
    path: '/api/jobs/:jobId',
    access: 'signed-in',
    summary: 'Ask for something at a loop',
    params: job,
    body: NewJob,
    response: Job,
  }),
  endJob: endpoint({
    method: 'put',
    path: '/api/jobs/:jobId/end',
    access: 'technician',
    summary: 'Say that a job is done, or withdraw it',
    params: job,
    body: EndJob,
    response: Job,
  }),
  moveKit: endpoint({
    method: 'put',
    path: '/api/gear/:gearId/moves/:moveId',
    access: 'technician',
    summary: 'Take a piece of the kit, or lay it down',
    params: z.object({ gearId: Id, moveId: Id }),
    body: MoveKit,
    response: KitMove,
  }),
  walking: endpoint({
    method: 'get',
    path: '/api/settings/walking',
    access: 'signed-in',
    summary: 'Areas in the order in which one walks, and whom to tell',
    response: Walking,
  }),
  saveWalking: endpoint({
    method: 'put',
    path: '/api/settings/walking',
    access: 'duty:limits',
    summary: 'Set the walking order of the areas, and whom to tell',
    body: Walking,
    response: Walking,
  }),
}
