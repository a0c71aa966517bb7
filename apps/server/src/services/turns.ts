// Writes that must not overlap take turns: a transaction holding a named lock.
import { sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'

/** Transactions of this server at once: fewer than the pool has connections, so that readers are never starved by writers. */
const AT_ONCE = 8

const queues = new Map<string, Promise<unknown>>()
let running = 0
const waiting: (() => void)[] = []

/** Runs `work` after all that asked for the same name here before it, without holding a connection meanwhile. */
function inQueue<T>(name: string, work: () => Promise<T>): Promise<T> {
  const before = queues.get(name) ?? Promise.resolve()
  const mine = before.then(work, work)
  const settled = mine.catch(() => undefined).finally(() => queues.get(name) === settled && queues.delete(name))
  queues.set(name, settled)
  return mine
}

async function amongFew<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((go) => waiting.push(go))
  else running++
  try {
    return await work()
  } finally {
    const next = waiting.shift()
    if (next) next()
    else running--
  }
}

/** Runs `work` in a transaction; of several with the same `name` only one runs at a time, on all servers. */
export function inOneTurn<T>(db: Database, name: string, work: (tx: Queries) => Promise<T>): Promise<T> {
  return inQueue(name, () =>
    amongFew(() =>
      db.transaction(async (tx) => {
        await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`)
        return work(tx)
      }),
    ),
  )
}
