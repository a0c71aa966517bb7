// Every seal, every digest and the whole audit trail held against the record, as a folder does when it is opened.
import { asc, gt } from 'drizzle-orm'
import { workOf } from '@calm-loop/contract'
import type { Queries } from '../db/database.ts'
import { loops } from '../db/schema.ts'
import { auditPage } from '../services/audit.ts'
import { readFolder } from '../services/folder.ts'
import { sure } from '@calm-loop/core/sure'

export interface Verified {
  readonly loops: number
  /** Signatures by how they stand: sealed here, verified by a trusted key, claimed only, broken. */
  readonly signatures: Readonly<Record<'sealed' | 'verified' | 'claimed' | 'broken', number>>
  /** Tags of loops with a broken seal. */
  readonly broken: readonly string[]
  readonly audit: { readonly length: number; readonly brokenAt: number | null }
  readonly good: boolean
}

const BATCH = 200

/** @param progress told after each loop */
export async function verifyRecords(
  db: Queries,
  progress: (done: number) => void = () => undefined,
): Promise<Verified> {
  const signatures = { sealed: 0, verified: 0, claimed: 0, broken: 0 }
  const broken: string[] = []
  let done = 0
  for (let after = ''; ;) {
    const page = await db
      .select({ id: loops.id, tag: loops.tag })
      .from(loops)
      .where(gt(loops.tag, after))
      .orderBy(asc(loops.tag))
      .limit(BATCH)
    for (const { id, tag } of page) {
      const { checks, workLog } = await readFolder(db, id)
      const signed = [...checks.flatMap((c) => c.signatures), ...workOf(workLog, 'run-signed')]
      for (const s of signed) signatures[s.standing ?? 'broken']++
      if (signed.some((s) => (s.standing ?? 'broken') === 'broken')) broken.push(tag)
      progress(++done)
    }
    if (page.length < BATCH) break
    after = sure(page.at(-1)).tag
  }
  const { chain } = await auditPage(db, {})
  return { loops: done, signatures, broken, audit: chain, good: !broken.length && chain.brokenAt === null }
}
