// A loop's folder, read from the tables in the form of the contract.
import {
  type Author,
  type Check,
  type CountEntry,
  type EdgeTrain,
  type FolderView,
  type LoopRow,
  type Reading,
  type Signature,
  type TrainHead,
  type Version,
  type WholeFolder,
  type WireEntry,
  type WorkEntry,
} from '@calm-loop/contract'
import { isBroken } from '@calm-loop/contract/judging'
import { and, asc, desc, eq, inArray, ne, or, type SQL } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import {
  checks,
  countLog,
  edgeTrains,
  gates,
  loops,
  people,
  readings,
  signatures,
  versions,
  wireLog,
  workLog,
} from '../db/schema.ts'
import { notFound } from '../http/problems.ts'
import { benchOf } from './bench.ts'
import { deviceOf } from './loop-devices.ts'
import { withStandings } from '../seals/seals.ts'
import { sure } from '@calm-loop/core/sure'

export type Names = Map<string, string>
export const author = (names: Names, id: string): Author => ({ id, name: names.get(id) ?? 'unknown' })

export const versionOf = (row: typeof versions.$inferSelect, names: Names): Version => ({
  id: row.id,
  number: row.number,
  parentId: row.parentId,
  revision: row.revision,
  entries: row.entries,
  ...(row.kindVersion === null ? {} : { kindVersion: row.kindVersion }),
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
  ...(row.sampledAt ? { sampledAt: row.sampledAt.toISOString() } : {}),
  ...(row.origins ? { origins: row.origins } : {}),
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

export const countEntryOf = (row: typeof countLog.$inferSelect, names: Names): CountEntry => ({
  ...row.body,
  id: row.id,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})

export const workEntryOf = (row: typeof workLog.$inferSelect, names: Names): WorkEntry => ({
  ...row.body,
  id: row.id,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})

/** A train without its gaps: half a million of them are not read to show a folder. */
export const TRAIN_HEAD = {
  id: edgeTrains.id,
  startMs: edgeTrains.startMs,
  endMs: edgeTrains.endMs,
  startState: edgeTrains.startState,
  changes: edgeTrains.changes,
  origin: edgeTrains.origin,
  practice: edgeTrains.practice,
  note: edgeTrains.note,
  byId: edgeTrains.byId,
  at: edgeTrains.at,
}
export const trainHeadOf = (
  {
    id,
    startMs,
    endMs,
    startState,
    changes,
    origin,
    practice,
    note,
    byId,
    at,
  }: Omit<typeof edgeTrains.$inferSelect, 'gaps' | 'loopId'>,
  names: Names,
): TrainHead => ({
  id,
  startMs,
  endMs,
  startState,
  changes,
  origin,
  ...(practice === null ? {} : { practice }),
  note,
  by: author(names, byId),
  at: at.toISOString(),
})

/** Trains of a loop in order of time, whole. */
export async function wholeTrains(db: Queries, loopId: string): Promise<EdgeTrain[]> {
  const names = await namesOf(db)
  const rows = await db.select().from(edgeTrains).where(eq(edgeTrains.loopId, loopId)).orderBy(asc(edgeTrains.startMs))
  return rows.map((row) => ({ ...trainHeadOf(row, names), gaps: row.gaps }))
}

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

const identityOf = ({ id, tag, service, area, kind, createdAt }: typeof loops.$inferSelect) => ({
  id,
  tag,
  service,
  area,
  kind,
  createdAt: createdAt.toISOString(),
})

/** The checks of loops with all that belongs to them. */
/** Checks with their readings and signatures, oldest first; what stands under those is not looked at. */
export async function checksWhere(db: Queries, which: SQL, names: Names): Promise<{ loopId: string; check: Check }[]> {
  const rows = await db.select().from(checks).where(which).orderBy(asc(checks.startedAt), asc(checks.id))
  const ids = rows.map((c) => c.id)
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
  const mine = <T extends { checkId: string }>(all: T[], id: string) => all.filter((row) => row.checkId === id)
  const checkOf = (c: (typeof rows)[number]): Check => ({
    id: c.id,
    versionId: c.versionId,
    phase: c.phase,
    ...(c.rule === null ? {} : { rule: c.rule }),
    ...(c.practice === null ? {} : { practice: c.practice }),
    ...(c.terms ? { terms: c.terms } : {}),
    tolerancePct: c.tolerancePct,
    range: c.range,
    points: c.points,
    gear: c.gear,
    ambient: c.ambient,
    startedBy: author(names, c.startedById),
    startedAt: c.startedAt.toISOString(),
    gates: mine(gateRows, c.id).map((g) => gateOf(g, names)),
    readings: mine(readingRows, c.id).map((r) => readingOf(r, names)),
    signatures: mine(signatureRows, c.id).map(signatureOf),
    ...(c.imported
      ? { imported: { at: c.imported.at, by: c.imported.byId ? author(names, c.imported.byId) : null } }
      : {}),
  })
  return rows.map((row) => ({ loopId: row.loopId, check: checkOf(row) }))
}
async function readChecks(db: Queries, loopIds: readonly string[], names: Names): Promise<Check[][]> {
  const read = await checksWhere(db, inArray(checks.loopId, [...loopIds]), names)
  return loopIds.map((id) => read.filter((c) => c.loopId === id).map((c) => c.check))
}

/** The whole folder; the rows of surveys only when `whole`. @throws HttpProblem 404 */
export async function readFolder(db: Queries, loopId: string, whole = false): Promise<FolderView> {
  const [loop] = await db.select().from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  const names = await namesOf(db)
  const versionRows = await db.select().from(versions).where(eq(versions.loopId, loopId)).orderBy(asc(versions.number))
  const wireRows = await db.select().from(wireLog).where(eq(wireLog.loopId, loopId)).orderBy(asc(wireLog.seq))
  const countRows = await db.select().from(countLog).where(eq(countLog.loopId, loopId)).orderBy(asc(countLog.seq))
  const ofLoop = eq(workLog.loopId, loopId)
  const workRows = await db
    .select()
    .from(workLog)
    .where(whole ? ofLoop : and(ofLoop, ne(workLog.what, 'survey-rows')))
    .orderBy(asc(workLog.seq))
  const trainRows = await db
    .select(TRAIN_HEAD)
    .from(edgeTrains)
    .where(eq(edgeTrains.loopId, loopId))
    .orderBy(asc(edgeTrains.startMs))
  const found = { loop: identityOf(loop), versions: versionRows.map((v) => versionOf(v, names)) }
  const [read = []] = await readChecks(db, [loopId], names)
  const log = workRows.map((w) => workEntryOf(w, names))
  const [signed] = await withStandings(db, [{ ...found, checks: read, workLog: log }])
  return {
    row: { ...rowOf(loop), ...(isBroken(sure(signed)) ? { state: 'seal-broken' as const } : {}) },
    ...found,
    wireLog: wireRows.map((w) => wireEntryOf(w, names)),
    countLog: countRows.map((c) => countEntryOf(c, names)),
    trains: trainRows.map((t) => trainHeadOf(t, names)),
    ...sure(signed),
    bench: await benchOf(db, loopId),
    device: await deviceOf(db, loopId),
  }
}

/** What an entry on the wiring meets: the kind, the entries that stand, the log, and whether it is practised. */
export type AtWiring = Pick<FolderView, 'wireLog' | 'bench'> & {
  readonly kind: string
  readonly version: Version | undefined
}
/** The same, and no more: a folder may hold years of work. @throws HttpProblem 404 */
export async function readWiring(db: Queries, loopId: string): Promise<AtWiring> {
  const [loop] = await db.select({ kind: loops.kind }).from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  const names = await namesOf(db)
  const latest = await db
    .select()
    .from(versions)
    .where(eq(versions.loopId, loopId))
    .orderBy(desc(versions.number))
    .limit(1)
  const rows = await db.select().from(wireLog).where(eq(wireLog.loopId, loopId)).orderBy(asc(wireLog.seq))
  return {
    kind: loop.kind,
    version: latest.map((v) => versionOf(v, names))[0],
    wireLog: rows.map((w) => wireEntryOf(w, names)),
    bench: await benchOf(db, loopId),
  }
}

/** Which of these loops have a signature whose seal is broken. */
export async function loopsWithBrokenSeal(db: Queries, loopIds: readonly string[]): Promise<Set<string>> {
  if (!loopIds.length) return new Set()
  const rows = await db
    .select()
    .from(loops)
    .where(inArray(loops.id, [...loopIds]))
  const names = await namesOf(db)
  const signedRuns = await db
    .select()
    .from(workLog)
    .where(and(inArray(workLog.loopId, [...loopIds]), inArray(workLog.what, ['run-signed', 'step', 'health'])))
    .orderBy(asc(workLog.seq))
  const ofRuns = signedRuns.flatMap(({ body }) => (body.what === 'run-signed' ? [body.version] : []))
  const ofChecks = db
    .select({ id: checks.versionId })
    .from(checks)
    .where(inArray(checks.loopId, [...loopIds]))
  const used = await db
    .select()
    .from(versions)
    .where(or(inArray(versions.id, ofChecks), inArray(versions.id, ofRuns)))
  const read = await readChecks(
    db,
    rows.map((l) => l.id),
    names,
  )
  const signed = await withStandings(
    db,
    rows.map((loop, i) => ({
      loop: identityOf(loop),
      versions: used.filter((v) => v.loopId === loop.id).map((v) => versionOf(v, names)),
      checks: read[i] ?? [],
      workLog: signedRuns.filter((w) => w.loopId === loop.id).map((w) => workEntryOf(w, names)),
    })),
  )
  return new Set(rows.filter((_, i) => isBroken(sure(signed[i]))).map((l) => l.id))
}

/** The whole folder with every change counted: what a bundle holds. @throws HttpProblem 404 */
export async function readWholeFolder(db: Queries, loopId: string): Promise<WholeFolder> {
  const { row: _, trains: _heads, bench: _bench, ...folder } = await readFolder(db, loopId, true)
  return { ...folder, edges: await wholeTrains(db, loopId) }
}
