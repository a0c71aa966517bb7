// A loop folder brought in from a JSON bundle: with the marks of where it came from, and the seals of others as they
// are.
import { workOf, type Author, type Kept, type WholeFolder, type WorkBody, type WorkOf } from '@calm-loop/contract'
import { eq, sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import {
  checks,
  countLog,
  edgeTrains,
  gates,
  loops,
  readings,
  signatures,
  versions,
  wireLog,
  workLog,
} from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Sealer } from '../seals/sealer.ts'
import { contentOfDigest, keepSeal, makeSeal, signatureUnder, subjectOfCheck, subjectOfSigned } from '../seals/seals.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { readWholeFolder } from './folder.ts'
import { refreshSummary } from './summary.ts'
import { inOneTurn } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

function authorsOf(folder: WholeFolder): Author[] {
  return [
    ...folder.versions.map((v) => v.author),
    ...folder.checks.flatMap((c) => [
      c.startedBy,
      ...c.gates.map((g) => g.by),
      ...c.readings.map((r) => r.by),
      ...c.signatures.map((s) => s.by),
    ]),
    ...folder.wireLog.map((w) => w.by),
    ...folder.countLog.map((c) => c.by),
    ...folder.workLog.map((w) => w.by),
    ...folder.edges.map((e) => e.by),
  ]
}

/** Where a folder comes from: from elsewhere, or as this installation's own history (the demo plant). */
export interface ImportedAs {
  readonly byId: string | null
  /** Seals with this key what was signed, as the demo plant's own past. */
  readonly own?: Sealer
}

/** An entry of the log as it is kept. What others have decided or signed is theirs: it is marked, and not followed. */
function asKept(body: Kept<WorkBody>, foreign: boolean): Kept<WorkBody> {
  if (body.what === 'run-signed') {
    const {
      seal: _,
      standing: _standing,
      keyName: _key,
      ...signed
    } = body as Omit<WorkOf<'run-signed'>, 'id' | 'by' | 'at'>
    return foreign ? { ...signed, elsewhere: true } : signed
  }
  return foreign && (body.what === 'interval' || body.what === 'fit') ? { ...body, elsewhere: true } : body
}

async function store(tx: Queries, folder: WholeFolder, { byId, own }: ImportedAs): Promise<void> {
  const { createdAt, ...loop } = folder.loop
  const known = new Map(authorsOf(folder).map((a) => [a.id, a.name]))
  for (const [id, name] of known) await tx.execute(sql`select person_known(${id}::uuid, ${name})`)
  await tx.insert(loops).values({ ...loop, createdAt: new Date(createdAt), state: 'half-entered' })
  for (const { author, startedAt, savedAt, sealedAt, ...v } of folder.versions)
    await tx.insert(versions).values({
      ...v,
      loopId: loop.id,
      authorId: author.id,
      startedAt: new Date(startedAt),
      savedAt: new Date(savedAt),
      sealedAt: sealedAt ? new Date(sealedAt) : null,
    })
  if (folder.wireLog.length)
    await tx.insert(wireLog).values(
      folder.wireLog.map(({ id, by, at, ...body }, i) => ({
        id,
        loopId: loop.id,
        seq: i + 1,
        body,
        byId: by.id,
        at: new Date(at),
      })),
    )
  if (folder.countLog.length)
    await tx.insert(countLog).values(
      folder.countLog.map(({ id, by, at, ...body }, i) => ({
        id,
        loopId: loop.id,
        seq: i + 1,
        body,
        byId: by.id,
        at: new Date(at),
      })),
    )
  if (folder.workLog.length)
    await tx.insert(workLog).values(
      folder.workLog.map(({ id, by, at, ...body }, i) => ({
        id,
        loopId: loop.id,
        seq: i + 1,
        what: body.what,
        body: asKept(body, !own),
        byId: by.id,
        at: new Date(at),
      })),
    )
  if (!own) for (const { seal } of workOf(folder.workLog, 'run-signed')) if (seal) await keepSeal(tx, seal)
  for (const { by, at, ...train } of folder.edges)
    await tx.insert(edgeTrains).values({ ...train, loopId: loop.id, byId: by.id, at: new Date(at) })
  const head = folder.versions.at(-1)
  if (head) await tx.update(loops).set({ headVersionId: head.id }).where(eq(loops.id, loop.id))
  const imported = own ? null : { at: new Date().toISOString(), byId }
  for (const { startedBy, startedAt, gates: g, readings: r, signatures: s, imported: _, ...check } of folder.checks) {
    await tx
      .insert(checks)
      .values({ ...check, loopId: loop.id, startedById: startedBy.id, startedAt: new Date(startedAt), imported })
    if (g.length)
      await tx
        .insert(gates)
        .values(g.map(({ by, at, ...x }) => ({ ...x, checkId: check.id, byId: by.id, at: new Date(at) })))
    if (r.length)
      await tx.insert(readings).values(
        r.map(({ by, takenAt, savedAt, sampledAt, ...x }) => ({
          ...x,
          checkId: check.id,
          byId: by.id,
          takenAt: new Date(takenAt),
          savedAt: new Date(savedAt),
          sampledAt: sampledAt ? new Date(sampledAt) : null,
        })),
      )
    if (s.length)
      await tx.insert(signatures).values(
        s.map(({ by, at, seal: _, standing: _standing, keyName: _key, ...x }) => ({
          ...x,
          checkId: check.id,
          byId: by.id,
          name: by.name,
          at: new Date(at),
        })),
      )
    for (const { seal } of s) if (seal && !own) await keepSeal(tx, seal)
  }
}

