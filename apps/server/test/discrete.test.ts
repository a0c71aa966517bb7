import { LiveReading, PointStates, type FolderView, type LoopPage } from '@calm-loop/contract'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { parse } from 'csv-parse/sync'
import pg from 'pg'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { applicationConnection } from '../src/db/database.ts'
import { givenBack, listenTo, served } from './harness.ts'

/** Taken a little after any check here was begun, and not ahead of the clock. */
const BEGUN = Date.now() + 60_000
const { server, ailsa, magnus } = await served()
const folder = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView
const idOf = async (tag: string) => ((await ailsa.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!.id

let number = 600
async function point(changed: Record<string, string> = {}) {
  const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid() }
  await ailsa.call('createLoop', ids, {
    tag: `ZS-${++number}`,
    service: 'Test gate',
    area: 'Test',
    kind: 'discrete-sensor',
  })
  const entries = demoEntries('discrete-sensor', changed)
  const saved = await ailsa.call('saveVersion', ids, firstVersion(entries))
  expect(saved.status, saved.text).toBe(200)
  return ids
}
const begin = (ids: object, percents = [100, 0]) =>
  ailsa.call('startCheck', ids, {
    phase: 'as-found',
    percents,
    gearIds: [],
    ambient: '',
    told: 'Bree',
    words: gateWording('loop-in-manual', 'switch'),
    gateId: (ids as { gateId: string }).gateId,
  })
const state = (on: boolean) => ({ typed: `${on ? 1 : 0} state`, value: on ? 1 : 0, unit: 'state' })
const states = (on: boolean, changed: object = {}) => ({
  sensorLamp: state(on),
  inputLamp: state(on),
  controller: state(on),
  ...changed,
})
const reading = (pointIndex: number, distance: number, reads: object = states(pointIndex % 2 === 0)) => ({
  pointIndex,
  applied: { typed: `${distance} mm`, value: distance, unit: 'mm' },
  reads,
  source: 'typed',
  supersedes: null,
  reason: '',
  takenAt: new Date(BEGUN + pointIndex).toISOString(),
})
const take = (ids: object, body: object, readingId = uuid()) => ailsa.call('takeReading', { ...ids, readingId }, body)

describe('a discrete check', () => {
  it('brings the target up and away, is judged by witnesses and distance, and is signed', async () => {
    const ids = await point()
    expect((await begin(ids, [0, 100])).problem.code).toBe('plan-not-alternating')
    expect((await begin(ids, [100, 0, 100, 0])).status).toBe(200)
    expect((await take(ids, reading(0, 7.9))).status).toBe(200)
    expect((await take(ids, reading(1, 8.5))).status).toBe(200)
    expect((await take(ids, reading(2, 7.8))).status).toBe(200)
    expect((await take(ids, reading(3, 8.5))).status).toBe(200)
    await ailsa.call('confirmGate', { ...ids, gateId: uuid() }, givenBack('switch'))
    const p = { ...ids, signatureId: uuid() }
    const signed = await ailsa.call('sign', p, { role: 'performed', statement: 'Done.', password: 'kelp and salt' })
    expect(signed.status, signed.text).toBe(200)
    const { row } = await folder(ids.loopId)
    expect(row).toMatchObject({ state: 'awaiting-review', tolerancePct: 10 })
    expect(row.lastErrorPct).toBeCloseTo(-1.875, 6)
    const pdf = await ailsa.call('certificate', p)
    expect([pdf.status, pdf.text.slice(0, 5)]).toEqual([200, '%PDF-'])
    const csv = parse<Record<string, string>>((await ailsa.call('readingsCsv', p)).text, { columns: true })
    expect(csv.map((r) => [r['target'], r['controller'], r['true_input']])).toEqual([
      ['present', '1', '7.9'],
      ['absent', '0', '8.5'],
      ['present', '1', '7.8'],
      ['absent', '0', '8.5'],
    ])
  })
  it('fails when a witness disagrees, and says at which', async () => {
    const ids = await point()
    await begin(ids)
    await take(ids, reading(0, 8, states(true, { inputLamp: state(false), controller: state(false) })))
    await take(ids, reading(1, 8.5))
    const csv = parse<Record<string, string>>((await ailsa.call('readingsCsv', ids)).text, { columns: true })
    expect(csv.map((r) => r['first_witness_to_disagree'])).toEqual(['inputLamp', ''])
  })
  it.each([
    [states(true, { controller: undefined }), 'witness-missing'],
    [states(true, { sensorLamp: { typed: '0.5 state', value: 0.5, unit: 'state' } }), 'not-a-state'],
    [states(true, { inputLamp: { typed: '1 V', value: 1, unit: 'V' } }), 'not-a-state'],
    [states(true, { controller: { typed: '0 state', value: 1, unit: 'state' } }), 'entry-mismatch'],
    [states(true, { signal: { typed: '22 mA', value: 22, unit: 'mA' } }), 'incommensurable'],
  ])('refuses a reading of %j: %s', async (reads, code) => {
    const ids = await point()
    await begin(ids)
    expect((await take(ids, reading(0, 8, reads))).problem.code).toBe(code)
  })
  it('is not begun where the controller would never see the sensor', async () => {
    const ids = await point({ output: 'NPN' })
    // Wholly entered, and wrong: not half entered.
    expect((await folder(ids.loopId)).row.state).toBe('stopped')
    expect((await begin(ids)).problem).toMatchObject({
      code: 'switch-cannot-work',
      detail: expect.stringContaining('with a target and without one'),
    })
  })
  it('can be begun before the point has its name, which a half-entered register shows', async () => {
    const ids = await point({ pointName: '', meansTrue: '' })
    expect((await folder(ids.loopId)).row.state).toBe('half-entered')
    expect((await begin(ids)).status).toBe(200)
  })
  it('keeps its wiring as a sheet, with the target and without', async () => {
    const ids = await point()
    const sheet = async (target: string) =>
      (await ailsa.raw('GET', `/api/loops/${ids.loopId}/wiring.csv?target=${target}`)).text
    expect(await sheet('1')).toMatch(/SE:BK,DI:I0,.*22\.1/)
    expect(await sheet('0')).toMatch(/SE:BK,DI:I0,.*0\.5/)
  })
})

const T0 = Date.UTC(2026, 10, 2, 6)
const train = (startMs: number, gaps: string, changed: object = {}) => ({
  startMs,
  startState: false,
  gaps,
  origin: 'file',
  note: 'log.csv',
  ...changed,
})
const add = (loopId: string, body: object, trainId = uuid()) => ailsa.call('addEdges', { loopId, trainId }, body)

describe('changes counted', () => {
  it('go on record once, come out as CSV, and never count a time twice', async () => {
    const { loopId } = await point()
    const trainId = uuid()
    const body = train(T0, '1000 500 2000')
    for (let twice = 0; twice < 2; twice++)
      expect((await add(loopId, body, trainId)).body).toMatchObject({ changes: 3, endMs: T0 + 3500 })
    expect((await add(loopId, train(T0, '1 2'), trainId)).problem.code).toBe('id-reused')
    expect((await add(loopId, train(T0 + 3500, '10'))).problem.code).toBe('edges-overlap')
    expect((await add(loopId, train(T0 - 5000, '5000'))).problem.code).toBe('edges-overlap')
    expect((await add(loopId, train(T0 + 3501, '999', { startState: true }))).status).toBe(200)
    expect((await ailsa.call('edgesCsv', { loopId })).text).toBe(
      [
        'time,state',
        ...[
          [0, 0],
          [1000, 1],
          [1500, 0],
          [3500, 1],
          [4500, 0],
        ].map(([t, s]) => `${new Date(T0 + t!).toISOString()},${s}`),
        '',
      ].join('\r\n'),
    )
    expect((await folder(loopId)).trains.map((t) => [t.changes, t.by.name])).toEqual([
      [3, 'Ailsa Fenn'],
      [1, 'Ailsa Fenn'],
    ])
  })
  it.each(['0', '5 -3', '1.5', 'abc', '5  5', `${9e15}`])('refuse gaps “%s”', async (gaps) => {
    const { loopId } = await point()
    expect((await add(loopId, train(T0, gaps))).status).toBe(400)
  })
  it('are refused for a loop with a current, and from a reviewer', async () => {
    expect((await add(await idOf('LT-112'), train(T0, '5'))).problem.code).toBe('not-a-switch')
    const { loopId } = await point()
    expect((await magnus.call('addEdges', { loopId, trainId: uuid() }, train(T0, '5'))).status).toBe(403)
  })
  it('cannot be changed or removed, even by the application', async () => {
    const client = new pg.Client(applicationConnection(server.applicationUrl))
    await client.connect()
    for (const sql of ['update edge_trains set changes = 0', 'delete from edge_trains', 'delete from count_log'])
      await expect(client.query(sql)).rejects.toThrow(/permission denied/)
    await client.end()
  })
  it('arrive once when sent twice at the same time', async () => {
    const { loopId } = await point()
    const trainId = uuid()
    const both = await Promise.all([add(loopId, train(T0, '7 7'), trainId), add(loopId, train(T0, '7 7'), trainId)])
    expect(both.map((a) => a.status)).toEqual([200, 200])
    expect((await folder(loopId)).trains.length).toBe(1)
  })
})

describe('the count log', () => {
  const iso = (ms: number) => new Date(T0 + ms).toISOString()
  const log = (loopId: string, body: object, entryId = uuid()) => ailsa.call('addCountEntry', { loopId, entryId }, body)
  it('takes stops and rejected pieces, once each, and withdraws them with a reason', async () => {
    const { loopId } = await point()
    const entryId = uuid()
    const stop = { what: 'stop', from: iso(0), to: iso(60_000), reason: 'film torn' }
    for (let twice = 0; twice < 2; twice++) expect((await log(loopId, stop, entryId)).status).toBe(200)
    expect((await log(loopId, { ...stop, reason: 'other' }, entryId)).problem.code).toBe('id-reused')
    expect((await log(loopId, { what: 'withdrawn', entry: entryId, reason: 'wrong day' })).status).toBe(200)
    expect((await log(loopId, { what: 'withdrawn', entry: uuid(), reason: 'x' })).problem.code).toBe('no-such-entry')
    expect((await folder(loopId)).countLog.map((e) => e.what)).toEqual(['stop', 'withdrawn'])
  })
  it.each([
    { what: 'stop', from: iso(5), to: iso(5), reason: 'x' },
    { what: 'stop', from: iso(0), to: iso(5), reason: ' ' },
    { what: 'rejected', day: '2026-11-02', shift: 'Early', pieces: -1 },
    { what: 'rejected', day: '2026-13-02', shift: 'Early', pieces: 1 },
  ])('refuses %j', async (body) => {
    const { loopId } = await point()
    expect((await log(loopId, body)).status).toBe(400)
  })
})

describe('live', () => {
  it('the stand-in’s target is seen when it is brought up, with the time and place of the edge', async () => {
    const { loopId } = await point()
    await ailsa.connectBench(loopId)
    const events = await listenTo(
      server,
      ailsa,
      `/api/loops/${loopId}/link/stream`,
      (all) => all.some((e) => LiveReading.parse(e.data).edges?.length),
      async () => {
        await new Promise((r) => setTimeout(r, 300))
        await ailsa.call('moveProcess', { loopId }, { wanted: 0 })
      },
    )
    const readings = events.map((e) => LiveReading.parse(e.data))
    expect(readings[0]!.knots).toMatchObject({ sensorLamp: 0, inputLamp: 0, controller: 0 })
    const last = readings.at(-1)!
    expect(last.knots).toMatchObject({ sensorLamp: 1, inputLamp: 1, controller: 1 })
    expect(last.knots['signal']).toBeCloseTo(22.2, 0)
    expect(last.edges![0]).toMatchObject({ state: true, at: expect.closeTo(8, 0) })
    expect(Math.abs(last.edges![0]!.t_ms - last.at_ms!)).toBeLessThan(2000)
    expect((await ailsa.call('moveProcess', { loopId }, { wanted: 999 })).problem.code).toBe('outside-process')
  })
  it('all points are told at once, and those that cannot be watched say why', async () => {
    const { loopId } = await point({ idealCycle: '2 s' })
    await ailsa.connectBench(loopId)
    const bare = uuid()
    await ailsa.call(
      'createLoop',
      { loopId: bare },
      { tag: 'ZS-699', service: 'Bare', area: 'Test', kind: 'discrete-sensor' },
    )
    const points = (await ailsa.call('watchPoints')).body as { tag: string; says: string; loopId: string }[]
    expect(points.find((p) => p.loopId === bare)!.says).not.toBe('')
    const moved = points.findIndex((p) => p.tag === `ZS-${number}`)
    await ailsa.call('moveProcess', { loopId: points[moved]!.loopId }, { running: true })
    const events = await listenTo(server, ailsa, '/api/points/stream', (all) => {
      return all.length > 1 && PointStates.parse(all.at(-1)!.data).counts[moved]! > 0
    })
    const states = events.map((e) => PointStates.parse(e.data))
    expect(states.at(-1)!.states[points.findIndex((p) => p.loopId === bare)]).toBe(-1)
  })
})
