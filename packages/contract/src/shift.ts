// Handing the shift over: what was done, what stands open, and in which state things were left.
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { Author, Id, Instant, line } from './primitives.ts'
import { Job } from './round.ts'

/** Most lines of what was done; what is beyond them is counted. */
export const MOST_DONE = 400

const At = z.strictObject({ id: Id, tag: z.string(), area: z.string() })
/** What one person did at one loop; or with the kit, at none. */
export const ShiftDone = z.strictObject({
  by: Author,
  loop: At.nullable(),
  first: Instant,
  last: Instant,
  /** In order, each once, with how often. */
  what: z.array(z.strictObject({ words: z.string(), times: z.number().int().positive() })),
})
export type ShiftDone = z.infer<typeof ShiftDone>

export const OPEN_SORTS = ['check', 'work', 'practice', 'survey'] as const
/** What somebody began and has not ended. */
export const ShiftOpen = z.strictObject({
  sort: z.enum(OPEN_SORTS),
  loop: At,
  words: z.string(),
  by: Author,
  since: Instant,
  /** How plant and device stand for it: in manual, by-passed, valved off, a current held. Empty: as they stood. */
  left: z.array(z.string()),
})
export type ShiftOpen = z.infer<typeof ShiftOpen>
export const ShiftKit = z.strictObject({ piece: z.string(), holder: Author, since: Instant, place: z.string() })

export const Shift = z.strictObject({
  from: Instant,
  to: Instant,
  done: z.array(ShiftDone),
  /** Done as well, and not listed. */
  more: z.number().int().nonnegative(),
  open: z.array(ShiftOpen),
  jobs: z.array(Job),
  kit: z.array(ShiftKit),
})
export type Shift = z.infer<typeof Shift>

export const HandOver = z.strictObject({
  from: Instant,
  /** What the next must know besides, in their own words. */
  words: line(2000),
})
export type HandOver = z.infer<typeof HandOver>
/** A shift as it was handed over: it stays as it stood then. */
export const HandedOver = HandOver.extend({
  id: Id,
  by: Author,
  at: Instant,
  shift: Shift,
  /** Who has read it, and when. */
  read: z.array(z.strictObject({ by: Author, at: Instant })),
})
export type HandedOver = z.infer<typeof HandedOver>

const handover = z.object({ handoverId: Id })
const ofTime = z.object({ from: Instant, to: Instant.optional() })
export const shiftRoutes = {
  shift: endpoint({
    method: 'get',
    path: '/api/shift',
    access: 'signed-in',
    summary: 'What was done since a time, what stands open, and in which state things are',
    query: ofTime,
    response: Shift,
  }),
  shiftPdf: endpoint({
    method: 'get',
    path: '/api/handovers/:handoverId.pdf',
    access: 'signed-in',
    summary: 'A shift as it was handed over, on paper',
    params: handover,
    media: 'application/pdf',
  }),
  handovers: endpoint({
    method: 'get',
    path: '/api/handovers',
    access: 'signed-in',
    summary: 'The last shifts that were handed over, the newest first',
    response: z.array(HandedOver),
  }),
  handOver: endpoint({
    method: 'put',
    path: '/api/handovers/:handoverId',
    access: 'technician',
    summary: 'Hand the shift over: how things stand now is kept as it is',
    params: handover,
    body: HandOver,
    response: HandedOver,
  }),
  readHandover: endpoint({
    method: 'put',
    path: '/api/handovers/:handoverId/read',
    access: 'signed-in',
    summary: 'Say that one has read what was handed over',
    params: handover,
    response: HandedOver,
  }),
}