/** Seals the signatures of a folder as this installation's own past. */
async function sealOwn(tx: Queries, sealer: Sealer, folder: WholeFolder): Promise<void> {
  for (const check of folder.checks) {
    const version = sure(folder.versions.find((v) => v.id === check.versionId))
    for (const signature of check.signatures) {
      const subject = subjectOfCheck(folder.loop, version, check)
      const content = contentOfDigest(signature.digest, subject)
      await makeSeal(tx, sealer, { subject, signature, ...(content ? { content } : {}) })
    }
  }
  for (const signed of workOf(folder.workLog, 'run-signed'))
    await makeSeal(tx, sealer, { subject: sure(subjectOfSigned(folder, signed)), signature: signatureUnder(signed) })
}

/** Adds a folder; one that is already here, byte for byte, is left as it is. */
export async function importBundle(
  db: Database,
  workers: Workers,
  bytes: Uint8Array,
  as: ImportedAs,
): Promise<{ added: string[]; already: string[] }> {
  const { folder } = await workers.run('parseBundle', bytes)
  return inOneTurn(db, `loop ${folder.loop.id}`, async (tx) => {
    const [same] = await tx.select().from(loops).where(eq(loops.id, folder.loop.id))
    if (same) {
      const here = await readWholeFolder(tx, same.id)
      if ((await workers.run('bundleText', here)) === (await workers.run('bundleText', folder)))
        return { added: [], already: [same.tag] }
      throw new HttpProblem(
        409,
        'folder-differs',
        `${same.tag} is already here and has gone on since; a folder is never overwritten. Nothing was stored.`,
      )
    }
    const [tag] = await tx.select().from(loops).where(eq(loops.tag, folder.loop.tag))
    if (tag)
      throw new HttpProblem(409, 'tag-taken', `Another loop here has the tag ${folder.loop.tag}. Nothing was stored.`)
    try {
      await store(tx, folder, as)
    } catch (error) {
      const { code } = ((error as { cause?: unknown }).cause ?? error) as { code?: string }
      if (code === '23505')
        throw new HttpProblem(
          409,
          'id-reused',
          'Parts of this folder are already here under another loop. Nothing was stored.',
        )
      throw error
    }
    if (as.own) await sealOwn(tx, as.own, folder)
    await refreshSummary(tx, workers, folder.loop.id)
    await record({
      tx,
      personId: as.byId,
      action: 'folder-imported',
      loopId: folder.loop.id,
      details: { tag: folder.loop.tag },
    })
    return { added: [folder.loop.tag], already: [] }
  })
}
