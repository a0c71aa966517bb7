// Writes that must not overlap take turns: a transaction holding a named lock.
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import type { Person } from '@calm-loop/contract'
import type { Database, Queries } from '../db/database.ts'
import { isDatabaseAway } from '../http/problems.ts'

/** An entry for one of a loop's logs, by whoever makes it. */
export interface LogWrite<Entry> {
  readonly db: Database
  readonly loopId: string
  readonly id: string
  readonly entry: Entry
  readonly person: Person
  /** How long it waited on a device before it could be sent, ms. */
  readonly waited_ms?: number | undefined
}

/**
 * Transactions of this server at once: fewer than the pool has connections, so that readers are never starved by
 * writers.
 */
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

/** A transaction on a connection of its own, which goes back to the pool however it ends: a lost one is thrown away. */
async function inTransaction<T>(db: Database, work: (tx: Queries) => Promise<T>): Promise<T> {
  if (!(db.$client instanceof pg.Pool)) return db.transaction(work)
  const client = await db.$client.connect()
  let lost = true
  try {
    const result = await drizzle(client).transaction((tx) => work(tx as unknown as Queries))
    lost = false
    return result
  } catch (error) {
    lost = isDatabaseAway(error)
    throw error
  } finally {
    client.release(lost)
  }
}

/** Runs `work` in a transaction; of several with the same `name` only one runs at a time, on all servers. */
export function inOneTurn<T>(db: Database, name: string, work: (tx: Queries) => Promise<T>): Promise<T> {
  return inQueue(name, () =>
    amongFew(() =>
      inTransaction(db, async (tx) => {
        await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`)
        return work(tx)
      }),
    ),
  )
}
