// A loop folder out into a JSON bundle and back in, byte for byte.
import {
  Bundle,
  BUNDLE_FORMAT,
  BUNDLE_VERSION,
  canonicalJson,
  coreTrain,
  type Author,
  type WholeFolder,
} from '@calm-loop/contract'
import { refuseUnsound } from '@calm-loop/core/discrete'
import { KINDS } from '@calm-loop/core/kinds'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { eq, inArray } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
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
import { HttpProblem } from '../http/problems.ts'
import { record } from './audit.ts'
import { trainRow } from './counting.ts'
import { readWholeFolder, signedDigest } from './folder.ts'
import { refreshSummary } from './summary.ts'
import { inOneTurn } from './turns.ts'

/** The bundle's text: sorted keys, two spaces, a line feed at the end. */
export function bundleText(folder: WholeFolder): string {
  const { loop, versions, checks, wireLog, countLog, workLog, edges } = folder
  // What only some points have stands there only where there is some.
  const some = {
    ...(countLog.length ? { countLog } : {}),
    ...(workLog.length ? { workLog } : {}),
    ...(edges.length ? { edges } : {}),
  }
  const whole = { loop, versions, checks, wireLog, ...some }
  return `${canonicalJson({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION, folder: whole }, 2)}\n`
}

const refuse = (code: string, says: string, fields?: { path: string; rule: string }[]) =>
  new HttpProblem(422, code, `${says} Nothing was stored.`, fields ? { fields } : {})

/** Reads a bundle's text. @throws HttpProblem `not-json`, `newer-version`, `not-a-bundle` */
export function parseBundle(text: string): Bundle {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw refuse('not-json', 'This is not JSON, or the file ends too early: it may not have been copied whole.')
  }
  const head = value as { format?: unknown; version?: unknown } | null
  if (head?.format !== BUNDLE_FORMAT)
    throw refuse('not-a-bundle', 'This is not a loop folder made by this application.')
  if (typeof head.version === 'number' && head.version > BUNDLE_VERSION)
    throw refuse(
      'newer-version',
      `This bundle is of version ${head.version}; this installation reads up to ${BUNDLE_VERSION}. Update it first.`,
    )
  const parsed = Bundle.safeParse(value)
  if (!parsed.success)
    throw refuse(
      'not-a-bundle',
      'The bundle is damaged: some of it is missing or not of the right form.',
      parsed.error.issues.slice(0, 20).map((i) => ({ path: i.path.join('.'), rule: i.message })),
    )
  refuseFalse(parsed.data.folder)
  return parsed.data
}

/** A bundle that contradicts itself, or whose signed content is not what was signed. */
function refuseFalse(folder: WholeFolder): void {
  if (!KINDS.some((k) => k.id === folder.loop.kind))
    throw refuse('unknown-kind', `This installation does not know the kind of point “${folder.loop.kind}”.`)
  const ids = [
    ...folder.versions,
    ...folder.checks,
    ...folder.wireLog,
    ...folder.countLog,
    ...folder.workLog,
    ...folder.edges,
    ...folder.checks.flatMap((c) => [...c.gates, ...c.readings, ...c.signatures]),
  ].map((x) => x.id)
  if (new Set(ids).size !== ids.length)
    throw refuse('not-a-bundle', 'The bundle is damaged: one id stands for two things.')
  folder.versions.forEach((v, i) => {
    if (v.number !== i + 1 || v.parentId !== (folder.versions[i - 1]?.id ?? null))
      throw refuse('not-a-bundle', 'The bundle is damaged: its versions do not follow one another.')
  })
  folder.edges.forEach((train, i) => {
    const unsound = attempt(() => refuseUnsound(coreTrain(train)))
    const { endMs, changes } = trainRow(train)
    const before = folder.edges[i - 1]
    if (unsound instanceof Refusal || endMs !== train.endMs || changes !== train.changes || (before && before.endMs >= train.startMs))
      throw refuse('not-a-bundle', 'The bundle is damaged: its counted changes do not follow one another.')
  }) // prettier-ignore
  for (const check of folder.checks) {
    const version = folder.versions.find((v) => v.id === check.versionId)
    if (!version)
      throw refuse('not-a-bundle', 'The bundle is damaged: a check was made with entries that are not in it.')
    for (const signature of check.signatures)
      if (signature.digest !== signedDigest(folder.loop, version, check))
        throw refuse(
          'signature-broken',
          `What ${signature.by.name} signed on ${signature.at.slice(0, 10)} is not what the bundle holds: it was changed afterwards.`,
        )
  }
}

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

