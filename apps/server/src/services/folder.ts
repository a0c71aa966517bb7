// A loop's folder, read from the tables in the form of the contract.
import {
  canonicalJson,
  type Author,
  type Check,
  type Folder,
  type FolderView,
  type LoopRow,
  type Reading,
  type Signature,
  type Version,
  type WireEntry,
} from '@calm-loop/contract'
import { createHash } from 'node:crypto'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { checks, gates, loops, people, readings, signatures, versions, wireLog } from '../db/schema.ts'
import { notFound } from '../http/problems.ts'

type Names = Map<string, string>
const author = (names: Names, id: string): Author => ({ id, name: names.get(id) ?? 'unknown' })

export const versionOf = (row: typeof versions.$inferSelect, names: Names): Version => ({
  id: row.id,
  number: row.number,
  parentId: row.parentId,
  revision: row.revision,
  entries: row.entries,
  author: author(names, row.authorId),
  startedAt: row.startedAt.toISOString(),
  savedAt: row.savedAt.toISOString(),
  reason: row.reason,
  sealedAt: row.sealedAt?.toISOString() ?? null,
})

export const readingOf = (row: typeof readings.$inferSelect, names: Names): Reading => ({
  id: row.id,
  seq: row.seq,
  pointIndex: row.pointIndex,
  percent: row.percent,
  direction: row.direction,
  applied: row.applied,
  reads: row.reads,
  source: row.source,
  supersedes: row.supersedes,
  reason: row.reason,
  by: author(names, row.byId),
  takenAt: row.takenAt.toISOString(),
  savedAt: row.savedAt.toISOString(),
})

export const gateOf = (row: typeof gates.$inferSelect, names: Names): Check['gates'][number] => ({
  id: row.id,
  gate: row.gate,
  words: row.words,
  told: row.told,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})

export const signatureOf = (row: typeof signatures.$inferSelect): Signature => ({
  id: row.id,
  role: row.role,
  by: { id: row.byId, name: row.name },
  at: row.at.toISOString(),
  statement: row.statement,
  digest: row.digest,
})

export const wireEntryOf = (row: typeof wireLog.$inferSelect, names: Names): WireEntry => ({
  ...row.body,
  id: row.id,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})

export const rowOf = (row: typeof loops.$inferSelect): LoopRow => ({
  id: row.id,
  tag: row.tag,
  service: row.service,
  area: row.area,
  kind: row.kind,
  state: row.state as LoopRow['state'],
  nextDue: row.nextDue,
  lastErrorPct: row.lastErrorPct,
  tolerancePct: row.tolerancePct,
})

/** Names of everyone, for showing who did what. */
export async function namesOf(db: Queries): Promise<Names> {
  return new Map((await db.select({ id: people.id, name: people.name }).from(people)).map((p) => [p.id, p.name]))
}

/** The whole folder. @throws HttpProblem 404 */
export async function readFolder(db: Queries, loopId: string): Promise<FolderView> {
  const [loop] = await db.select().from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  const names = await namesOf(db)
  const versionRows = await db.select().from(versions).where(eq(versions.loopId, loopId)).orderBy(asc(versions.number))
  const checkRows = await db
    .select()
    .from(checks)
    .where(eq(checks.loopId, loopId))
    .orderBy(asc(checks.startedAt), asc(checks.id))
  const wireRows = await db.select().from(wireLog).where(eq(wireLog.loopId, loopId)).orderBy(asc(wireLog.seq))
  const ids = checkRows.map((c) => c.id)
  const of = <T extends { checkId: string }>(rows: T[], id: string) => rows.filter((row) => row.checkId === id)
  const [gateRows, readingRows, signatureRows] = ids.length
    ? [
        await db.select().from(gates).where(inArray(gates.checkId, ids)).orderBy(asc(gates.at), asc(gates.id)),
        await db.select().from(readings).where(inArray(readings.checkId, ids)).orderBy(asc(readings.seq)),
        await db
          .select()
          .from(signatures)
          .where(inArray(signatures.checkId, ids))
          .orderBy(asc(signatures.at), asc(signatures.id)),
      ]
    : [[], [], []]
  return {
    row: rowOf(loop),
    loop: {
      id: loop.id,
      tag: loop.tag,
      service: loop.service,
      area: loop.area,
      kind: loop.kind,
      createdAt: loop.createdAt.toISOString(),
    },
    versions: versionRows.map((v) => versionOf(v, names)),
    wireLog: wireRows.map((w) => wireEntryOf(w, names)),
    checks: checkRows.map((c) => ({
      id: c.id,
      versionId: c.versionId,
      phase: c.phase,
      tolerancePct: c.tolerancePct,
      range: c.range,
      points: c.points,
      gear: c.gear,
      ambient: c.ambient,
      startedBy: author(names, c.startedById),
      startedAt: c.startedAt.toISOString(),
      gates: of(gateRows, c.id).map((g) => gateOf(g, names)),
      readings: of(readingRows, c.id).map((r) => readingOf(r, names)),
      signatures: of(signatureRows, c.id).map(signatureOf),
    })),
  }
}

/** SHA-256 over what a signature vouches for: the loop, the entries it was checked with, the check and all its readings and gates. */
export function signedDigest(loop: Folder['loop'], version: Version, check: Check): string {
  const { signatures: _, ...content } = check
  const said = { loop: { id: loop.id, tag: loop.tag, kind: loop.kind }, entries: version.entries, check: content }
  return createHash('sha256').update(canonicalJson(said)).digest('hex')
}
