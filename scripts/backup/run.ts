// Backup, restore and verify, as a person calls them: finds the installation of this clone, and says what was done.
import { existsSync, renameSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { makeBackup, pruneBackups, type Installation } from '../../apps/server/src/backup/backup.ts'
import { BackupProblem, listBackups, madeAt, readManifest } from '../../apps/server/src/backup/manifest.ts'
import { openBackup, restoreBackup } from '../../apps/server/src/backup/restore.ts'
import { passphraseIn } from '../../apps/server/src/backup/sealed-box.ts'
import { verifyRecords } from '../../apps/server/src/backup/verify.ts'
import { openDatabase } from '../../apps/server/src/db/database.ts'
import { dataFolder, passphraseFile, sealKeyFile } from '../lib/data-folder.mjs'
import { holdLock, writeWhole } from '../lib/files.mjs'
import { findPrograms, openCluster } from '../lib/postgres.mjs'

const DAYS = Number(process.env['CALM_LOOP_BACKUP_DAYS'] ?? 14)
const [what = '', ...rest] = process.argv.slice(2)
const [flags, names] = [rest.filter((a) => a.startsWith('--')), rest.filter((a) => !a.startsWith('--'))]
const folder = dataFolder(flags.includes('--empty'))
const given = names[0] === undefined ? undefined : resolve(process.env['INIT_CWD'] ?? '.', names[0])
const outside = process.env['DATABASE_URL']

const wanted = (): string => {
  if (given === undefined) throw new BackupProblem(`Name a folder: npm run ${what} -- DIR`)
  return given
}
const programs = (): string => {
  const found = findPrograms()
  if (!found) throw new BackupProblem('PostgreSQL’s programs are missing: apt-get install -y postgresql')
  return found
}

/** The passphrase that is given; else that of this installation, made once. */
const passphrase = (): string =>
  passphraseIn(passphraseFile(folder), (file) =>
    console.log(
      `A passphrase was made in ${file}. Keep a copy where the backups are not: nothing is restored without it.`,
    ),
  )

/** Of a backup that is brought back: given, or lying here; never made, as it could open nothing. */
function knownPassphrase(): string {
  const file = passphraseFile(folder)
  if (process.env['CALM_LOOP_PASSPHRASE'] === undefined && !existsSync(file))
    throw new BackupProblem(
      'Give the passphrase that the backup was made with as CALM_LOOP_PASSPHRASE: it stands in backup-passphrase of ' +
        'the folder that was backed up. Nothing was changed.',
    )
  return passphrase()
}

/** The right to this clone's folder; undefined where it runs. Who has just ended gives it back in a moment. */
async function soleRight(): Promise<{ release(): void } | undefined> {
  for (let tries = 0; ; tries++) {
    const lock = await holdLock(join(folder, 'start.lock'))
    if (lock || tries === 4) return lock
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
}

/** Works on the database of this clone, started for it where nothing runs. */
async function installed<T>(work: (of: Installation, applicationUrl: string) => Promise<T>): Promise<T> {
  const key = sealKeyFile(folder)
  if (outside) {
    const ownerUrl = process.env['MIGRATION_DATABASE_URL'] ?? outside
    return work({ ownerUrl, sealKeyFile: key, programs: programs() }, outside)
  }
  if (!existsSync(join(folder, 'in-use'))) throw new BackupProblem(`There are no records in ${folder} yet.`)
  const lock = await soleRight()
  const cluster = await openCluster(folder)
  try {
    return await work({ ownerUrl: cluster.ownerUrl, sealKeyFile: key, programs: programs() }, cluster.applicationUrl)
  } finally {
    // What was running before goes on.
    if (lock) cluster.stop()
    lock?.release()
  }
}

async function backup(into: string): Promise<void> {
  const made = await installed((of) => makeBackup(of, into, passphrase()))
  const { counts } = await readManifest(made)
  console.log(`Backup made: ${made}\n${counts['loops']} loops, ${counts['readings']} readings.`)
}
/** Where the newest is a day old or there is none. */
async function daily(into: string): Promise<void> {
  const [newest] = listBackups(into)
  if (newest === undefined || Date.now() - madeAt(newest) > 23.5 * 3_600_000) await backup(into)
  pruneBackups(into, DAYS)
}

async function restore(from: string): Promise<void> {
  const word = knownPassphrase()
  const { manifest } = await openBackup(from, word)
  if (outside) {
    const ownerUrl = process.env['MIGRATION_DATABASE_URL'] ?? outside
    await restoreBackup({ ownerUrl, sealKeyFile: sealKeyFile(folder), programs: programs() }, from, word)
  } else await restoreHere(from, word)
  console.log(`Restored as of ${manifest.at}: ${manifest.counts['loops']} loops. Now: npm run verify`)
}
/** Into the folder of this clone, which must not be in use. */
async function restoreHere(from: string, word: string): Promise<void> {
  const lock = existsSync(folder) ? await soleRight() : undefined
  if (existsSync(folder) && !lock)
    throw new BackupProblem('Calm Loop is running from this clone. Stop it first; nothing was changed.')
  const used = existsSync(join(folder, 'in-use'))
  if (used && !flags.includes('--aside'))
    throw new BackupProblem(
      `There are records in ${folder} already. With --aside they are put aside and kept; nothing was changed.`,
    )
  const aside = `${folder}.before-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}`
  // A backup that lay in here goes aside with the rest.
  const source = used && from.startsWith(`${folder}/`) ? aside + from.slice(folder.length) : from
  if (used) renameSync(folder, aside)
  const cluster = await openCluster(folder)
  try {
    await restoreBackup(
      { ownerUrl: cluster.ownerUrl, sealKeyFile: sealKeyFile(folder), programs: programs() },
      source,
      word,
    )
    writeWhole(passphraseFile(folder), word)
    cluster.stop()
    if (used) console.log(`What was here is kept in ${aside}.`)
  } catch (error) {
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
    if (used) renameSync(aside, folder)
    throw error
  } finally {
    lock?.release()
  }
}

async function verify(): Promise<void> {
  if (given !== undefined) {
    const { at, files } = await readManifest(given)
    console.log(`The backup of ${at} is whole: ${Object.keys(files).join(', ')}.`)
    return
  }
  const found = await installed(async (_of, applicationUrl) => {
    const { db, pool } = openDatabase(applicationUrl)
    return verifyRecords(db).finally(() => pool.end())
  })
  const { sealed, verified, claimed, broken } = found.signatures
  console.log(
    `${found.loops} loops. Signatures: ${sealed} sealed here, ${verified} by a trusted key, ${claimed} claimed only, ` +
      `${broken} broken. Audit trail: ${found.audit.length} entries, ` +
      (found.audit.brokenAt === null ? 'whole.' : `broken at ${found.audit.brokenAt}.`),
  )
  if (found.broken.length) console.log(`Broken seals: ${found.broken.join(', ')}`)
  if (!found.good) process.exitCode = 1
}

const all: Record<string, () => Promise<void>> = {
  backup: () => backup(wanted()),
  daily: () => daily(wanted()),
  restore: () => restore(wanted()),
  verify,
}
try {
  await all[what]?.()
} catch (error) {
  console.error(error instanceof BackupProblem ? error.message : `It could not be done: ${(error as Error).message}`)
  process.exitCode = 1
}
// A lock that is still held would keep the process.
process.exit()
