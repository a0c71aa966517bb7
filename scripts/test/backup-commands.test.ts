// Backup, restore and verify as a person calls them: what is refused keeps everything, what is put aside is kept.
import { execFile, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, chmodSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { migrateDatabase } from '../../apps/server/src/db/database.ts'
import { openSealer } from '../../apps/server/src/seals/sealer.ts'
import { passphraseFile, sealKeyFile } from '../lib/data-folder.mjs'
import { holdLock } from '../lib/files.mjs'
import { openCluster } from '../lib/postgres.mjs'

const ROOT = join(import.meta.dirname, '..', '..')
const place = mkdtempSync(join(tmpdir(), 'calm-loop-commands-'))
chmodSync(place, 0o711)
afterAll(() => rmSync(place, { recursive: true, force: true }))
const data = join(place, 'data')
const backups = join(data, 'backups')

/** Not in a standstill of this process: it may hold the lock that is asked for. */
const run = (...args: string[]) => runIn(data, {}, ...args)
function runIn(
  into: string,
  also: Record<string, string>,
  ...args: string[]
): Promise<{ status: number; says: string }> {
  const { DATABASE_URL: _, CALM_LOOP_PASSPHRASE: _p, ...env } = process.env
  const how = { cwd: ROOT, env: { ...env, CALM_LOOP_DATA: into, INIT_CWD: place, ...also } }
  return new Promise((resolve) =>
    execFile(process.execPath, ['--import', 'tsx', 'scripts/backup/run.ts', ...args], how, (error, stdout, stderr) =>
      resolve({ status: error ? Number(error.code ?? 1) : 0, says: stdout + stderr }),
    ),
  )
}
const made = () => join(backups, readdirSync(backups)[0]!)

beforeAll(async () => {
  const cluster = await openCluster(data, { durable: false })
  await migrateDatabase(cluster.ownerUrl)
  openSealer(sealKeyFile(data))
  cluster.stop()
}, 120_000)

describe('the commands', () => {
  it('ask for a folder', async () => {
    for (const what of ['backup', 'restore'])
      expect(await run(what)).toMatchObject({ status: 1, says: expect.stringContaining('Name a folder') as string })
  })
  it('make a backup, with a passphrase that is told, and find it whole', async () => {
    expect((await run('backup', 'data/backups')).says).toContain(passphraseFile(data))
    expect(await run('verify', made())).toMatchObject({
      status: 0,
      says: expect.stringContaining('is whole') as string,
    })
    expect(await run('verify')).toMatchObject({ status: 0, says: expect.stringContaining('0 broken') as string })
  })
  it('make one a day', async () => {
    await run('daily', backups)
    expect(readdirSync(backups)).toHaveLength(1)
  })
  it('name the backups of a folder that holds several', async () => {
    expect((await run('restore', backups)).says).toContain(`name one of them: ${made()}`)
  })
  it('ask for the passphrase where a backup is brought back elsewhere, and take it', async () => {
    const elsewhere = join(place, 'elsewhere')
    expect(await runIn(elsewhere, {}, 'restore', made())).toMatchObject({
      status: 1,
      says: expect.stringMatching(/^Give the passphrase .* CALM_LOOP_PASSPHRASE.* Nothing was changed\.\s*$/) as string,
    })
    expect(existsSync(elsewhere)).toBe(false)
    const CALM_LOOP_PASSPHRASE = readFileSync(passphraseFile(data), 'utf8').trim()
    expect((await runIn(elsewhere, { CALM_LOOP_PASSPHRASE }, 'restore', made())).says).toContain('Restored as of')
    expect((await runIn(elsewhere, {}, 'verify')).says).toContain('0 broken')
  })
  it('do not restore over records, nor over what runs', async () => {
    expect(await run('restore', made())).toMatchObject({
      status: 1,
      says: expect.stringContaining('--aside') as string,
    })
    const running = (await holdLock(join(data, 'start.lock')))!
    expect((await run('restore', made(), '--aside')).says).toContain('Stop it first')
    running.release()
    // Given back by another process: this one must not stand still meanwhile.
    await expect.poll(() => holdLock(join(data, 'start.lock')).then((l) => (l?.release(), !!l))).toBe(true)
    await new Promise((resolve) => setTimeout(resolve, 200))
    expect(existsSync(join(data, 'in-use'))).toBe(true)
  })
  it('keep what was here when the backup cannot be read, and put it aside when it can', async () => {
    const bad = spawnSync('cp', ['-r', made(), join(place, 'bad')])
    expect(bad.status).toBe(0)
    rmSync(join(place, 'bad', 'database.dump'))
    expect((await run('restore', 'bad', '--aside')).says).toContain('database.dump is missing')
    expect(existsSync(join(data, 'in-use'))).toBe(true)
    expect((await run('restore', made(), '--aside')).says).toContain('Restored as of')
    const beside = readdirSync(dirname(data)).filter((name) => name.startsWith(`${basename(data)}.before-`))
    expect(beside).toHaveLength(1)
    expect(existsSync(join(place, beside[0]!, 'backups'))).toBe(true)
    expect((await run('verify')).status).toBe(0)
  })
})
