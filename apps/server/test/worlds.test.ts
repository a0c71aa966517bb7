// Simulated never reaches a record: what is put there while the bench is connected is marked, counts for nothing and
// is signed by nobody, whichever way it came; and a record takes nothing while it is.
import { endpoints, LiveReading, type Check, type EndpointName, type FolderView } from '@calm-loop/contract'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { asOwner } from '../src/db/database.ts'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import {
  checkBegun,
  givenBack,
  good,
  listenTo,
  mA,
  mm,
  readingAt,
  served,
  startServer,
  type Visitor,
} from './harness.ts'

const { server, ailsa, magnus } = await served()
const folderOf = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView

/** Every way in which something of a loop is put on record, and what it needs besides the loop. */
const TRIED: Partial<Record<EndpointName, string>> = {
  startCheck: 'a check',
  takeReading: 'a check',
  confirmGate: 'a check',
  sign: 'a check',
  addWork: 'work',
  doProcedure: 'work',
  addWireEntry: 'wiring',
  addEdges: 'counts',
  addCountEntry: 'counts',
  recordPoint: 'counts (recorders.test.ts)',
  decide: 'work',
  signRun: 'a verification (verifications.test.ts)',
  beginSurvey: 'a survey (surveys.test.ts)',
  endSurvey: 'a survey (surveys.test.ts)',
}
/** Writes that put no figure on record: entries belong to both worlds, the rest moves or reads the bench itself. */
const NO_FIGURES: readonly EndpointName[] = [
  'createLoop',
  'saveVersion',
  'connectBench',
  'tieDevice',
  'moveProcess',
  'commandBench',
  'commandMeter',
  'pinVisit',
  'attach',
  'noteAttachment',
]

it('every route that writes into a loop is tried here, or puts no figure on record', () => {
  const writing = Object.entries(endpoints)
    .filter(([, e]) => e.method !== 'get' && e.path.includes(':loopId'))
    .map(([name]) => name)
  expect([...Object.keys(TRIED), ...NO_FIGURES].sort()).toEqual(writing.sort())
})

describe('the bench of a loop', () => {
  it('is not connected until a technician does it, and nothing answers before', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-2101')
    for (const name of ['link', 'meterHeld', 'transmitter'] as const)
      expect((await ailsa.call(name, { loopId })).problem.code).toBe('bench-not-connected')
    expect((await ailsa.call('moveProcess', { loopId }, { wanted: 1 })).problem.code).toBe('bench-not-connected')
    expect((await magnus.connectBench(loopId)).status).toBe(403)
    expect((await folderOf(loopId)).bench).toBeNull()
    const [first, again] = [await ailsa.connectBench(loopId), await ailsa.connectBench(loopId)]
    expect(first.body).toMatchObject({ bench: { by: { name: 'Ailsa Fenn' } } })
    expect(again.body).toEqual(first.body)
    expect((await ailsa.call('link', { loopId })).status).toBe(200)
    expect((await folderOf(loopId)).bench).toEqual((first.body as { bench: object }).bench)
    expect((await ailsa.connectBench(loopId, false)).body).toEqual({ bench: null })
    expect((await ailsa.call('link', { loopId })).problem.code).toBe('bench-not-connected')
    const trail = await server.pool.query('select action from audit where loop_id = $1 order by id', [loopId])
    expect(trail.rows.map((r: { action: string }) => r.action).filter((a) => a.startsWith('bench'))).toEqual([
      'bench-connected',
      'bench-disconnected',
    ])
  })
  it('ends the stream of whoever listens when it is disconnected', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-2102', {}, true)
    let cut = false
    const events = listenTo(server, ailsa, `/api/loops/${loopId}/link/stream`, (heard) => {
      // Cut off as soon as something was heard: the stream must end by itself then.
      if (heard.length && !cut) void ailsa.connectBench(loopId, false)
      cut ||= heard.length > 0
      return false
    })
    expect((await events).length).toBeGreaterThan(0)
  })
})

