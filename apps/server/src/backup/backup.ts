// A backup of everything, taken while the server runs: tables as they were at one moment, secrets sealed by a
// passphrase, and a manifest with the digest of each file.
import { execFile } from 'node:child_process'
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import pg from 'pg'
import { sure } from '@calm-loop/core/sure'
import {
  backupName,
  BackupProblem,
  DATABASE,
  digestOfFile,
  listBackups,
  madeAt,
  MANIFEST,
  SECRETS,
  type Manifest,
} from './manifest.ts'
import { sealBox, SHORTEST_PASSPHRASE } from './sealed-box.ts'

const run = promisify(execFile)

export interface Installation {
  /** Connection of the tables’ owner. */
  readonly ownerUrl: string
  /** The key that seals signatures. */
  readonly sealKeyFile: string
  /** Folder of PostgreSQL’s programs. */
  readonly programs: string
}

/** What is not in the dump: sessions and long work end with a restore, settings hold secrets and go sealed. */
const LEFT_OUT = ['sessions', 'settings', 'link_leases', 'errands', 'errand_parts', 'out_messages']
const COUNTED = ['people', 'loops', 'versions', 'checks', 'readings', 'signatures', 'seals', 'work_log', 'audit']

/** The address without its password, which goes by the environment: arguments are seen by everyone on the machine. */
export function withoutPassword(url: string): { address: string; env: NodeJS.ProcessEnv } {
  const at = new URL(url)
  const password = decodeURIComponent(at.password)
  at.password = ''
  return { address: at.toString(), env: { ...process.env, PGPASSWORD: password } }
}

/** Words of a program that failed, without what it was called with. */
export const failureOf = (error: unknown): string =>
  String((error as { stderr?: string }).stderr ?? (error as Error).message).trim()

export function refuseShort(passphrase: string): void {
  if (passphrase.length < SHORTEST_PASSPHRASE)
    throw new BackupProblem(
      `The secrets of a backup are sealed by a passphrase of ${SHORTEST_PASSPHRASE} letters or more: give it as ` +
        'CALM_LOOP_PASSPHRASE, and keep it where the backup is not.',
    )
}

async function countOf(client: pg.Client, table: string): Promise<number> {
  const { rows } = await client.query<{ n: number }>(`select count(*)::int n from ${client.escapeIdentifier(table)}`)
  return sure(rows[0]).n
}

/** Makes a backup below `into` and returns its folder. @throws BackupProblem */
export async function makeBackup(of: Installation, into: string, passphrase: string): Promise<string> {
  refuseShort(passphrase)
  const at = new Date()
  const folder = join(into, backupName(at))
  const partial = `${folder}.partial`
  makeFolder(partial)
  const client = new pg.Client({ connectionString: of.ownerUrl })
  client.on('error', () => undefined)
  try {
    await client.connect().catch((error: Error) => {
      throw new BackupProblem(`The database cannot be reached: ${error.message}`)
    })
    await client.query('begin isolation level repeatable read, read only')
    const { rows } = await client.query<{ snapshot: string }>('select pg_export_snapshot() snapshot')
    await dump(of, join(partial, DATABASE), sure(rows[0]).snapshot)
    const settings = (await client.query<{ key: string; value: unknown }>('select key, value from settings')).rows
    const sealKey = readFileSync(of.sealKeyFile, 'utf8')
    const secrets = JSON.stringify({ sealKey, settings })
    writeFileSync(join(partial, SECRETS), JSON.stringify(await sealBox(passphrase, secrets)), { mode: 0o600 })
    const manifest: Manifest = {
      format: 1,
      at: at.toISOString(),
      tables: await newestTables(client),
      counts: Object.fromEntries(await inTurn(COUNTED, async (t) => [t, await countOf(client, t)] as const)),
      keys: (await client.query<{ id: string }>('select id from seal_keys where own order by id')).rows.map(
        (r) => r.id,
      ),
      files: Object.fromEntries(
        await inTurn([DATABASE, SECRETS], async (name) => [name, await digestOfFile(join(partial, name))] as const),
      ),
    }
    writeFileSync(join(partial, MANIFEST), JSON.stringify(manifest, null, 2))
    renameSync(partial, folder)
    return folder
  } catch (error) {
    rmSync(partial, { recursive: true, force: true })
    throw error instanceof BackupProblem ? error : new BackupProblem(`The backup was given up: ${failureOf(error)}`)
  } finally {
    await client.end().catch(() => undefined)
  }
}

function makeFolder(partial: string): void {
  try {
    mkdirSync(partial, { recursive: true, mode: 0o700 })
  } catch (error) {
    throw new BackupProblem(`Nothing can be written to ${partial}: ${(error as Error).message}`)
  }
}
async function inTurn<A, B>(items: readonly A[], work: (item: A) => Promise<B>): Promise<B[]> {
  const made: B[] = []
  for (const item of items) made.push(await work(item))
  return made
}
async function dump({ ownerUrl, programs }: Installation, file: string, snapshot: string): Promise<void> {
  const { address, env } = withoutPassword(ownerUrl)
  const left = LEFT_OUT.map((table) => `--exclude-table-data=${table}`)
  // The queue is made anew where it is restored.
  const how = [
    '--format=custom',
    '--no-owner',
    '--exclude-schema=queue',
    `--snapshot=${snapshot}`,
    ...left,
    `--file=${file}`,
    address,
  ]
  await run(join(programs, 'pg_dump'), how, { env })
}
/** The newest change of the tables that is in a database. */
export async function newestTables(client: pg.Client): Promise<number> {
  const { rows } = await client.query<{ newest: string }>(
    'select max(created_at) newest from drizzle.__drizzle_migrations',
  )
  return Number(sure(rows[0]).newest)
}

/** Backups of before `days` days go; the newest never does. Returns what went. */
export function pruneBackups(into: string, days: number, now = Date.now()): string[] {
  const old = listBackups(into)
    .slice(1)
    .filter((name) => now - madeAt(name) > days * 86_400_000)
  for (const name of old) rmSync(join(into, name), { recursive: true, force: true })
  return old
}
