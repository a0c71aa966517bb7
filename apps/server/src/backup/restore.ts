// Bringing a backup back: into an empty database, and only when every file of it is the one that its manifest names.
import { execFile } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { promisify } from 'node:util'
import pg from 'pg'
import { z } from 'zod'
import { newestKnown } from '../db/database.ts'
import { APPLICATION_ROLE } from '../db/role.ts'
import { makeQueue } from '../errands/queue.ts'
import { sure } from '@calm-loop/core/sure'
import { failureOf, withoutPassword, type Installation } from './backup.ts'
import { BackupProblem, DATABASE, jsonOf, readManifest, SECRETS, type Manifest } from './manifest.ts'
import { openBox, SealedBox } from './sealed-box.ts'

const run = promisify(execFile)
const Secrets = z.strictObject({
  sealKey: z.string(),
  settings: z.array(z.strictObject({ key: z.string(), value: z.unknown() })),
})
type Secrets = z.infer<typeof Secrets>

/** A backup that is whole, and its secrets. @throws BackupProblem */
export async function openBackup(
  folder: string,
  passphrase: string,
): Promise<{ manifest: Manifest; secrets: Secrets }> {
  const manifest = await readManifest(folder)
  if (manifest.tables > newestKnown())
    throw new BackupProblem(
      'This backup was made by a newer version of Calm Loop than this one. Restore it with that version; nothing was ' +
        'changed.',
    )
  const box = SealedBox.safeParse(jsonOf(join(folder, SECRETS)))
  const text = box.success ? await openBox(passphrase, box.data) : undefined
  if (text === undefined)
    throw new BackupProblem(
      'The passphrase does not open the secrets of this backup. Give the one it was made with as ' +
        'CALM_LOOP_PASSPHRASE; nothing was changed.',
    )
  return { manifest, secrets: Secrets.parse(JSON.parse(text)) }
}

/** @throws BackupProblem where there is something already */
async function refuseUsed(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ n: number }>(
    "select count(*)::int n from pg_tables where schemaname in ('public', 'drizzle')",
  )
  if (sure(rows[0]).n)
    throw new BackupProblem(
      'There are records in this database already. Restore into an empty one; nothing was changed.',
    )
}

/** Brings a backup back into an empty database and beside it its key. @throws BackupProblem */
export async function restoreBackup(into: Installation, folder: string, passphrase: string): Promise<Manifest> {
  const { manifest, secrets } = await openBackup(folder, passphrase)
  if (existsSync(into.sealKeyFile) && readFileSync(into.sealKeyFile, 'utf8') !== secrets.sealKey)
    throw new BackupProblem(
      `${into.sealKeyFile} holds another key than the backup. Put it aside first; nothing was changed.`,
    )
  const client = new pg.Client({ connectionString: into.ownerUrl })
  client.on('error', () => undefined)
  await client.connect().catch((error: Error) => {
    throw new BackupProblem(`The database cannot be reached: ${error.message}`)
  })
  try {
    await refuseUsed(client)
    const { rows } = await client.query('select from pg_roles where rolname = $1', [APPLICATION_ROLE])
    if (!rows.length) await client.query(`create role ${APPLICATION_ROLE} nologin`)
    const { address, env } = withoutPassword(into.ownerUrl)
    // All of it or nothing.
    const how = ['--no-owner', '--exit-on-error', '--single-transaction', `--dbname=${address}`, join(folder, DATABASE)]
    await run(join(into.programs, 'pg_restore'), how, { env })
    await makeQueue(client)
    for (const { key, value } of secrets.settings)
      await client.query('insert into settings (key, value) values ($1, $2) on conflict do nothing', [
        key,
        JSON.stringify(value),
      ])
    keepKey(into.sealKeyFile, secrets.sealKey)
    return manifest
  } catch (error) {
    throw error instanceof BackupProblem ? error : new BackupProblem(`It could not be restored: ${failureOf(error)}`)
  } finally {
    await client.end().catch(() => undefined)
  }
}

function keepKey(file: string, text: string): void {
  mkdirSync(dirname(file), { recursive: true })
  writeFileSync(`${file}.new`, text, { mode: 0o600 })
  renameSync(`${file}.new`, file)
}