async function store(tx: Queries, folder: WholeFolder): Promise<void> {
  const { createdAt, ...loop } = folder.loop
  const known = new Map(authorsOf(folder).map((a) => [a.id, a.name]))
  if (known.size)
    await tx
      .insert(people)
      .values([...known].map(([id, name]) => ({ id, name, roles: [] })))
      .onConflictDoNothing()
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
          id, loopId: loop.id, seq: i + 1, body, byId: by.id, at: new Date(at),
        })), // prettier-ignore
    )
  if (folder.countLog.length)
    await tx.insert(countLog).values(
      folder.countLog.map(({ id, by, at, ...body }, i) => ({
          id, loopId: loop.id, seq: i + 1, body, byId: by.id, at: new Date(at),
        })), // prettier-ignore
    )
  if (folder.workLog.length)
    await tx.insert(workLog).values(
      folder.workLog.map(({ id, by, at, ...body }, i) => ({
          id, loopId: loop.id, seq: i + 1, what: body.what, body, byId: by.id, at: new Date(at),
        })), // prettier-ignore
    )
  for (const { by, at, ...train } of folder.edges)
    await tx.insert(edgeTrains).values({ ...train, loopId: loop.id, byId: by.id, at: new Date(at) })
  const head = folder.versions.at(-1)
  if (head) await tx.update(loops).set({ headVersionId: head.id }).where(eq(loops.id, loop.id))
  for (const { startedBy, startedAt, gates: g, readings: r, signatures: s, ...check } of folder.checks) {
    await tx
      .insert(checks)
      .values({ ...check, loopId: loop.id, startedById: startedBy.id, startedAt: new Date(startedAt) })
    if (g.length)
      await tx
        .insert(gates)
        .values(g.map(({ by, at, ...x }) => ({ ...x, checkId: check.id, byId: by.id, at: new Date(at) })))
    if (r.length)
      await tx.insert(readings).values(
        r.map(({ by, takenAt, savedAt, ...x }) => ({
          ...x,
          checkId: check.id,
          byId: by.id,
          takenAt: new Date(takenAt),
          savedAt: new Date(savedAt),
        })),
      )
    if (s.length)
      await tx
        .insert(signatures)
        .values(
          s.map(({ by, at, ...x }) => ({ ...x, checkId: check.id, byId: by.id, name: by.name, at: new Date(at) })),
        )
  }
}

/** Adds a folder; one that is already here, byte for byte, is left as it is. */
export function importBundle(
  db: Database,
  text: string,
  byId: string | null,
): Promise<{ added: string[]; already: string[] }> {
  const { folder } = parseBundle(text)
  return inOneTurn(db, `loop ${folder.loop.id}`, async (tx) => {
    const [same] = await tx.select().from(loops).where(eq(loops.id, folder.loop.id))
    if (same) {
      if (bundleText(await readWholeFolder(tx, same.id)) === bundleText(folder))
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
    const versionIds = folder.versions.map((v) => v.id)
    if (versionIds.length && (await tx.select().from(versions).where(inArray(versions.id, versionIds)).limit(1)).length)
      throw new HttpProblem(
        409,
        'id-reused',
        'Parts of this folder are already here under another loop. Nothing was stored.',
      )
    await store(tx, folder)
    await refreshSummary(tx, folder.loop.id)
    await record(tx, byId, 'folder-imported', folder.loop.id, { tag: folder.loop.tag })
    return { added: [folder.loop.tag], already: [] }
  })
}
