// The record of a piece of kit: its calibrations with their certificates, and what it was used for since it was good.
import { canonicalJson, type Check, type Person } from '@calm-loop/contract'
import type { Calibration, KitRecord, KitUse, NewCalibration } from '@calm-loop/contract/kit-record'
import { foundGood } from '@calm-loop/contract/judging'
import { daysLater } from '@calm-loop/core/check'
import { sure } from '@calm-loop/core/sure'
import { and, desc, eq, gte, inArray, lt, sql, type SQL } from 'drizzle-orm'
import { createHash } from 'node:crypto'
import type { Queries } from '../db/database.ts'
import { kitCalibrations, kitCertificates } from '../db/kit-schema.ts'
import { checks, gear, loops, versions, workLog } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { author, checksWhere, namesOf, versionOf, type Names } from './folder.ts'
import { gearNamed } from './gear.ts'
import { movesOf } from './kit-moves.ts'

/** Most uses that are listed; what is beyond them is counted. */
const MOST_USES = 500
/** Checks that are judged anew in one piece of work. */
const AT_ONCE = 25

const CALIBRATION = {
  row: kitCalibrations,
  name: kitCertificates.name,
  digest: kitCertificates.digest,
}
const calibrationRows = (db: Queries, which: SQL) =>
  db
    .select(CALIBRATION)
    .from(kitCalibrations)
    .leftJoin(kitCertificates, eq(kitCertificates.calibrationId, kitCalibrations.id))
    .where(which)
type Row = Awaited<ReturnType<typeof calibrationRows>>[number]

const calibrationOf = ({ row, name, digest }: Row, piece: Piece, names: Names): Calibration => ({
  ...row.body,
  id: row.id,
  foundGood: foundGood(row.body, piece.ranges ?? []),
  savedBy: author(names, row.byId),
  at: row.at.toISOString(),
  file: name === null || digest === null ? null : { name, digest },
})

async function pieceOf(db: Queries, gearId: string) {
  const [piece] = await gearNamed(db, [gearId])
  if (!piece) throw notFound('This piece of kit')
  return piece
}
type Piece = Awaited<ReturnType<typeof pieceOf>>

/** The newest first: by the day of the calibration, of one day by when it was put on record. */
async function calibrationsOf(db: Queries, piece: Piece, names: Names): Promise<Calibration[]> {
  const rows = await calibrationRows(db, eq(kitCalibrations.gearId, piece.id))
  return rows
    .map((row) => calibrationOf(row, piece, names))
    .sort((a, b) => b.day.localeCompare(a.day) || b.at.localeCompare(a.at))
}

/**
 * Everything on record of a piece. @param asked what one of its calibrations put in doubt, which found it off; without
 * it the newest is asked
 * @throws HttpProblem `not-found`
 */
export async function kitRecord(db: Queries, workers: Workers, gearId: string, asked?: string): Promise<KitRecord> {
  const piece = await pieceOf(db, gearId)
  const names = await namesOf(db)
  const calibrations = await calibrationsOf(db, piece, names)
  const newest = asked === undefined ? calibrations[0] : calibrations.find((c) => c.id === asked)
  if (asked !== undefined && newest?.foundGood !== false) throw notFound('A calibration that found it off')
  const off = newest?.foundGood === false ? newest : undefined
  // Found good, or adjusted; of the one that found it off only the days before count.
  const before = off ? calibrations.slice(calibrations.indexOf(off) + 1) : calibrations
  const good = before.find((c) => c.foundGood || c.left === 'good')
  // Before its calibrations were put on record here, its own words say when it was calibrated.
  const goodOn = good?.day ?? (newest ? null : (piece.calibrated ?? null))
  const within = { since: goodOn ?? undefined, until: off?.day }
  const { uses, more } = await usesOf(db, workers, { piece, names, within, points: off?.points ?? [] })
  const moves = await movesOf(db, gearId)
  return { piece, calibrations, moves, off: off?.id ?? null, goodOn, uses, more }
}

interface Asked {
  readonly piece: Piece
  readonly names: Names
  /** Days; what it was used for on either is listed. */
  readonly within: { readonly since: string | undefined; readonly until: string | undefined }
  readonly points: Calibration['points']
}
const dayAfter = (day: string) => new Date(Date.parse(day) + 86_400_000)

