// Work that takes long and that nobody has to wait for: done by whichever server is free, tried again where one is
// lost, and seen with its progress by whoever asked for it.
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { ERRAND_PAPERS, LIST_COLUMNS, MOST_PARTS, PART_BYTES, PLANT_LOOPS } from './limits.ts'
import { LoopIdentity, LoopQuery, Tag } from './loops.ts'
import { Author, Id, Instant, PointEntries, line } from './primitives.ts'

/** What is wanted: papers of many loops in one file, folders brought in, or a backup. */
export const ErrandWish = z.discriminatedUnion('what', [
  z.strictObject({
    what: z.literal('papers'),
    papers: z.enum(ERRAND_PAPERS),
    /** Of which loops, as the register is searched. */
    of: LoopQuery.pick({ q: true, area: true, kind: true, state: true }),
  }),
  /** A folder or a ZIP file of folders, sent beforehand in so many parts. */
  z.strictObject({
    what: z.literal('bring-in'),
    parts: z.number().int().min(1).max(MOST_PARTS),
    name: line(200),
  }),
  /** Loops of an instrument list, sent beforehand as a file of `PlantFile` in so many parts: all of them or none. */
  z.strictObject({
    what: z.literal('plant'),
    parts: z.number().int().min(1).max(MOST_PARTS),
    name: line(200),
    loops: z.number().int().min(1).max(PLANT_LOOPS),
  }),
  z.strictObject({ what: z.literal('backup') }),
])
export type ErrandWish = z.infer<typeof ErrandWish>

/** A loop of an instrument list, with what the list says of it. */
export const PlantLoop = LoopIdentity.extend({
  id: Id,
  versionId: Id,
  /** Version of its kind that the entries are under. */
  kindVersion: z.number().int().min(1).max(1000),
  entries: PointEntries,
})
export type PlantLoop = z.infer<typeof PlantLoop>
export const PlantFile = z.strictObject({ loops: z.array(PlantLoop).min(1).max(PLANT_LOOPS) })

/** How the columns of a list are read: by what its heads say. The rest is settled again where it does not fit. */
export const ListMapping = z.strictObject({
  header: z.number().int().min(0).max(100_000),
  headerLines: z.number().int().min(1).max(20),
  columns: z.array(z.strictObject({ to: line(60), unit: line(20) })).max(LIST_COLUMNS),
  kinds: z.record(line(200), line(60)),
  decimalMark: z.enum(['.', ',']),
})
export type ListMapping = z.infer<typeof ListMapping>
const Heads = z.array(z.string().max(2000)).max(LIST_COLUMNS)

export const ERRAND_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const
export type ErrandState = (typeof ERRAND_STATES)[number]

export const Errand = z.strictObject({
  id: Id,
  wish: ErrandWish,
  by: Author,
  at: Instant,
  state: z.enum(ERRAND_STATES),
  /** How much of it is done, 0 to 1. */
  share: z.number().min(0).max(1),
  /** What is going on, or what it came to. */
  says: z.string(),
  /** What was left out, and why. */
  left: z.array(z.string()),
  /** Bytes of the file that it made; null where it made none, or that is gone. */
  file: z.number().int().positive().nullable(),
  endedAt: Instant.nullable(),
})
export type Errand = z.infer<typeof Errand>

const one = z.object({ errandId: Id })

export const errandRoutes = {
  errands: endpoint({
    method: 'get',
    path: '/api/errands',
    access: 'signed-in',
    summary: 'Long work that was asked for, newest first: one’s own; of all for an administrator',
    response: z.strictObject({ errands: z.array(Errand), backups: z.boolean() }),
  }),
  beginErrand: endpoint({
    method: 'put',
    path: '/api/errands/:errandId',
    access: 'technician',
    summary: 'Ask for long work',
    params: one,
    body: ErrandWish,
    response: Errand,
  }),
  errandPart: endpoint({
    method: 'put',
    path: '/api/errands/:errandId/parts/:part',
    access: 'technician',
    summary: 'Send a part of a file that is brought in; the same again changes nothing',
    params: z.object({ errandId: Id, part: z.string().regex(/^\d{1,2}$/) }),
    body: z.string(),
    rawBody: true,
    bodyLimit: `${PART_BYTES + 1000}b`,
  }),
  tagsTaken: endpoint({
    method: 'post',
    path: '/api/tags-taken',
    access: 'technician',
    summary: 'Which of these tags loops have already; nothing is stored',
    body: z.strictObject({ tags: z.array(Tag).max(PLANT_LOOPS) }),
    bodyLimit: '4mb',
    heavy: true,
    response: z.strictObject({ taken: z.array(z.string()) }),
  }),
  listMapping: endpoint({
    method: 'post',
    path: '/api/list-mappings/look',
    access: 'technician',
    summary: 'How the last list with these heads was read here; nothing is stored',
    body: z.strictObject({ heads: Heads }),
    bodyLimit: '1mb',
    response: z.strictObject({ mapping: ListMapping.nullable() }),
  }),
  keepListMapping: endpoint({
    method: 'put',
    path: '/api/list-mappings',
    access: 'technician',
    summary: 'Keep how a list with these heads is read, for the next of the kind',
    body: z.strictObject({ heads: Heads, mapping: ListMapping }),
    bodyLimit: '1mb',
    response: z.strictObject({ mapping: ListMapping.nullable() }),
  }),
  cancelErrand: endpoint({
    method: 'delete',
    path: '/api/errands/:errandId',
    access: 'technician',
    summary: 'End long work that is still going on',
    params: one,
    response: Errand,
  }),
  errandFile: endpoint({
    method: 'get',
    path: '/api/errands/:errandId/file',
    access: 'signed-in',
    summary: 'The file that it made',
    params: one,
    media: 'application/zip',
  }),
}
