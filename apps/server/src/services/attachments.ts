// Photographs and papers of loops: kept once and whole, known by their content; what is said of them can be corrected.
import { canonicalJson, PAPERS, type Attachment, type AttachmentNote, type Person } from '@calm-loop/contract'
import { sure } from '@calm-loop/core/sure'
import { and, asc, desc, eq, inArray, sql, type SQL } from 'drizzle-orm'
import { webcrypto } from 'node:crypto'
import { attachmentNotes, attachments } from '../db/attachment-schema.ts'
import type { Database, Queries } from '../db/database.ts'
import { loops } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { author, namesOf } from './folder.ts'
import type { PaperPicture } from '../documents/photographs.ts'
import { bared, forPaper, photographOf } from './pictures.ts'
import { doneBefore } from './waited.ts'

/** All but the files themselves. */
const ROW = {
  ...{ id: attachments.id, loopId: attachments.loopId, name: attachments.name, media: attachments.media },
  ...{ digest: attachments.digest, size: attachments.size, width: attachments.width, height: attachments.height },
  ...{ note: attachments.note, byId: attachments.byId, at: attachments.at },
  link: sql<
    string | null
  >`case when ${attachments.media} = 'text/uri-list' then convert_from(${attachments.file}, 'UTF8') end`,
}

async function rowsWhere(db: Queries, which: SQL | undefined): Promise<Attachment[]> {
  const rows = await db.select(ROW).from(attachments).where(which).orderBy(desc(attachments.at), desc(attachments.id))
  if (!rows.length) return []
  const names = await namesOf(db)
  const notes = await db
    .select()
    .from(attachmentNotes)
    .where(
      inArray(
        attachmentNotes.attachmentId,
        rows.map((r) => r.id),
      ),
    )
    .orderBy(asc(attachmentNotes.at), asc(attachmentNotes.id))
  const newest = new Map(notes.map((n) => [n.attachmentId, n]))
  return rows.map(({ id, name, media, size, digest, width, height, link, note, byId, at }) => {
    const said = newest.get(id)
    return {
      ...{ id, name, digest, width, height, link, bytes: size, media: media as Attachment['media'] },
      ...{ by: author(names, byId), at: at.toISOString(), note: said?.note ?? note },
      noted: said ? { by: author(names, said.byId), at: said.at.toISOString() } : null,
    }
  })
}

/** Of a loop, the newest first; what was taken out of view too. */
export const listAttachments = (db: Queries, loopId: string): Promise<Attachment[]> =>
  rowsWhere(db, eq(attachments.loopId, loopId))

interface Ids {
  readonly loopId: string
  readonly attachmentId: string
}
const which = ({ loopId, attachmentId }: Ids) => and(eq(attachments.loopId, loopId), eq(attachments.id, attachmentId))

const NOT_TAKEN =
  'This file is no photograph (JPEG, PNG, WebP) and no PDF, whatever its name says, or one of more points than is ' +
  'sensible. A telephone that makes HEIC can be set to make JPEG.'