async function usesOf(db: Queries, workers: Workers, asked: Asked): Promise<Pick<KitRecord, 'uses' | 'more'>> {
  const { piece, names, within } = asked
  const its = JSON.stringify([{ id: piece.id }])
  const between = (column: typeof checks.startedAt | typeof workLog.at) =>
    and(
      within.since === undefined ? undefined : gte(column, new Date(within.since)),
      within.until === undefined ? undefined : lt(column, dayAfter(within.until)),
    )
  // What is practised at the bench is no record: nothing of it is to be repeated.
  const which = and(
    sql`${checks.gear} @> ${its}::jsonb`,
    sql`${checks.practice} is not true`,
    between(checks.startedAt),
  )
  // Only the newest are read whole: a meter of ten years was used for thousands.
  const newest = db.select({ id: checks.id }).from(checks).where(which).orderBy(desc(checks.startedAt)).limit(MOST_USES)
  const listed = (await checksWhere(db, inArray(checks.id, newest), names)).reverse()
  const beyond = (await db.$count(checks, which)) - listed.length
  const runs = await db
    .select()
    .from(workLog)
    .where(and(eq(workLog.what, 'run-signed'), sql`${workLog.body}->'gear' @> ${its}::jsonb`, between(workLog.at)))
  const every = await db
    .select({ id: loops.id, tag: loops.tag, kind: loops.kind })
    .from(loops)
    .where(inArray(loops.id, [...new Set([...listed, ...runs].map((u) => u.loopId))]))
  const loopOf = new Map(every.map((l) => [l.id, l]))
  const judged = await judgedAgain(db, workers, { asked, listed, kindOf: (id) => sure(loopOf.get(id)).kind })
  const atLoop = (id: string) => ({ id, tag: sure(loopOf.get(id)).tag })
  const ofChecks = listed.map(({ loopId, check }, i): KitUse => ({
    ...{ id: check.id, loop: atLoop(loopId), what: 'check', name: check.phase },
    ...{ on: check.startedAt, by: check.startedBy.name, signed: check.signatures.length > 0 },
    ...sure(judged[i]),
  }))
  const signed = runs.flatMap(({ id, loopId, body, byId, at }): KitUse[] =>
    body.what === 'run-signed' && body.role === 'performed'
      ? [
          {
            ...{ id, loop: atLoop(loopId), what: 'verification', name: body.sheet, on: at.toISOString() },
            ...{ by: author(names, byId).name, signed: true, verdict: null, without: null, movedPct: null },
            words: 'A verification is judged by its own rows: look at it there.',
          },
        ]
      : [],
  )
  const uses = [...ofChecks, ...signed].sort((a, b) => b.on.localeCompare(a.on))
  return { uses: uses.slice(0, MOST_USES), more: beyond + Math.max(0, uses.length - MOST_USES) }
}

type Judged = Pick<KitUse, 'verdict' | 'without' | 'movedPct' | 'words'>
interface ToJudge {
  readonly asked: Asked
  readonly listed: readonly { readonly loopId: string; readonly check: Check }[]
  readonly kindOf: (loopId: string) => string
}
/** How each check stands, and would stand without the error that was found; some at a time, away from the others. */
async function judgedAgain(db: Queries, workers: Workers, { asked, listed, kindOf }: ToJudge): Promise<Judged[]> {
  const judged: Judged[] = []
  for (let i = 0; i < listed.length; i += AT_ONCE) {
    const some = listed.slice(i, i + AT_ONCE)
    const ids = some.map((s) => s.check.versionId)
    const rows = await db.select().from(versions).where(inArray(versions.id, ids))
    const version = new Map(rows.map((v) => [v.id, versionOf(v, asked.names)]))
    const cases = some.map(({ loopId, check }) => ({
      ...{ kind: kindOf(loopId), check, version: sure(version.get(check.versionId)) },
    }))
    judged.push(...(await workers.run('withoutError', { cases, gearId: asked.piece.id, points: asked.points })))
  }
  return judged
}

