// The connection to PostgreSQL: migrations as the owner, everything else as the application's restricted role.
import { fileURLToPath } from 'node:url'
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import * as schema from './schema.ts'

export const APPLICATION_ROLE = 'calm_loop_app'
const MIGRATIONS = fileURLToPath(new URL('../../drizzle', import.meta.url))
/** Any number; keeps two servers from migrating at once. */
const MIGRATION_LOCK = 7_204_118

export type Database = NodePgDatabase<typeof schema>
/** Inside a transaction or outside of one. */
export type Queries = Database | Parameters<Parameters<Database['transaction']>[0]>[0]

/** Brings the tables up to date. */
export async function migrateDatabase(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    await migrate(drizzle(client), { migrationsFolder: MIGRATIONS })
  } finally {
    await client.end()
  }
}

/** Options that make a connection act as the application's role whatever user it signs in as. */
export function applicationConnection(url: string): pg.ClientConfig {
  return { connectionString: url, options: `-c role=${APPLICATION_ROLE}` }
}

export function openDatabase(url: string): { db: Database; pool: pg.Pool } {
  const pool = new pg.Pool({ ...applicationConnection(url), max: 12, connectionTimeoutMillis: 5000 })
  // An idle connection may be lost at any time (server restarted); the next query opens another.
  pool.on('error', () => undefined)
  return { db: drizzle(pool, { schema }), pool }
}