const PAPER = 'application/pdf'
/** RFC 2483; one address, of a page or a file elsewhere. */
const LINK = 'text/uri-list'
const LONGEST_LINK = 2000
function isLink(bytes: Buffer): boolean {
  const text = bytes.length <= LONGEST_LINK ? bytes.toString('utf8') : ''
  return /^https?:\/\/[^\s"<>\\^`{|}\p{Cc}]+$/u.test(text) && URL.canParse(text)
}
const isPdf = (bytes: Buffer) => bytes.subarray(0, 1024).includes('%PDF-')

/** What a file is by its content: worked out before anything is locked. @throws HttpProblem `not-a-picture` */
async function known(bytes: Buffer) {
  const photograph = await photographOf(bytes)
  if (photograph) return photograph
  if (isPdf(bytes)) return { media: PAPER, width: null, height: null, small: null }
  if (isLink(bytes)) return { media: LINK, width: null, height: null, small: null }
  throw new HttpProblem(422, 'not-a-picture', NOT_TAKEN)
}

/** A paper is no photograph of a plate, and has nothing drawn on it. */
const paperNote = (note: AttachmentNote): AttachmentNote => ({
  ...note,
  shows: PAPERS.find((p) => p === note.shows) ?? 'other',
  marks: [],
})

export interface NewFile {
  readonly bytes: Uint8Array
  readonly name: string
  readonly note: AttachmentNote
  /** How long it waited on a device before it could be sent, ms. */
  readonly waited_ms?: number
}

/**
 * Keeps a file, once; the same again changes nothing.
 * @throws HttpProblem `not-a-picture`, `id-reused`, `not-found`
 */
export async function attach(
  db: Database,
  ids: Ids,
  { bytes: given, name, note, waited_ms = 0 }: NewFile,
  person: Person,
): Promise<Attachment> {
  const at = doneBefore(waited_ms) ?? new Date()
  const bytes = Buffer.from(given)
  // Away from the event loop: a large file takes longer than anybody waits for a figure.
  const digest = Buffer.from(await webcrypto.subtle.digest('SHA-256', bytes)).toString('hex')
  const [loop] = await db.select({ id: loops.id }).from(loops).where(eq(loops.id, ids.loopId))
  if (!loop) throw notFound('This loop')
  const file = await known(bytes)
  const first = file.small ? note : paperNote(note)
  const values = {
    ...{ id: ids.attachmentId, loopId: ids.loopId, name: name.trim() || 'photograph', note: first },
    ...{ digest, file: bytes, size: bytes.length, byId: person.id, at },
    ...{ media: file.media, width: file.width, height: file.height, small: file.small },
  }
  return db.transaction(async (tx) => {
    const made = await tx.insert(attachments).values(values).onConflictDoNothing().returning({ id: attachments.id })
    const [kept] = await rowsWhere(tx, which(ids))
    if (kept?.digest !== digest) throw idReused()
    const details = { id: kept.id, name: kept.name, media: kept.media, digest }
    if (made.length) await record({ tx, personId: person.id, action: 'attached', loopId: ids.loopId, details })
    return kept
  })
}

/** @throws HttpProblem `id-reused`, `not-found` */
export async function noteAttachment(
  tx: Queries,
  ids: Ids & { readonly noteId: string },
  said: AttachmentNote,
  person: Person,
): Promise<Attachment> {
  const { attachmentId, noteId } = ids
  const [row] = await rowsWhere(tx, which(ids))
  if (!row) throw notFound('This photograph or paper')
  const note = row.media === PAPER || row.media === LINK ? paperNote(said) : said
  const values = { id: noteId, attachmentId, note, byId: person.id, at: new Date() }
  const made = await tx.insert(attachmentNotes).values(values).onConflictDoNothing().returning()
  const [there] = await tx.select().from(attachmentNotes).where(eq(attachmentNotes.id, noteId))
  if (there?.attachmentId !== attachmentId || canonicalJson(there.note) !== canonicalJson(note)) throw idReused()
  const details = { attachmentId, ...note }
  if (made.length) await record({ tx, personId: person.id, action: 'attachment-noted', loopId: ids.loopId, details })
  return sure((await rowsWhere(tx, which(ids)))[0])
}

/** A photograph made small. @throws HttpProblem `not-found` */
export async function smallOf(db: Queries, ids: Ids): Promise<Buffer> {
  const [row] = await db.select({ small: attachments.small }).from(attachments).where(which(ids))
  if (!row?.small) throw notFound('This photograph')
  return row.small
}

/**
 * The file: a photograph bare of what stands beside it, unless it is asked for whole.
 * @throws HttpProblem `not-found`
 */
export async function fileOf(db: Queries, ids: Ids, whole: boolean) {
  const of = { name: attachments.name, media: attachments.media, file: attachments.file }
  const [row] = await db.select(of).from(attachments).where(which(ids))
  if (!row) throw notFound('This photograph or paper')
  return {
    name: row.name,
    media: row.media,
    bytes: whole || !row.media.startsWith('image/') ? row.file : await bared(row.file),
  }
}

/** More would make a certificate an album. */
const MOST_ON_PAPER = 6
/** Photographs that were chosen for the papers of a loop, the oldest first. */
export async function picturesOnPaper(db: Queries, loopId: string): Promise<PaperPicture[]> {
  const chosen = (await listAttachments(db, loopId))
    .filter(({ note, width }) => note.onPapers && note.hidden === null && width !== null)
    .reverse()
    .slice(0, MOST_ON_PAPER)
  return Promise.all(
    chosen.map(async ({ id, note, width, height, by, at }) => {
      const jpeg = await forPaper(await smallOf(db, { loopId, attachmentId: id }))
      const { shows, words, marks } = note
      return {
        ...{ image: `data:image/jpeg;base64,${jpeg.toString('base64')}`, shows, words, marks },
        ...{ width: width ?? 1, height: height ?? 1, by: by.name, at },
      }
    }),
  )
}
