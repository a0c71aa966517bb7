// A backup made while the plant works, brought back elsewhere: byte for byte what it was, and refused where it is not
// whole.
import { randomUUID } from 'node:crypto'
import { appendFileSync, cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LoopPage } from '@calm-loop/contract'
import { backupName, listBackups, madeAt, MANIFEST, readManifest } from '../src/backup/manifest.ts'
import { makeBackup, pruneBackups } from '../src/backup/backup.ts'
import { restoreBackup } from '../src/backup/restore.ts'
import { openBox, sealBox } from '../src/backup/sealed-box.ts'
import { verifyRecords } from '../src/backup/verify.ts'
import { asOwner } from '../src/db/database.ts'
import { findPrograms } from '../../../scripts/lib/postgres.mjs'
import { checkBegun, emptyDatabase, readingAt, startServer, type TestServer, type Visitor } from './harness.ts'

const PASSPHRASE = 'a lighthouse in March'
const programs = findPrograms()!
const folder = mkdtempSync(join(tmpdir(), 'calm-loop-backup-'))
const fresh = () => join(folder, randomUUID())
afterAll(() => rmSync(folder, { recursive: true, force: true }))

let server: TestServer
let ailsa: Visitor
let made: string
const here = () => ({ ownerUrl: server.ownerUrl, sealKeyFile: server.sealKeyFile, programs })
/** An empty database, with a place for its key. */
async function elsewhere() {
  const { ownerUrl, applicationUrl } = await emptyDatabase()
  return { into: { ownerUrl, sealKeyFile: join(fresh(), 'seal-key.json'), programs }, applicationUrl }
}
async function bundles(who: Visitor): Promise<Map<string, string>> {
  const found = new Map<string, string>()
  for (let after = ''; ;) {
    const page = (await who.raw('GET', `/api/loops?after=${after}`)).body as LoopPage
    for (const { id, tag } of page.loops) found.set(tag, (await who.call('bundle', { loopId: id })).text)
    if (page.next === null) return found
    after = page.next
  }
}
/** A copy of the backup, to spoil. */
function copy(): string {
  const to = fresh()
  cpSync(made, to, { recursive: true })
  return to
}

beforeAll(async () => {
  server = await startServer()
  ailsa = await server.as('ailsa')
})
afterAll(() => server.stop())

describe('a backup', () => {
  it('is made while readings are taken, and holds what was on record at one moment', async () => {
    const b = await checkBegun(ailsa, 'LT-990')
    const taking = Promise.all(
      Array.from({ length: 6 }, (_, i) => ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(i))),
    )
    made = await makeBackup(here(), fresh(), PASSPHRASE)
    expect((await taking).map((a) => a.status)).toEqual([200, 200, 200, 200, 200, 200])
    const manifest = await readManifest(made)
    expect(Object.keys(manifest.files)).toEqual(['database.dump', 'secrets.sealed.json'])
    expect(manifest.counts['loops']).toBeGreaterThan(20)
  })
  it('holds no secret in the open', async () => {
    const { rows } = await server.pool.query("select value #>> '{}' v from settings where key like '%secret'")
    const key = JSON.parse(readFileSync(server.sealKeyFile, 'utf8')) as { keys: { privateKey: string }[] }
    const secrets = [...(rows as { v: string }[]).map((r) => r.v), key.keys[0]!.privateKey]
    expect(secrets.length).toBeGreaterThan(2)
    for (const name of readdirSync(made))
      for (const secret of secrets) expect(readFileSync(join(made, name)).includes(secret)).toBe(false)
  })
  it('comes back elsewhere: every bundle byte for byte, every seal good, nobody signed in', async () => {
    const again = await makeBackup(here(), fresh(), PASSPHRASE)
    const before = await bundles(ailsa)
    const { into, applicationUrl } = await elsewhere()
    const { counts } = await restoreBackup(into, again, PASSPHRASE)
    const there = await startServer({ on: { ...server, ...into, applicationUrl } })
    try {
      const who = await there.as('ailsa')
      expect(await bundles(who)).toEqual(before)
      const verified = await verifyRecords(there.db)
      expect(verified).toMatchObject({ loops: counts['loops'], broken: [], good: true })
      expect(verified.signatures.sealed).toBeGreaterThan(10)
      expect(readFileSync(into.sealKeyFile, 'utf8')).toBe(readFileSync(server.sealKeyFile, 'utf8'))
      // Whoever was signed in there is not here.
      expect((await there.visitor().call('loops')).status).toBe(401)
    } finally {
      await there.stop()
    }
  }, 120_000)
})

