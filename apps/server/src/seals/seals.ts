// Seals of signatures: made when somebody signs, and held against what is on record whenever a folder is read.
import {
  canonicalJson,
  type Check,
  type Folder,
  type Seal,
  type SealStanding,
  type Signature,
  type Version,
} from '@calm-loop/contract'
import { verdictOfCheck } from '@calm-loop/contract/judging'
import { createHash, type KeyObject } from 'node:crypto'
import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { sealKeys, seals } from '../db/schema.ts'
import { studyOf } from '../services/studies.ts'
import { publicKeyFrom, sealIsGood, type Sealer } from './sealer.ts'

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')

type Loop = Pick<Folder['loop'], 'id' | 'tag' | 'kind' | 'service' | 'area'>

/**
 * What a signature vouches for, by the form of the content. Older forms stay, so that older signatures can still be
 * held against the record.
 */
const CONTENTS: Record<number, (loop: Loop, version: Version, check: Check) => unknown> = {
  1: (loop, version, { signatures: _, imported: _imported, ...content }) => ({
    loop: { id: loop.id, tag: loop.tag, kind: loop.kind },
    entries: version.entries,
    check: content,
  }),
  2: (loop, version, { signatures: _, imported: _imported, ...content }) => ({
    loop: { id: loop.id, tag: loop.tag, kind: loop.kind, service: loop.service, area: loop.area },
    version: {
      id: version.id,
      number: version.number,
      author: version.author,
      startedAt: version.startedAt,
      ...(version.kindVersion ? { kindVersion: version.kindVersion } : {}),
    },
    entries: version.entries,
    check: content,
  }),
}
export const CONTENT_NOW = 2

/** SHA-256 over what was shown to the one who signed. */
export function digestOf(content: number, loop: Loop, version: Version, check: Check): string | undefined {
  const said = CONTENTS[content]
  return said && sha256(canonicalJson(said(loop, version, check)))
}

/** The form with which a digest agrees; undefined when none does: then something was changed. */
export const contentOfDigest = (digest: string, loop: Loop, version: Version, check: Check): number | undefined =>
  Object.keys(CONTENTS)
    .map(Number)
    .find((content) => digestOf(content, loop, version, check) === digest)

/** The text over which the key signs. */
function sealText({ value: _, ...rest }: Seal): string {
  return canonicalJson(rest)
}
export const sealHash = (seal: Seal): string => sha256(canonicalJson(seal))

/** Signs, chained to the newest seal of this installation. Call it inside a transaction. */
export async function makeSeal(
  tx: Queries,
  sealer: Sealer,
  of: { loop: Loop; version: Version; check: Check; signature: Signature; content?: number },
): Promise<Seal> {
  await tx.execute(sql`select pg_advisory_xact_lock(7204121)`)
  const [last] = await tx.select().from(seals).where(eq(seals.own, true)).orderBy(desc(seals.seq)).limit(1)
  const { loop, version, check, signature } = of
  const verdict = verdictOfCheck(studyOf(loop.kind, version), check)
  const seal: Seal = {
    format: 1,
    key: sealer.keyId,
    seq: (last?.seq ?? 0) + 1,
    previous: last?.hash ?? null,
    loop: loop.id,
    check: check.id,
    signature: signature.id,
    role: signature.role,
    by: signature.by,
    at: signature.at,
    statement: signature.statement,
    digest: signature.digest,
    content: of.content ?? CONTENT_NOW,
    verdict: verdict && { pass: verdict.pass, errorPct: verdict.errorPct },
    sealedAt: new Date().toISOString(),
    value: '',
  }
  const sealed = { ...seal, value: sealer.sign(sealText(seal)) }
  await tx
    .insert(seals)
    .values({ signatureId: signature.id, own: true, body: sealed, seq: sealed.seq, hash: sealHash(sealed) })
  return sealed
}

/** Keeps a seal that came with an import, as it came. */
export async function keepSeal(tx: Queries, seal: Seal): Promise<void> {
  await tx
    .insert(seals)
    .values({ signatureId: seal.signature, own: false, body: seal, seq: seal.seq, hash: sealHash(seal) })
}

