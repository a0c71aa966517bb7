// The floor: nothing that is sent breaks the server, nothing that is large holds it, and a database that goes away
// comes back unnoticed.
import { propose, PLAIN, writeWiring, type Wiring } from '@calm-loop/core/wiring'
import type { FolderView, LoopPage } from '@calm-loop/contract'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { attack } from '../../../scripts/hostile/hostile.ts'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { asOwner, migrateDatabase, NewerDatabase } from '../src/db/database.ts'
import { isDatabaseAway } from '../src/http/problems.ts'
import { loadDemo } from '../src/services/demo.ts'
import { registerKeys, sealOlder } from '../src/services/seal-keys.ts'
import { inOneTurn } from '../src/services/turns.ts'
import { openWorkers } from '../src/workers/pool.ts'
import { checkBegun, listenTo, readingAt, served, startServer } from './harness.ts'

const { server, ailsa } = await served()
const idOf = async (tag: string) => ((await ailsa.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!.id
const json = { 'content-type': 'application/json' }

describe('what cannot be kept', () => {
  it.each([
    ['NUL in a text', { tag: 'LT-2001', service: 'a\u0000b', area: 'a', kind: 'level-from-above' }],
    ['half a character', { tag: 'LT-2001', service: 'a\ud800', area: 'a', kind: 'level-from-above' }],
    [
      'a name that every object has',
      JSON.parse('{"tag":"LT-2001","service":"a","area":"a","kind":"level-from-above","__proto__":{"x":1}}') as object,
    ],
  ])('is refused in words: %s', async (_what, body) => {
    const answer = await ailsa.raw('PUT', `/api/loops/${uuid()}`, JSON.stringify(body), json)
    expect([answer.status, answer.problem.code]).toEqual([400, 'invalid-input'])
  })
  it('also in entries, in an address and in what is searched', async () => {
    const loopId = await idOf('LT-112')
    const version = firstVersion({ device: { typed: 'a\ud800' } })
    expect((await ailsa.call('saveVersion', { loopId, versionId: uuid() }, version)).status).toBe(400)
    expect((await ailsa.raw('GET', '/api/loops?q=%00')).status).toBe(400)
    expect((await ailsa.raw('GET', '/api/loops?area=%ED%A0%80')).status).toBeLessThan(500)
    expect((await ailsa.raw('GET', '/api/loops/%E0%A4%A')).status).toBe(400)
    expect((await ailsa.raw('PUT', `/api/loops/${uuid()}`, '['.repeat(100_000), json)).status).toBe(400)
    expect(
      (await ailsa.raw('PUT', `/api/loops/${uuid()}`, `${'['.repeat(9000)}${']'.repeat(9000)}`, json)).status,
    ).toBe(400)
  })
  it('the year 0000, and a survey of no time or of all', async () => {
    const b = await checkBegun(ailsa, 'LT-2002')
    const year0 = { ...readingAt(0), takenAt: '0000-01-01T00:00:00.000Z' }
    expect((await ailsa.call('takeReading', { ...b, readingId: uuid() }, year0)).problem.code).toBe('invalid-input')
    const gear = { id: uuid(), name: 'g', serial: '', measures: 'm', range: '', uncertainty: '', due: '0000-01-01' }
    expect((await ailsa.call('saveGear', { gearId: gear.id }, gear)).problem.code).toBe('invalid-input')
    const loopId = await idOf('FT-101')
    for (const [hours, interval_s] of [
      [0, 1],
      [1e9, 1],
      [1, 0],
      [1, 1e9],
    ])
      expect(
        (await ailsa.call('beginSurvey', { loopId, surveyId: uuid() }, { hours, interval_s, note: '' })).problem.code,
      ).toBe('invalid-input')
  })
  it('an id that is used elsewhere', async () => {
    const [a, b] = [await checkBegun(ailsa, 'LT-2003'), await checkBegun(ailsa, 'LT-2004')]
    const again = [
      await ailsa.call('startCheck', { ...b, checkId: a.checkId }, { ...b.start, gateId: uuid() }),
      await ailsa.call('startCheck', { ...b, checkId: uuid() }, { ...b.start, gateId: a.gateId }),
      await ailsa.call('addWireEntry', { ...b, entryId: a.gateId }, { what: 'afresh', reason: 'x' }),
      await ailsa.call('createLoop', { loopId: a.loopId }, { ...b.create, tag: 'LT-2005' }),
    ]
    expect(again.map((x) => x.status)).toEqual([409, 409, 200, 409])
  })
})

it('a thousand hostile requests are answered in words', async () => {
  const report = await attack(server.base, { count: 1000, seed: 13, signIn: 'rona', password: 'kelp and salt' })
  expect(report.bad).toEqual([])
  expect(report.sent).toBe(1000)
})

describe('many at once', () => {
  it('thirty procedures begun at once end in one begun and the rest told why', async () => {
    const loopId = await idOf('PDT-118')
    await ailsa.connectBench(loopId)
    const begin = () =>
      ailsa.call(
        'doProcedure',
        { loopId, runId: uuid(), eventId: uuid() },
        { do: 'begin', procedure: 'zero-trim', choices: {} },
      )
    const answers = await Promise.all(Array.from({ length: 30 }, begin))
    const statuses = answers.map((a) => a.status).sort()
    expect(statuses[0]).toBe(200)
    expect(new Set(statuses.slice(1))).toEqual(new Set([422]))
  })
  it('writes that wait for one loop do not keep readers of others waiting', async () => {
    let go: () => void = () => undefined
    const held = new Promise<void>((resolve) => (go = resolve))
    const begun: number[] = []
    const writes = Array.from({ length: 40 }, (_, i) =>
      inOneTurn(server.db, 'one loop', async () => {
        begun.push(i)
        if (i === 0) await held
      }),
    )
    const others = await Promise.all(Array.from({ length: 20 }, () => ailsa.raw('GET', '/api/loops')))
    expect(others.every((a) => a.status === 200)).toBe(true)
    expect(begun).toEqual([0])
    go()
    await Promise.all(writes)
    expect(begun).toEqual([...begun].sort((a, b) => a - b))
  })
})

describe('a large piece of work', () => {
  /** Devices and conductors beyond any drawing. */
  function large(devices: number, conductors: number): Wiring {
    const base = propose(PLAIN)
    const box = base.devices.find((d) => d.type === 'junction')!
    const boxes = Array.from({ length: devices - base.devices.length }, (_, i) => ({
      ...box,
      id: `J${i}`,
      name: `Box ${i}`,
    }))
    const more = Array.from({ length: conductors - base.conductors.length }, (_, i) => ({
      ...base.conductors[0]!,
      id: `K${i}`,
      from: `J${(i * 7) % boxes.length}:1`,
      to: `J${(i * 13 + 5) % boxes.length}:2`,
    })).filter((c) => c.from.split(':')[0] !== c.to.split(':')[0])
    return { ...base, devices: [...base.devices, ...boxes], conductors: [...base.conductors, ...more] }
  }
  it('is refused in words after its time, while everyone else is served', async () => {
    const loopId = uuid()
    await ailsa.call('createLoop', { loopId }, { tag: 'LT-2010', service: 's', area: 'a', kind: 'level-from-above' })
    const wiring = { typed: writeWiring(large(200, 800)) }
    const version = firstVersion({ ...demoEntries('level-from-above'), wiring })
    const saved = await ailsa.call('saveVersion', { loopId, versionId: uuid() }, version)
    expect(saved.status, saved.text.slice(0, 300)).toBe(200)
    let done = false
    const drawn = ailsa.raw('GET', `/api/loops/${loopId}/wiring.svg`).finally(() => (done = true))
    let served = 0
    while (!done) {
      expect((await server.visitor().raw('GET', '/healthz')).status).toBe(200)
      served++
    }
    const answer = await drawn
    expect([answer.status, answer.problem?.code]).toEqual([422, 'too-much-work'])
    // Had it been worked out where the others are served, none of these would have been answered meanwhile.
    expect(served).toBeGreaterThan(50)
    expect((await ailsa.raw('GET', `/api/loops/${await idOf('LT-112')}/wiring.svg`)).status).toBe(200)
  })
  it('is given up when the one who asked has gone', async () => {
    const workers = openWorkers()
    const gone = new AbortController()
    const asked = workers.run('warm', undefined, gone.signal)
    gone.abort()
    await expect(asked).rejects.toMatchObject({ code: 'asker-left' })
    await workers.close()
  })
})

describe('a database that goes away', () => {
  /** Ends every connection of the database, as a restart or a fail-over does. */
  async function cutAll(): Promise<void> {
    const client = new pg.Client({ connectionString: server.ownerUrl })
    await client.connect()
    await client.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> ' +
        'pg_backend_pid()',
    )
    await client.end()
  }
  it('under load costs answers of 503 at most, and no write that was acknowledged', async () => {
    const b = await checkBegun(ailsa, 'LT-2020')
    const acknowledged: string[] = []
    const statuses = new Set<number>()
    let over = false
    const writer = async () => {
      while (!over) {
        const entryId = uuid()
        const answer = await ailsa.call('addWireEntry', { ...b, entryId }, { what: 'afresh', reason: 'x' })
        statuses.add(answer.status)
        if (answer.status === 200) acknowledged.push(entryId)
        if (answer.status === 503) expect(answer.headers.get('retry-after')).toBe('1')
      }
    }
    const writers = [writer(), writer(), writer(), writer(), writer(), writer()]
    for (let i = 0; i < 12; i++) {
      await new Promise((r) => setTimeout(r, 60))
      await cutAll()
    }
    over = true
    await Promise.all(writers)
    expect([...statuses].filter((s) => s !== 200 && s !== 503)).toEqual([])
    const log = ((await ailsa.call('folder', b)).body as FolderView).wireLog.map((w) => w.id)
    // No connection was lost on the way: each is at rest again.
    await expect.poll(() => server.pool.totalCount - server.pool.idleCount).toBe(0)
    expect(acknowledged.every((id) => log.filter((x) => x === id).length === 1)).toBe(true)
  })
  it('is told to the streams, and its news are heard again afterwards', async () => {
    const b = await checkBegun(ailsa, 'LT-2021')
    /** Listens, and tells until a change is heard after all that is wanted: the listener may be on its way back. */
    async function untilHeard(wanted: string[], first: () => Promise<void>) {
      let heard = false
      const told: string[] = []
      await listenTo(
        server,
        ailsa,
        `/api/loops/${b.loopId}/events`,
        (all) => {
          const words = all.map((e) => (e.event === 'server' ? (e.data as { database: string }).database : e.event))
          told.splice(0, told.length, ...words.filter((w) => w !== 'change'))
          const after = words.lastIndexOf(wanted.at(-1) ?? 'change')
          return (heard = told.length >= wanted.length && words.slice(after).includes('change'))
        },
        async () => {
          await first()
          for (let i = 0; i < 200 && !heard; i++) {
            await ailsa.call('addWireEntry', { ...b, entryId: uuid() }, { what: 'afresh', reason: 'x' })
            await new Promise((r) => setTimeout(r, 50))
          }
        },
      )
      return told
    }
    // What the test before left to be told is over once a change is heard.
    await untilHeard([], () => Promise.resolve())
    expect(await untilHeard(['away', 'here'], cutAll)).toEqual(['away', 'here'])
  })
  it('is told from an error of ours', () => {
    for (const code of ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', '57P01', '57P03', '08006', '53300', '25006', '40001'])
      expect(isDatabaseAway({ code }), code).toBe(true)
    expect(isDatabaseAway({ cause: { message: 'Connection terminated unexpectedly' } })).toBe(true)
    expect(isDatabaseAway({ message: 'timeout exceeded when trying to connect' })).toBe(true)
    expect(isDatabaseAway({ message: 'Query read timeout' })).toBe(true)
    for (const code of ['23505', '42501', '22P05']) expect(isDatabaseAway({ code }), code).toBe(false)
  })
  it('of a newer program is refused in words', async () => {
    await asOwner(server.ownerUrl, (_db, client) =>
      client.query(`insert into drizzle.__drizzle_migrations (hash, created_at) values ('newer', 9999999999999)`),
    )
    await expect(migrateDatabase(server.ownerUrl)).rejects.toThrow(NewerDatabase)
    await expect(migrateDatabase(server.ownerUrl)).rejects.toThrow(/newer version of Calm Loop.*nothing was changed/)
    await asOwner(server.ownerUrl, (_db, client) =>
      client.query(`delete from drizzle.__drizzle_migrations where hash = 'newer'`),
    )
  })
})

it('two servers that start on one empty database load the demo plant once', async () => {
  const empty = await startServer({ empty: true })
  const workers = openWorkers()
  const prepare = async () => {
    await migrateDatabase(empty.ownerUrl)
    return asOwner(empty.ownerUrl, async (db) => {
      await registerKeys(db, empty.sealer)
      await sealOlder(db, empty.sealer)
      return loadDemo(db, workers, empty.sealer)
    })
  }
  expect((await Promise.all([prepare(), prepare()])).sort()).toEqual([false, true])
  expect(((await (await empty.as('ailsa')).raw('GET', '/api/loops')).body as LoopPage).loops.length).toBeGreaterThan(5)
  await workers.close()
  await empty.stop()
})
