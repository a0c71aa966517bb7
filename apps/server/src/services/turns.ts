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

/** Within a turn: the tables, and the connection itself for what is asked very often. */
type InTurn<T> = (tx: Queries, client: pg.ClientBase) => Promise<T>

const begun = (literal: string) => `begin; select pg_advisory_xact_lock(hashtextextended(${literal}, 0))`

/** A transaction on a connection of its own, which goes back to the pool however it ends: a lost one is thrown away. */
async function inTransaction<T>(pool: pg.Pool, name: string, work: InTurn<T>): Promise<T> {
  const client = await pool.connect()
  let lost = true
  try {
    await client.query(begun(client.escapeLiteral(name)))
    const result = await work(drizzle(client) as unknown as Queries, client)
    const { command } = await client.query('commit')
    // What failed inside and was not told would be given up without a word.
    if (command !== 'COMMIT') throw new Error('The transaction was given up by the database.')
    lost = false
    return result
  } catch (error) {
    lost = isDatabaseAway(error)
    if (!lost) await client.query('rollback').catch(() => (lost = true))
    throw error
  } finally {
    client.release(lost)
  }
}

/** The same on the one connection of an owner. */
async function onOwn<T>(db: Database, name: string, work: InTurn<T>): Promise<T> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`)
    return work(tx, db.$client as pg.ClientBase)
  })
}

/** Runs `work` in a transaction; of several with the same `name` only one runs at a time, on all servers. */
export function inOneTurn<T>(db: Database, name: string, work: InTurn<T>): Promise<T> {
  const { $client } = db
  return inQueue(name, () =>
    amongFew(() => ($client instanceof pg.Pool ? inTransaction($client, name, work) : onOwn(db, name, work))),
  )
}