describe('a check', () => {
  const readAll = async (b: { loopId: string; checkId: string }) => {
    for (let i = 0; i < 6; i++) good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(i)))
    good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
  }
  const sign = (b: object, role: string, who: Visitor) =>
    who.call('sign', { ...b, signatureId: uuid() }, { role, statement: 'Seen.', password: 'kelp and salt' })

  it('begun at the bench is practice: nobody signs it, and the register knows nothing of it', async () => {
    const b = await checkBegun(ailsa, 'LT-2103', {}, true)
    await readAll(b)
    for (const who of [ailsa, magnus]) {
      const role = who === ailsa ? 'performed' : 'reviewed'
      expect((await sign(b, role, who)).problem.code).toBe('practice')
    }
    // The bench taken away does not make a record of it.
    await ailsa.connectBench(b.loopId, false)
    expect((await sign(b, 'performed', ailsa)).problem.code).toBe('practice')
    const { checks, row } = await folderOf(b.loopId)
    expect(checks).toMatchObject([{ practice: true, signatures: [] }])
    expect(row).toMatchObject({ state: 'ready', nextDue: null, lastErrorPct: null })
  })
  it('begun as a record takes nothing while the bench is connected, live or typed', async () => {
    const b = await checkBegun(ailsa, 'LT-2104')
    good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(0)))
    good(await ailsa.connectBench(b.loopId))
    const [heard] = await listenTo(server, ailsa, `/api/loops/${b.loopId}/link/stream`, (e) => e.length > 0)
    const s = LiveReading.parse(heard!.data)
    const typed = `${s.knots['current']!.toFixed(3)} mA`
    const live = {
      ...readingAt(1),
      source: 'live',
      sample: s.token,
      takenAt: new Date(s.at_ms!).toISOString(),
      reads: { current: mA(Number(typed.slice(0, -3))) },
    }
    const take = (body: object) => ailsa.call('takeReading', { ...b, readingId: uuid() }, body)
    expect((await take(live)).problem.code).toBe('check-of-bench')
    expect((await take({ ...readingAt(1), takenAt: new Date().toISOString() })).problem.code).toBe('check-of-bench')
    good(await ailsa.connectBench(b.loopId, false))
    // A sample that was given before the bench went is still one of the bench.
    expect((await take(live)).problem.code).toBe('check-of-bench')
    for (let i = 1; i < 6; i++) good(await take({ ...readingAt(i), takenAt: new Date().toISOString() }))
    good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
    good(await sign(b, 'performed', ailsa))
    const { checks } = await folderOf(b.loopId)
    expect(checks[0]!.practice).toBe(false)
    expect(checks[0]!.readings.flatMap((r) => Object.values(r.origins!))).toEqual(Array(12).fill('typed'))
  })
  it('of before is of neither world until somebody says', async () => {
    const b = await checkBegun(ailsa, 'LT-2105')
    good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(0)))
    await asOwner(server.ownerUrl, async (_db, client) => {
      await client.query('update checks set practice = null where id = $1', [b.checkId])
      await client.query('update readings set origins = null where check_id = $1', [b.checkId])
    })
    const [old] = (await folderOf(b.loopId)).checks as [Check]
    expect(old).not.toHaveProperty('practice')
    expect(old.readings[0]).not.toHaveProperty('origins')
  })
})

describe('work', () => {
  const point = (set: string, source = 'typed') => ({
    what: 'trim-point',
    set,
    phase: 'as-found',
    source,
    applied: mm(1500),
    digital: mm(1503),
    current: null,
    receiver: null,
  })
  const add = (loopId: string, body: object, entryId = uuid()) => ailsa.call('addWork', { loopId, entryId }, body)
  it('done at the bench is marked, whatever its page says, and stands apart from the record', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-2106')
    const set = uuid()
    expect((await add(loopId, point(set, 'bench'))).problem.code).toBe('not-of-the-bench')
    expect(good(await add(loopId, point(set))).body).toMatchObject({ practice: false })
    good(await ailsa.connectBench(loopId))
    const entryId = uuid()
    const [once, again] = [await add(loopId, point(set), entryId), await add(loopId, point(set), entryId)]
    expect(good(once).body).toMatchObject({ practice: true })
    expect(again.body).toEqual(once.body)
    expect((await add(loopId, { ...point(set), practice: false })).status).toBe(400)
    // As found on record is none for a run at the bench.
    const begun = { do: 'begin', procedure: 'zero-trim', choices: {} }
    const params = { loopId, runId: uuid(), eventId: uuid() }
    expect(good(await ailsa.call('doProcedure', params, begun)).body).toMatchObject([{ practice: true }])
    good(await ailsa.connectBench(loopId, false))
    const { workLog } = await folderOf(loopId)
    expect(workLog.map((e) => e.practice)).toEqual([false, true, true])
  })
  it('of the record waits until the bench is disconnected', async () => {
    const b = await checkBegun(ailsa, 'LT-2110', {}, true)
    const answer = { what: 'measured-since', check: b.checkId, answer: 'Two batches.' }
    expect((await add(b.loopId, answer)).problem.code).toBe('bench-connected')
    const decision = { what: 'interval', days: 90, instead: '12 months', suggested_days: 182, reason: 'It drifts.' }
    const decide = () => magnus.call('decide', { ...b, entryId: uuid() }, { decision, password: 'kelp and salt' })
    expect((await decide()).problem.code).toBe('bench-connected')
    good(await ailsa.connectBench(b.loopId, false))
    // A check that was practised is none to decide on.
    expect((await add(b.loopId, answer)).problem.code).toBe('nothing-to-decide')
    expect((await decide()).problem.code).toBe('nothing-to-decide')
  })
  it('at the terminals is marked the same way', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-2107', {}, true)
    const afresh = { what: 'afresh', reason: 'begun again' }
    const put = () => ailsa.call('addWireEntry', { loopId, entryId: uuid() }, afresh)
    expect(good(await put()).body).toMatchObject({ practice: true })
    await ailsa.connectBench(loopId, false)
    expect(good(await put()).body).toMatchObject({ practice: false })
  })
})

