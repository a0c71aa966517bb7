// Seals of signatures: made when somebody signs, and held against what is on record whenever a folder is read.
import {
  canonicalJson,
  inWorld,
  workOf,
  type Check,
  type Folder,
  type Seal,
  type Signature,
  type Version,
  type WorkEntry,
  type WorkOf,
} from '@calm-loop/contract'
import { judgeRun, runRecord, verdictOfCheck, type RunRecord } from '@calm-loop/contract/judging'
import { createHash, type KeyObject } from 'node:crypto'
import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { sealKeys, seals } from '../db/schema.ts'
import { studyOf } from '../services/studies.ts'
import { publicKeyFrom, sealIsGood, type Sealer } from './sealer.ts'

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')

type Loop = Pick<Folder['loop'], 'id' | 'tag' | 'kind' | 'service' | 'area'>

type Contents = Readonly<Record<number, () => unknown>>
/** What is signed: a check, or the run of a sheet. */
export interface Subject {
  readonly loop: Loop
  readonly name: { readonly check: string } | { readonly run: string }
  /** What was shown to the one who signs, by the form of the content: what a signature vouches for. */
  readonly contents: Contents
  readonly verdict: () => Seal['verdict']
  /** It came with a file, with signatures of others. */
  readonly imported: boolean
}

const whole = (version: Version) => ({
  id: version.id,
  number: version.number,
  author: version.author,
  startedAt: version.startedAt,
  ...(version.kindVersion ? { kindVersion: version.kindVersion } : {}),
})
const named = ({ id, tag, kind, service, area }: Loop) => ({ id, tag, kind, service, area })

/** Older forms stay, so that older signatures can still be held against the record. */
export function subjectOfCheck(loop: Loop, version: Version, check: Check): Subject {
  const { signatures: _, imported, ...content } = check
  return {
    loop,
    name: { check: check.id },
    contents: {
      1: () => ({
        loop: { id: loop.id, tag: loop.tag, kind: loop.kind },
        entries: version.entries,
        check: content,
      }),
      2: () => ({ loop: named(loop), version: whole(version), entries: version.entries, check: content }),
    },
    verdict: () => {
      const verdict = verdictOfCheck(studyOf(loop.kind, version), check)
      return verdict && { pass: verdict.pass, errorPct: verdict.errorPct }
    },
    imported: !!imported,
  }
}

type SignedRun = Pick<WorkOf<'run-signed'>, 'gear' | 'ambient' | 'elsewhere'>

/** A run with the kit that is named in its first signature. */
export function subjectOfRun(
  loop: Loop,
  version: Version,
  record: RunRecord,
  { gear, ambient, elsewhere }: SignedRun,
): Subject {
  const { run, sheet, steps, health, reference } = record
  return {
    loop,
    name: { run },
    contents: {
      1: () => ({
        loop: named(loop),
        version: whole(version),
        entries: version.entries,
        run: {
          id: run,
          sheet,
          steps,
          gear,
          ambient,
          ...(health ? { health } : {}),
          ...(reference ? { reference } : {}),
        },
      }),
    },
    verdict: () => {
      const judged = judgeRun(studyOf(loop.kind, version), record)
      if (judged?.pass === undefined) return null
      const offs = judged.lines.flatMap((l) => (l.off !== undefined && l.offUnit === '%' ? [l.off] : []))
      const worst = offs.toSorted((x, y) => Math.abs(y) - Math.abs(x))[0]
      return { pass: judged.pass, errorPct: worst ?? null }
    },
    imported: !!elsewhere,
  }
}

/** The newest form of the content. */
export const contentNow = ({ contents }: Subject): number => Math.max(...Object.keys(contents).map(Number))

/** SHA-256 over what was shown to the one who signed. */
export function digestOf(content: number, { contents }: Subject): string | undefined {
  const said = contents[content]
  return said && sha256(canonicalJson(said()))
}

/** The form with which a digest agrees; undefined when none does: then something was changed. */
export const contentOfDigest = (digest: string, subject: Subject): number | undefined =>
  Object.keys(subject.contents)
    .map(Number)
    .find((content) => digestOf(content, subject) === digest)

/** The text over which the key signs. */
function sealText({ value: _, ...rest }: Seal): string {
  return canonicalJson(rest)
}
export const sealHash = (seal: Seal): string => sha256(canonicalJson(seal))

