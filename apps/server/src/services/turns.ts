// Writes that must not overlap take turns: a transaction holding a named lock.
import { sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'

/** Runs `work` in a transaction; of several with the same `name` only one runs at a time, on all servers. */
export function inOneTurn<T>(db: Database, name: string, work: (tx: Queries) => Promise<T>): Promise<T> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`)
    return work(tx)
  })
}