describe('counts', () => {
  const ids = { loopId: uuid(), versionId: uuid() }
  const train = (startMs: number, origin: string) => ({
    startMs,
    startState: false,
    gaps: '1000 500',
    origin,
    note: '',
  })
  const add = (startMs: number, origin: string) =>
    ailsa.call('addEdges', { loopId: ids.loopId, trainId: uuid() }, train(startMs, origin))
  const stop = { what: 'stop', from: '2026-09-01T08:00:00.000Z', to: '2026-09-01T08:10:00.000Z', reason: 'jam' }
  const log = () => ailsa.call('addCountEntry', { loopId: ids.loopId, entryId: uuid() }, stop)
  it('of the bench are practice, and take no time from the record', async () => {
    const create = { tag: 'ZS-2108', service: 'Gate', area: 'Test', kind: 'discrete-sensor' }
    good(await ailsa.call('createLoop', ids, create))
    good(await ailsa.call('saveVersion', ids, firstVersion(demoEntries('discrete-sensor'))))
    const at = Date.UTC(2026, 8, 1, 8)
    expect((await add(at, 'live')).problem.code).toBe('not-of-the-bench')
    good(await ailsa.connectBench(ids.loopId))
    expect(good(await add(at, 'live')).body).toMatchObject({ practice: true })
    expect(good(await log()).body).toMatchObject({ practice: true })
    expect((await add(at + 200, 'live')).problem.code).toBe('edges-overlap')
    good(await ailsa.connectBench(ids.loopId, false))
    expect(good(await add(at, 'file')).body).toMatchObject({ practice: false })
    expect((await add(at + 200, 'file')).problem.code).toBe('edges-overlap')
    const csv = async () => (await ailsa.call('edgesCsv', { loopId: ids.loopId })).text.split('\r\n')
    expect((await csv()).slice(0, 2)).toEqual(['time,state', '2026-09-01T08:00:00.000Z,0'])
    good(await ailsa.connectBench(ids.loopId))
    expect((await csv())[1]).toBe('2026-09-01T08:00:00.000Z,0,PRACTICE')
    good(await ailsa.connectBench(ids.loopId, false))
    const { trains } = await folderOf(ids.loopId)
    expect(trains.map((t) => t.practice).sort()).toEqual([false, true])
  })
  it('begun as a discrete check are practice too', async () => {
    good(await ailsa.connectBench(ids.loopId))
    const start = {
      phase: 'as-found',
      percents: [100, 0],
      gearIds: [],
      ambient: '',
      told: 'Bree',
      gateId: uuid(),
      words: gateWording('loop-in-manual', 'switch'),
    }
    expect(good(await ailsa.call('startCheck', { ...ids, checkId: uuid() }, start)).body).toMatchObject({
      practice: true,
    })
  })
})

it('a folder keeps both worlds on its way out and in again', async () => {
  const b = await checkBegun(ailsa, 'LT-2109', {}, true)
  good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(0)))
  const out = good(await ailsa.call('bundle', b)).text
  expect(out).toContain('"practice": true')
  const there = await startServer()
  try {
    const who = await there.as('ailsa')
    const added = await who.raw('POST', endpoints.importBundle.path, out, { 'content-type': 'application/json' })
    expect(added.status, added.text).toBe(200)
    const folder = (await who.call('folder', b)).body as FolderView
    expect(folder.checks).toMatchObject([{ practice: true, readings: [{ origins: { applied: 'typed' } }] }])
    expect(folder.bench).toBeNull()
  } finally {
    await there.stop()
  }
})
