// The connection to PostgreSQL: migrations as the owner, everything else as the application's restricted role.
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import { makeQueue } from '../errands/queue.ts'
import { APPLICATION_ROLE } from './role.ts'
import * as schema from './schema.ts'
import { sure } from '@calm-loop/core/sure'

const MIGRATIONS = fileURLToPath(new URL('../../drizzle', import.meta.url))
/** Any number; keeps two servers from migrating at once. */
const MIGRATION_LOCK = 7_204_118
const CONNECTIONS = 12
const PATIENCE_ms = 60_000

export type Database = NodePgDatabase<typeof schema> & { readonly $client?: unknown }
/** Inside a transaction or outside of one. */
export type Queries = Database | Parameters<Parameters<Database['transaction']>[0]>[0]

/** The database was written by a newer program than this one. */
export class NewerDatabase extends Error {}

/** The newest change of the tables that this program knows, ms since 1970. */
export function newestKnown(): number {
  const journal = JSON.parse(readFileSync(`${MIGRATIONS}/meta/_journal.json`, 'utf8')) as {
    entries: { when: number }[]
  }
  return Math.max(...journal.entries.map((e) => e.when))
}

/** @throws NewerDatabase */
async function refuseNewer(client: pg.Client): Promise<void> {
  const newest = newestKnown()
  const { rows } = await client.query<{ there: string | null }>(
    `select to_regclass('drizzle.__drizzle_migrations')::text there`,
  )
  if (!sure(rows[0]).there) return
  const applied = await client.query<{ newest: string | null }>(
    'select max(created_at) newest from drizzle.__drizzle_migrations',
  )
  if (Number(sure(applied.rows[0]).newest ?? 0) > newest)
    throw new NewerDatabase(
      'This database was written by a newer version of Calm Loop than the one that is starting. Start the ' +
        'newer version; nothing was changed.',
    )
}

/** Does `work` as the owner of the tables, one server at a time. */
export async function asOwner<T>(url: string, work: (db: Database, client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url })
  client.on('error', () => undefined)
  await client.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    return await work(drizzle(client, { schema }), client)
  } finally {
    await client.end().catch(() => undefined)
  }
}

/** Brings the tables up to date. @throws NewerDatabase */
export function migrateDatabase(url: string): Promise<void> {
  return asOwner(url, async (_db, client) => {
    await refuseNewer(client)
    await migrate(drizzle(client), { migrationsFolder: MIGRATIONS })
    await makeQueue(client)
  })
}

/** Options that make a connection act as the application's role whatever user it signs in as. */
export function applicationConnection(url: string): pg.ClientConfig {
  return { connectionString: url, options: `-c role=${APPLICATION_ROLE}` }
}

export function openDatabase(url: string): { db: Database; pool: pg.Pool } {
  const pool = new pg.Pool({
    ...applicationConnection(url),
    max: CONNECTIONS,
    connectionTimeoutMillis: 5000,
    // A server that was cut off without a word never answers: then the query is given up.
    query_timeout: PATIENCE_ms,
    keepAlive: true,
  })
  // A connection may be lost at any time (server restarted, killed, failed over): at rest the next query opens another,
  // at work the query under way is refused. Neither may end the program.
  pool.on('error', () => undefined)
  pool.on('connect', (client) => void client.on('error', () => undefined))
  return { db: drizzle(pool, { schema }), pool }
}