describe('what is refused', () => {
  const refused = async (of: string, passphrase = PASSPHRASE) => {
    const { into } = await elsewhere()
    return { into, problem: restoreBackup(into, of, passphrase) }
  }
  it('another passphrase, and nothing is changed', async () => {
    const { into, problem } = await refused(made, 'a lighthouse in April')
    await expect(problem).rejects.toThrow('does not open the secrets')
    expect(existsSync(into.sealKeyFile)).toBe(false)
    const empty = await asOwner(into.ownerUrl, (_db, c) => c.query("select from pg_tables where schemaname = 'public'"))
    expect(empty.rowCount).toBe(0)
  })
  it.each([
    ['half of one', (at: string) => rmSync(join(at, MANIFEST)), 'is no whole backup'],
    ['a file that is missing', (at: string) => rmSync(join(at, 'database.dump')), 'database.dump is missing'],
    ['a byte more', (at: string) => appendFileSync(join(at, 'database.dump'), 'x'), 'was changed or cut'],
    ['a manifest that is cut', (at: string) => appendFileSync(join(at, MANIFEST), '{'), 'is cut, damaged'],
  ])('%s', async (_what, spoil, says) => {
    const spoilt = copy()
    spoil(spoilt)
    await expect((await refused(spoilt)).problem).rejects.toThrow(says)
  })
  it('a database with records, a key that is another', async () => {
    await expect(restoreBackup({ ...here(), sealKeyFile: join(fresh(), 'k') }, made, PASSPHRASE)).rejects.toThrow(
      'There are records in this database already',
    )
    const { into } = await elsewhere()
    const other = await startServer({ empty: true })
    await other.stop()
    await expect(restoreBackup({ ...into, sealKeyFile: other.sealKeyFile }, made, PASSPHRASE)).rejects.toThrow(
      'holds another key',
    )
  })
  it('a folder that cannot be written, no passphrase, no database', async () => {
    const file = fresh()
    appendFileSync(file, '')
    await expect(makeBackup(here(), file, PASSPHRASE)).rejects.toThrow('Nothing can be written')
    await expect(makeBackup(here(), fresh(), 'short')).rejects.toThrow('passphrase')
    const nowhere = { ...here(), ownerUrl: 'postgres://nobody@127.0.0.1:1/none' }
    const into = fresh()
    await expect(makeBackup(nowhere, into, PASSPHRASE)).rejects.toThrow('cannot be reached')
    expect(listBackups(into)).toEqual([])
  })
})

describe('what is verified', () => {
  it('names the loop whose record was changed behind it, and the broken audit trail', async () => {
    const other = await startServer()
    try {
      await asOwner(other.ownerUrl, (_db, client) =>
        client.query(
          "update loops set service = 'Another' where id in " +
            '(select loop_id from checks c join signatures s on s.check_id = c.id limit 1)',
        ),
      )
      const found = await verifyRecords(other.db)
      expect(found).toMatchObject({ good: false, audit: { brokenAt: null } })
      expect(found.broken).toHaveLength(1)
      await asOwner(other.ownerUrl, (_db, client) => client.query("update audit set details = '{}' where id = 3"))
      expect((await verifyRecords(other.db)).audit.brokenAt).toBe(3)
    } finally {
      await other.stop()
    }
  })
})

describe('backups of many days', () => {
  it('go after so many, but for the newest', () => {
    const into = fresh()
    const now = Date.UTC(2026, 10, 30, 3)
    const days = [0, 1, 13, 15, 40].map((d) => backupName(new Date(now - d * 86_400_000)))
    for (const name of days) {
      mkdirSync(join(into, name), { recursive: true })
      appendFileSync(join(into, name, MANIFEST), '{}')
    }
    expect(pruneBackups(into, 14, now)).toEqual(days.slice(3))
    expect(listBackups(into)).toEqual(days.slice(0, 3))
    expect(pruneBackups(into, 14, now + 90 * 86_400_000)).toEqual(days.slice(1, 3))
    expect(listBackups(into)).toEqual(days.slice(0, 1))
  })
  it('are named by when they were made', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date(0), max: new Date('2100-01-01'), noInvalidDate: true }), (at) => {
        expect(madeAt(backupName(at))).toBe(Math.floor(at.getTime() / 1000) * 1000)
      }),
    )
  })
})

describe('a sealed box', () => {
  it('opens with its passphrase, however that is typed, and not when anything is changed', async () => {
    const box = await sealBox('naïve passphrase', 'secret')
    expect(await openBox('nai\u0308ve passphrase', box)).toBe('secret')
    expect(await openBox('naive passphrase', box)).toBeUndefined()
    for (const key of ['salt', 'nonce', 'tag', 'data'] as const)
      expect(
        await openBox('naïve passphrase', { ...box, [key]: Buffer.from('other').toString('base64') }),
      ).toBeUndefined()
  })
})
