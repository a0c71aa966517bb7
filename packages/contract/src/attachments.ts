// Photographs and papers of a loop: kept whole and once, shown small, with words and marks that can be corrected.
import { z } from 'zod'
import { Author } from './primitives.ts'
import { endpoint } from './endpoint.ts'
import { ATTACHMENT_BYTES } from './limits.ts'
import { filledLine, Id, Instant, line } from './primitives.ts'

/** What a photograph shows, or a paper is. */
export const SHOWS = ['plate', 'terminals', 'mounting', 'display', 'data-sheet', 'baseline', 'permit', 'other'] as const
/** What a paper can be. */
export const PAPERS = ['data-sheet', 'baseline', 'permit', 'other'] as const
export const MEDIA = ['image/jpeg', 'image/png', 'image/webp', 'application/pdf', 'text/uri-list'] as const

const share = z.number().min(0).max(1)
/** Drawn over a photograph; places are shares of its width and height, from its upper left corner. */
const Mark = z.discriminatedUnion('draw', [
  z.strictObject({ draw: z.literal('arrow'), x: share, y: share, toX: share, toY: share }),
  z.strictObject({ draw: z.literal('words'), x: share, y: share, words: filledLine(60) }),
])
export type Mark = z.infer<typeof Mark>

/** What is said of it: the newest stands, those before are kept. */
export const AttachmentNote = z.strictObject({
  shows: z.enum(SHOWS),
  words: line(200),
  marks: z.array(Mark).max(20),
  /** A photograph that stands at the end of certificates and reports of its loop. */
  onPapers: z.boolean().optional(),
  /** Taken out of view, and why; null while it is shown. It stays on record. */
  hidden: filledLine(200).nullable(),
})
export type AttachmentNote = z.infer<typeof AttachmentNote>

export const Attachment = z.strictObject({
  id: Id,
  /** Of the file as it came. */
  name: z.string(),
  media: z.enum(MEDIA),
  bytes: z.number().int(),
  /** Where a link leads; null of a file. */
  link: z.string().nullable(),
  /** SHA-256 of the file. */
  digest: z.string(),
  /** Of a photograph as it is looked at, points; null of a paper. */
  width: z.number().int().nullable(),
  height: z.number().int().nullable(),
  by: Author,
  /** When it was added; of one that waited out of coverage by how long it did. */
  at: Instant,
  note: AttachmentNote,
  /** Of the note that stands: null while it is the first. */
  noted: z.strictObject({ by: Author, at: Instant }).nullable(),
})
export type Attachment = z.infer<typeof Attachment>

const ofLoop = z.object({ loopId: Id })
const one = ofLoop.extend({ attachmentId: Id })
export const attachmentRoutes = {
  attachments: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/attachments',
    access: 'signed-in',
    summary: 'Photographs and papers of a loop, the newest first',
    params: ofLoop,
    response: z.array(Attachment),
  }),
  attach: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/attachments/:attachmentId',
    access: 'technician',
    summary: 'Keep a photograph (JPEG, PNG, WebP), a paper (PDF) or a link (one http address) of a loop, once',
    params: one,
    query: z.object({ name: line(120).optional(), shows: z.enum(SHOWS).optional(), words: line(200).optional() }),
    rawBody: true,
    body: z.string(),
    bodyLimit: `${ATTACHMENT_BYTES}b`,
    response: Attachment,
  }),
  noteAttachment: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/attachments/:attachmentId/notes/:noteId',
    access: 'technician',
    summary: 'Say anew what a photograph or paper shows; what was said before is kept',
    params: one.extend({ noteId: Id }),
    body: AttachmentNote,
    response: Attachment,
  }),
  attachmentSmall: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/attachments/:attachmentId/small.webp',
    access: 'signed-in',
    summary: 'A photograph made small for the page',
    params: one,
    media: 'image/webp',
  }),
  attachmentFile: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/attachments/:attachmentId/file',
    access: 'signed-in',
    summary: 'The file: of a photograph without where it was taken and by which device, unless that is asked for',
    params: one,
    query: z.object({ whole: z.enum(['yes']).optional() }),
    media: 'application/octet-stream',
  }),
}
