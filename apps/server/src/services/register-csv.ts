// The register as CSV (RFC 4180), out and in.
import { asc, eq, gt } from 'drizzle-orm'
import { v7 as uuid } from 'uuid'
import type { Database, Queries } from '../db/database.ts'
import { loops } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { rowOf } from './folder.ts'
import { createLoop } from './loops.ts'
import { inOneTurn } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

const BATCH = 1000

/**
 * The register piece by piece, so that nobody holds all of it. A broken seal stands in it as it was last looked at, on
 * a page or by the round: looking at all of them for a file would read every reading there is.
 */
export async function* registerCsv(db: Queries, workers: Workers, signal?: AbortSignal): AsyncGenerator<string> {
  for (let after = ''; ;) {
    const page = await db.select().from(loops).where(gt(loops.tag, after)).orderBy(asc(loops.tag)).limit(BATCH)
    yield await workers.run('registerText', { rows: page.map(rowOf), first: after === '' }, signal)
    if (page.length < BATCH) return
    after = sure(page.at(-1)).tag
  }
}

/** Adds the loops of a CSV with the columns tag, service, area, kind. One bad row, and nothing is stored. */
export async function importRegister(
  db: Database,
  workers: Workers,
  bytes: Uint8Array,
  byId: string,
): Promise<{ added: string[]; already: string[] }> {
  const good = await workers.run('parseRegister', bytes)
  return inOneTurn(db, 'register import', async (tx) => {
    const added: string[] = []
    const already: string[] = []
    for (const { line, identity } of good) {
      const [known] = await tx.select().from(loops).where(eq(loops.tag, identity.tag))
      if (known) {
        if (known.kind !== identity.kind)
          throw new HttpProblem(
            409,
            'tag-taken',
            `Line ${line}: ${identity.tag} is already here as another kind of point. Nothing was stored.`,
          )
        already.push(identity.tag)
        continue
      }
      await createLoop(tx, uuid(), identity, byId)
      added.push(identity.tag)
    }
    return { added, already }
  })
}