interface KnownKey {
  readonly name: string
  readonly own: boolean
  readonly trusted: boolean
  readonly key: KeyObject
}

async function knownKeys(db: Queries): Promise<Map<string, KnownKey>> {
  const known = new Map<string, KnownKey>()
  for (const { id, publicKey, name, own, trusted } of await db.select().from(sealKeys))
    known.set(id, { name, own, trusted, key: publicKeyFrom(publicKey) })
  return known
}

/** A seal says what its signature says. */
const agrees = (seal: Seal, loop: Loop, check: Check, s: Signature): boolean =>
  seal.loop === loop.id &&
  seal.check === check.id &&
  seal.signature === s.id &&
  seal.role === s.role &&
  seal.by.id === s.by.id &&
  seal.by.name === s.by.name &&
  seal.at === s.at &&
  seal.statement === s.statement &&
  seal.digest === s.digest

type Row = typeof seals.$inferSelect

/** Whether a seal of this site stands in its place after the one before. */
const isChained = (row: Row, before: Row | undefined): boolean =>
  row.own &&
  row.body.seq === row.seq &&
  row.hash === sealHash(row.body) &&
  row.body.previous === (before?.hash ?? null) &&
  (row.body.seq === 1) === !before

function standingOf({
  loop,
  version,
  check,
  s,
  row,
  before,
  keys,
}: {
  readonly loop: Loop
  readonly version: Version | undefined
  readonly check: Check
  readonly s: Signature
  readonly row: Row | undefined
  readonly before: Row | undefined
  readonly keys: Map<string, KnownKey>
}): { standing: SealStanding; keyName?: string } {
  const fromHere = !check.imported || row?.own === true
  const broken = { standing: 'broken' as const }
  if (!version) return broken
  if (!row)
    return fromHere || contentOfDigest(s.digest, loop, version, check) === undefined ? broken : { standing: 'claimed' }
  const seal = row.body
  if (!agrees(seal, loop, check, s) || digestOf(seal.content, loop, version, check) !== s.digest) return broken
  const known = keys.get(seal.key)
  if (!known?.trusted) return fromHere ? broken : { standing: 'claimed' }
  if (!sealIsGood(known.key, sealText(seal), seal.value)) return broken
  if (!fromHere) return { standing: 'verified', keyName: known.name }
  return known.own && isChained(row, before) ? { standing: 'sealed', keyName: known.name } : broken
}

/** A loop's checks with the versions that they were made with. */
export interface Checked {
  readonly loop: Loop
  readonly versions: readonly Version[]
  readonly checks: readonly Check[]
}

/** The checks of each loop, with every signature's seal and how it stands. */
export async function withStandings(db: Queries, folders: readonly Checked[]): Promise<Check[][]> {
  const ids = folders.flatMap((f) => f.checks.flatMap((c) => c.signatures.map((s) => s.id)))
  if (!ids.length) return folders.map((f) => [...f.checks])
  const rows = await db.select().from(seals).where(inArray(seals.signatureId, ids))
  const bySignature = new Map(rows.map((r) => [r.signatureId, r]))
  const wanted = rows.filter((r) => r.own && r.seq > 1).map((r) => r.seq - 1)
  const before = wanted.length
    ? await db
        .select()
        .from(seals)
        .where(and(eq(seals.own, true), inArray(seals.seq, wanted)))
    : []
  const bySeq = new Map(before.map((r) => [r.seq, r]))
  const keys = await knownKeys(db)
  return folders.map(({ loop, versions, checks }) =>
    checks.map((check) => {
      const version = versions.find((v) => v.id === check.versionId)
      const signatures = check.signatures.map((s) => {
        const row = bySignature.get(s.id)
        const found = standingOf({ loop, version, check, s, row, before: row && bySeq.get(row.seq - 1), keys })
        return { ...s, ...(row ? { seal: row.body } : {}), ...found }
      })
      return { ...check, signatures }
    }),
  )
}
