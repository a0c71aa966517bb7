// What the start command finds: files that are whole, empty or cut, numbers of processes that are others now, and
// locks of the dead.
import { spawn, spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { commandOf, holdLock, readObject, writeWhole } from '../lib/files.mjs'
import { openCluster } from '../lib/postgres.mjs'

const ROOT = join(import.meta.dirname, '..', '..')
const folder = mkdtempSync(join(tmpdir(), 'calm-loop-start-'))
// The database's user must be able to pass through.
chmodSync(folder, 0o711)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('a file', () => {
  const file = join(folder, 'note.json')
  it('is written whole, for its owner only', () => {
    writeWhole(file, '{"address":"here"}')
    expect(readObject(file)).toEqual({ address: 'here' })
  })
  it.each(['', '{"address":', 'null', '"x"', '\u0000\u0000'])('that holds %j is no object', (text) => {
    writeFileSync(file, text)
    expect(readObject(file)).toBeUndefined()
  })
  it('that is not there is no object', () => expect(readObject(join(folder, 'nothing'))).toBeUndefined())
})

describe('a process', () => {
  it('is known by its command line while it lives, and not by its remains', async () => {
    expect(commandOf(process.pid)).toContain('node')
    for (const none of [0, -1, Number.NaN, 2 ** 30]) expect(commandOf(none)).toBeUndefined()
    const child = spawn('sleep', ['60'])
    expect(commandOf(child.pid)).toContain('sleep')
    child.kill('SIGKILL')
    await new Promise((resolve) => child.once('exit', resolve))
    expect(commandOf(child.pid)).toBeUndefined()
  })
})

describe('a lock', () => {
  it('is held by one, and given back when its holder is killed', async () => {
    const file = join(folder, 'lock')
    const script =
      `import('${join(ROOT, 'scripts/lib/files.mjs')}').then(async ({ holdLock }) => { await ` +
      `holdLock('${file}'); console.log('held'); setInterval(() => {}, 1000) })`
    const other = spawn(process.execPath, ['-e', script], { stdio: ['ignore', 'pipe', 'inherit'] })
    await new Promise((resolve) => other.stdout.once('data', resolve))
    expect(await holdLock(file)).toBeUndefined()
    other.kill('SIGKILL')
    await expect.poll(() => holdLock(file).then((lock) => lock !== undefined)).toBe(true)
  })
})

describe('the private database', () => {
  const data = join(folder, 'data')
  const ask = async (url: string) => {
    const client = new pg.Client({ connectionString: url })
    await client.connect()
    const { rows } = await client.query<{ n: number }>('select 1 n')
    await client.end()
    return rows[0]!.n
  }
  beforeAll(async () => {
    const cluster = await openCluster(data, { durable: false })
    expect(await ask(cluster.ownerUrl)).toBe(1)
    cluster.stop()
  })
  it('starts over a note whose number another process has now; the note is put aside', async () => {
    const first = await openCluster(data, { durable: false })
    process.kill(first.pid()!, 'SIGKILL')
    await expect.poll(() => first.lives()).toBe(false)
    const note = join(data, 'cluster', 'postmaster.pid')
    const lines = readFileSync(note, 'utf8').split('\n')
    // A process that lives, and is no PostgreSQL: this one.
    writeFileSync(note, [process.pid, ...lines.slice(1)].join('\n'))
    const second = await openCluster(data, { durable: false })
    expect(await ask(second.applicationUrl)).toBe(1)
    expect(existsSync(`${note}.stale`)).toBe(true)
    second.stop()
  })
  it('is started again on its port after it was killed', async () => {
    const cluster = await openCluster(data, { durable: false })
    process.kill(cluster.pid()!, 'SIGKILL')
    await expect.poll(() => cluster.lives()).toBe(false)
    await cluster.revive()
    expect(await ask(cluster.ownerUrl)).toBe(1)
    cluster.stop()
  })
  it.each(['', '{"owner":"x', '{}', '[]'])(
    'whose secrets hold %j is told in words, and nothing is thrown away',
    (text) => {
      const secrets = join(data, 'secrets.json')
      const good = readFileSync(secrets, 'utf8')
      writeFileSync(secrets, text)
      const script =
        `import('${join(ROOT, 'scripts/lib/postgres.mjs')}').then(({ ` + `openCluster }) => openCluster('${data}'))`
      const run = spawnSync(process.execPath, ['-e', script], { encoding: 'utf8' })
      expect(run.status).toBe(1)
      expect(run.stderr).toMatch(/empty, cut or damaged. Put it back from a copy; nothing was changed or thrown away/)
      expect(readFileSync(secrets, 'utf8')).toBe(text)
      expect(existsSync(join(data, 'cluster', 'PG_VERSION'))).toBe(true)
      writeFileSync(secrets, good)
    },
  )
})