/** Signs, chained to the newest seal of this installation. Call it inside a transaction. */
export async function makeSeal(
  tx: Queries,
  sealer: Sealer,
  of: { subject: Subject; signature: Signature; content?: number },
): Promise<Seal> {
  await tx.execute(sql`select pg_advisory_xact_lock(7204121)`)
  const [last] = await tx.select().from(seals).where(eq(seals.own, true)).orderBy(desc(seals.seq)).limit(1)
  const { subject, signature } = of
  const seal: Seal = {
    format: 1,
    key: sealer.keyId,
    seq: (last?.seq ?? 0) + 1,
    previous: last?.hash ?? null,
    loop: subject.loop.id,
    ...subject.name,
    signature: signature.id,
    role: signature.role,
    by: signature.by,
    at: signature.at,
    statement: signature.statement,
    digest: signature.digest,
    content: of.content ?? contentNow(subject),
    verdict: subject.verdict(),
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
const agrees = (seal: Seal, { loop, name }: Subject, s: Signature): boolean =>
  seal.loop === loop.id &&
  seal.check === ('check' in name ? name.check : undefined) &&
  seal.run === ('run' in name ? name.run : undefined) &&
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

function standingOf(
  subject: Subject,
  s: Signature,
  { row, before, keys }: { row: Row | undefined; before: Row | undefined; keys: Map<string, KnownKey> },
): Pick<Signature, 'standing' | 'keyName'> {
  const fromHere = !subject.imported || row?.own === true
  const broken = { standing: 'broken' as const }
  if (!row) return fromHere || contentOfDigest(s.digest, subject) === undefined ? broken : { standing: 'claimed' }
  const seal = row.body
  if (!agrees(seal, subject, s) || digestOf(seal.content, subject) !== s.digest) return broken
  const known = keys.get(seal.key)
  if (!known?.trusted) return fromHere ? broken : { standing: 'claimed' }
  if (!sealIsGood(known.key, sealText(seal), seal.value)) return broken
  if (!fromHere) return { standing: 'verified', keyName: known.name }
  return known.own && isChained(row, before) ? { standing: 'sealed', keyName: known.name } : broken
}

/** A signature and what it is under; without a subject it stands for nothing, and is broken. */
interface Signed {
  readonly subject: Subject | undefined
  readonly signature: Signature
}
type Marks = Pick<Signature, 'seal' | 'standing' | 'keyName'>

/** Each signature's seal, and how it stands, by its id. */
async function marksOf(db: Queries, signed: readonly Signed[]): Promise<Map<string, Marks>> {
  if (!signed.length) return new Map()
  const ids = signed.map((s) => s.signature.id)
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
  return new Map(
    signed.map(({ subject, signature }): [string, Marks] => {
      const row = bySignature.get(signature.id)
      const beside = { row, before: row && bySeq.get(row.seq - 1), keys }
      const found = subject ? standingOf(subject, signature, beside) : { standing: 'broken' as const }
      return [signature.id, { ...(row ? { seal: row.body } : {}), ...found }]
    }),
  )
}

/** A loop's checks with the versions that they were made with, and its log of work. */
export interface Recorded {
  readonly loop: Loop
  readonly versions: readonly Version[]
  readonly checks: readonly Check[]
  readonly workLog: readonly WorkEntry[]
}

/** A signature under a run, in the form of those under checks. */
export const signatureUnder = (s: WorkOf<'run-signed'>): Signature => ({
  ...{ id: s.id, role: s.role, by: s.by, at: s.at, statement: s.statement, digest: s.digest },
})

/** What a signature under a run vouches for; undefined where the log or the version does not have it. */
export function subjectOfSigned(
  { loop, versions, workLog }: Omit<Recorded, 'checks'>,
  signed: WorkOf<'run-signed'>,
): Subject | undefined {
  const version = versions.find((v) => v.id === signed.version)
  const record = runRecord(inWorld(workLog, false), signed.run)
  return version && record && subjectOfRun(loop, version, record, signed)
}

/** Checks and logs of loops, with every signature's seal and how it stands. */
export async function withStandings(
  db: Queries,
  folders: readonly Recorded[],
): Promise<Pick<Folder, 'checks' | 'workLog'>[]> {
  const ofFolder = (f: Recorded): Signed[] => [
    ...f.checks.flatMap((check) => {
      const version = f.versions.find((v) => v.id === check.versionId)
      const subject = version && subjectOfCheck(f.loop, version, check)
      return check.signatures.map((signature) => ({ subject, signature }))
    }),
    ...workOf(f.workLog, 'run-signed').map((s) => ({ subject: subjectOfSigned(f, s), signature: signatureUnder(s) })),
  ]
  const marks = await marksOf(db, folders.flatMap(ofFolder))
  return folders.map(({ checks, workLog }) => ({
    checks: checks.map((check) => ({
      ...check,
      signatures: check.signatures.map((s) => ({ ...s, ...marks.get(s.id) })),
    })),
    workLog: workLog.map((e) => (e.what === 'run-signed' ? { ...e, ...marks.get(e.id) } : e)),
  }))
}
