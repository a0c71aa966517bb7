// Public keys that seals are verified against: this installation's own, and those of others that an administrator
// trusts.
import { workOf, type SealKey, type TrustKey } from '@calm-loop/contract'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { checks, loops, sealKeys, signatures, workLog } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import { keyIdOf, publicKeyFrom, type Sealer } from '../seals/sealer.ts'
import { standOfCheck } from '@calm-loop/contract/judging'
import { contentOfDigest, makeSeal, subjectOfCheck } from '../seals/seals.ts'
import { record } from './audit.ts'
import { readFolder } from './folder.ts'
import { readSetting, settleSetting } from './settings.ts'

export async function listKeys(db: Queries): Promise<SealKey[]> {
  const rows = await db.select().from(sealKeys).orderBy(asc(sealKeys.since), asc(sealKeys.id))
  return rows.map((row) => ({ ...row, since: row.since.toISOString() }))
}

/** Makes the sealer's public keys known. Only the owner of the tables can. */
export async function registerKeys(owner: Queries, { publicKeys }: Sealer): Promise<void> {
  for (const { id, publicKey, since } of publicKeys)
    await owner
      .insert(sealKeys)
      .values({ id, name: 'this installation', publicKey, own: true, trusted: true, since: new Date(since) })
      .onConflictDoNothing()
}

export async function trustKey(
  db: Database,
  id: string,
  { name, publicKey, trusted }: TrustKey,
  byId: string,
): Promise<SealKey[]> {
  try {
    publicKeyFrom(publicKey)
  } catch {
    throw new HttpProblem(
      422,
      'not-a-key',
      'This is not a public key for seals. Copy it from the other installation’s list of keys.',
    )
  }
  if (keyIdOf(publicKey) !== id)
    throw new HttpProblem(422, 'not-a-key', 'The key and its name in the address do not belong together.')
  await db.execute(sql`select seal_key_trust(${byId}::uuid, ${id}, ${name}, ${publicKey}, ${trusted})`)
  return listKeys(db)
}

/**
 * Whether the fingerprint of a certificate, the digest of what was signed, stands here: of a check that counts, and
 * unchanged.
 */
export async function fingerprintStands(db: Queries, digest: string): Promise<boolean> {
  const rows = await db
    .select({ loopId: loops.id, checkId: checks.id })
    .from(signatures)
    .innerJoin(checks, eq(checks.id, signatures.checkId))
    .innerJoin(loops, eq(loops.id, checks.loopId))
    .where(eq(signatures.digest, digest))
    .limit(1)
  const found = rows[0]
  if (!found) return runStands(db, digest)
  const check = (await readFolder(db, found.loopId)).checks.find((c) => c.id === found.checkId)
  return !!check && standOfCheck(check) === 'counts'
}

async function runStands(db: Queries, digest: string): Promise<boolean> {
  const [row] = await db
    .select({ id: workLog.id, loopId: workLog.loopId })
    .from(workLog)
    .where(and(eq(workLog.what, 'run-signed'), sql`${workLog.body}->>'digest' = ${digest}`))
    .limit(1)
  if (!row) return false
  const { workLog: log } = await readFolder(db, row.loopId)
  return workOf(log, 'run-signed').find((s) => s.id === row.id)?.standing === 'sealed'
}

/**
 * Seals, once for a database, what was signed here before there were seals. Only the owner of the tables can say that
 * it was done.
 */
export async function sealOlder(owner: Database, sealer: Sealer): Promise<void> {
  const DONE = 'older-sealed'
  if ((await readSetting(owner, DONE)) !== undefined) return
  await owner.transaction(async (tx) => {
    const open = await tx
      .selectDistinct({ loopId: checks.loopId })
      .from(signatures)
      .innerJoin(checks, eq(checks.id, signatures.checkId))
      .where(isNull(checks.imported))
    let sealed = 0
    for (const { loopId } of open) {
      const { loop, versions, checks: found } = await readFolder(tx, loopId)
      for (const check of found) {
        const version = versions.find((v) => v.id === check.versionId)
        if (check.imported || !version) continue
        for (const signature of check.signatures) {
          const subject = subjectOfCheck(loop, version, check)
          const content = contentOfDigest(signature.digest, subject)
          if (signature.seal || content === undefined) continue
          await makeSeal(tx, sealer, { subject, signature, content })
          sealed++
        }
      }
    }
    await settleSetting(tx, DONE, { at: new Date().toISOString(), sealed })
    if (sealed) await record({ tx, personId: null, action: 'older-sealed', loopId: null, details: { sealed } })
  })
}