/**
 * Puts a calibration on record; the newest gives the piece its day, certificate and when it is due again. The same
 * again changes nothing.
 * @throws HttpProblem `id-reused`, `not-found`
 */
export async function addCalibration(
  tx: Queries,
  ids: { readonly gearId: string; readonly calibrationId: string },
  body: NewCalibration,
  person: Person,
): Promise<Calibration> {
  const piece = await pieceOf(tx, ids.gearId)
  const names = await namesOf(tx)
  const [known] = await calibrationRows(tx, eq(kitCalibrations.id, ids.calibrationId))
  if (known) {
    if (known.row.gearId !== piece.id || canonicalJson(known.row.body) !== canonicalJson(body)) throw idReused()
    return calibrationOf(known, piece, names)
  }
  if (body.day > new Date(Date.now() + 86_400_000).toISOString().slice(0, 10))
    throw new HttpProblem(422, 'invalid-input', 'A calibration lies behind: its day is not there yet.')
  if (body.due <= body.day) throw new HttpProblem(422, 'invalid-input', 'It is due again after the day of it.')
  const values = { id: ids.calibrationId, gearId: piece.id, body, byId: person.id, at: new Date() }
  const [row] = await tx.insert(kitCalibrations).values(values).returning()
  const newest = (await calibrationsOf(tx, piece, names))[0]
  if (newest?.id === ids.calibrationId) {
    const due = body.left === 'good' ? body.due : daysLater(body.day, -1)
    const set = { calibrated: body.day, certificate: body.certificate, due }
    await tx.update(gear).set(set).where(eq(gear.id, piece.id))
  }
  const details = { gear: piece.name, ...ids, ...body }
  await record({ tx, personId: person.id, action: 'kit-calibrated', loopId: null, details })
  return calibrationOf({ row: sure(row), name: null, digest: null }, piece, names)
}

/**
 * Keeps the certificate of a calibration, once; the same file again changes nothing.
 * @throws HttpProblem `not-a-pdf`, `id-reused`, `not-found`
 */
export async function keepCertificate(
  tx: Queries,
  ids: { readonly gearId: string; readonly calibrationId: string },
  file: { readonly bytes: Uint8Array; readonly name: string },
  person: Person,
): Promise<Calibration> {
  const piece = await pieceOf(tx, ids.gearId)
  const which = and(eq(kitCalibrations.id, ids.calibrationId), eq(kitCalibrations.gearId, piece.id))
  const [known] = await calibrationRows(tx, sure(which))
  if (!known) throw notFound('This calibration')
  const bytes = Buffer.from(file.bytes)
  if (!bytes.subarray(0, 1024).includes('%PDF-'))
    throw new HttpProblem(422, 'not-a-pdf', 'This file is no PDF. The calibration stands without its certificate.')
  const digest = createHash('sha256').update(bytes).digest('hex')
  const name = file.name.trim() || 'certificate.pdf'
  const names = await namesOf(tx)
  if (known.digest !== null && known.digest !== digest)
    throw idReused('Another certificate is kept for this calibration; it is never replaced.')
  if (known.digest === null) {
    const kept = { calibrationId: ids.calibrationId, name, digest, file: bytes, byId: person.id, at: new Date() }
    await tx.insert(kitCertificates).values(kept)
    const details = { gear: piece.name, ...ids, name, digest }
    await record({ tx, personId: person.id, action: 'kit-certificate-kept', loopId: null, details })
  }
  return calibrationOf({ row: known.row, name: known.name ?? name, digest }, piece, names)
}

/** The certificate as it came. @throws HttpProblem `not-found` */
export async function certificateOf(
  db: Queries,
  ids: { readonly gearId: string; readonly calibrationId: string },
): Promise<{ name: string; bytes: Buffer }> {
  const [row] = await db
    .select({ name: kitCertificates.name, bytes: kitCertificates.file })
    .from(kitCertificates)
    .innerJoin(kitCalibrations, eq(kitCalibrations.id, kitCertificates.calibrationId))
    .where(and(eq(kitCertificates.calibrationId, ids.calibrationId), eq(kitCalibrations.gearId, ids.gearId)))
  if (!row) throw notFound('This certificate')
  return row
}
