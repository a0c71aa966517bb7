// What the register says of a loop, kept in step with its folder whenever that changes.
import { Refusal } from '@calm-loop/core/refusal'
import { eq } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { loops } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { readFolder } from './folder.ts'
import { readJudging } from './judging.ts'

/** Keeps the register's row in step with the folder. */
export async function refreshSummary(tx: Queries, workers: Workers, loopId: string): Promise<void> {
  const { loop, versions, checks, workLog } = await readFolder(tx, loopId)
  // Of the versions only the newest and those that were checked matter.
  const used = new Set([versions.at(-1)?.id, ...checks.map((c) => c.versionId)])
  const decided = workLog.filter((e) => e.what === 'interval' || e.what === 'fit')
  const folder = { loop, versions: versions.filter((v) => used.has(v.id)), checks, workLog: decided }
  const site = await readJudging(tx)
  try {
    await tx
      .update(loops)
      .set(await workers.run('summary', { folder, site }))
      .where(eq(loops.id, loopId))
  } catch (error) {
    // A loop that cannot be worked out keeps its row as it was.
    if (!(error instanceof Refusal) && !(error instanceof HttpProblem && error.code === 'too-much-work')) throw error
  }
}
