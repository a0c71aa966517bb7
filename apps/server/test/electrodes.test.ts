// Electrodes over HTTP: entered, calibrated at the bench, plugged in, followed by their point, calibrated there, taken
// out.
import type { ElectrodeView, FolderView } from '@calm-loop/contract'
import { readElectrode } from '@calm-loop/contract/electrodes'
import { bufferPh, idealSlope_mV } from '@calm-loop/core/analysis'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { sql } from 'drizzle-orm'
import { v7 as uuid } from 'uuid'
import pg from 'pg'
import { beforeAll, describe, expect, it } from 'vitest'
import { good, served, type Visitor } from './harness.ts'
import { technicianAt } from './guided.ts'

const { server, ailsa, rona, magnus } = await served({ benchPace: 8 })
const guided = technicianAt(server, ailsa)

const points = (share: number, offset: number, names = ['4.00', '7.00'], temp_C = 25) =>
  names.map((buffer) => {
    const is = bufferPh(buffer, temp_C).ph
    return { buffer, temp_C, is, mV: share * idealSlope_mV(temp_C) * (is - 7) + offset }
  })
const put = (electrodeId: string, entry: object, who: Visitor = ailsa, entryId = uuid()) =>
  who.call('addElectrodeEntry', { electrodeId, entryId }, entry)
const enter = (serial: string, more: object = {}) => ({
  what: 'entered',
  sort: 'ph',
  serial,
  model: 'glass electrode',
  memory: false,
  ...more,
})
const calibration = (share: number, offset: number, more: object = {}) => ({
  what: 'calibrated',
  points: points(share, offset),
  ...more,
})
async function electrode(share = 0.97, offset = 3): Promise<{ id: string; serial: string }> {
  const [id, serial] = [uuid(), `G-${uuid().slice(-6)}`]
  good(await put(id, enter(serial)))
  good(await put(id, calibration(share, offset)))
  return { id, serial }
}
let made = 0
async function loopOf(kind = 'ph'): Promise<string> {
  const loopId = uuid()
  const tag = `AT-9${String(++made).padStart(2, '0')}`
  good(await ailsa.call('createLoop', { loopId }, { tag, service: 'Test pH', area: 'Test', kind }))
  const version = firstVersion(demoEntries(kind))
  good(await ailsa.call('saveVersion', { loopId, versionId: uuid() }, version))
  return loopId
}
const folderOf = async (loopId: string) => good(await ailsa.call('folder', { loopId })).body as FolderView
const head = async (loopId: string) => (await folderOf(loopId)).versions.at(-1)!
const listed = async (id: string) =>
  (good(await magnus.call('electrodes', {})).body as ElectrodeView[]).find((e) => e.id === id)!

describe('the shelf', () => {
  it('keeps what is entered and calibrated; the same again changes nothing', async () => {
    const [id, entryId, serial] = [uuid(), uuid(), 'S-100']
    for (const _ of [1, 2]) expect((await put(id, enter(serial), ailsa, entryId)).status).toBe(200)
    expect((await put(id, enter('S-101'), ailsa, entryId)).problem.code).toBe('id-reused')
    expect((await put(uuid(), enter('s-100'))).problem.code).toBe('electrode-known')
    expect((await put(uuid(), calibration(0.97, 0))).problem.code).toBe('electrode-unknown')
    good(await put(id, calibration(0.975, -4, { response_s: 21, glass_MOhm: 140, bestBefore: '2027-03-01' })))
    const view = await listed(id)
    expect(view.log.map((e) => [e.what, e.by.name])).toEqual([
      ['entered', 'Ailsa Fenn'],
      ['calibrated', 'Ailsa Fenn'],
    ])
    expect(readElectrode(view).last).toMatchObject({
      slopePercent: expect.closeTo(97.5, 6) as number,
      offset_mV: expect.closeTo(-4, 6) as number,
      verdict: 'good',
    })
  })
  it('takes no buffer that is not what it is said to be', async () => {
    const id = uuid()
    good(await put(id, enter('S-110')))
    const [four, seven] = points(1, 0)
    const swapped = [
      { ...four!, mV: seven!.mV },
      { ...seven!, mV: four!.mV },
    ]
    expect((await put(id, { what: 'calibrated', points: swapped })).problem.code).toBe('buffers-swapped')
    expect((await put(id, { what: 'calibrated', points: [{ ...four!, is: 4.2 }, seven] })).problem.code).toBe(
      'entry-mismatch',
    )
    expect((await put(id, { what: 'calibrated', points: [four, four] })).problem.code).toBe('same-buffer')
    expect((await put(id, { what: 'calibrated', points: [seven] })).problem.code).toBe('buffers-missing')
    const { temp_C: _, ...unread } = four!
    expect((await put(id, { what: 'calibrated', points: [unread, seven] })).problem.code).toBe('value-missing')
    expect((await put(id, { what: 'calibrated', points: [] })).status).toBe(400)
  })
  it('wants what was written into an electrode with a memory read back, and the same', async () => {
    const id = uuid()
    good(await put(id, enter('S-120', { memory: true })))
    expect((await put(id, calibration(0.97, 3))).problem.code).toBe('value-missing')
    const other = { readBack: { slopePercent: 99, offset_mV: 3 } }
    expect((await put(id, calibration(0.97, 3, other))).problem.code).toBe('entry-mismatch')
    good(await put(id, calibration(0.97, 3, { readBack: { slopePercent: 97, offset_mV: 3 } })))
  })
  it('is filled by technicians only, and only added to', async () => {
    expect((await put(uuid(), enter('S-130'), magnus)).status).toBe(403)
    expect((await server.visitor().call('electrodes', {})).status).toBe(401)
    for (const change of [sql`update electrode_log set what = 'entered'`, sql`delete from electrode_log`])
      await expect(server.db.execute(change)).rejects.toThrow()
  })
  it('takes the site’s own buffers by their table', async () => {
    const row = { table: 'buffer', name: 'acetate', fills: { table: '15: 4.68; 25: 4.66' }, source: 'own laboratory' }
    expect((await rona.call('addSiteRow', { rowId: uuid() }, { ...row, fills: { table: '25' } })).problem.code).toBe(
      'not-a-buffer',
    )
    good(await rona.call('addSiteRow', { rowId: uuid() }, row))
    const { id } = await electrode()
    const acetate = { buffer: 'acetate', temp_C: 20, is: 4.67, mV: idealSlope_mV(20) * (4.67 - 7) }
    const seven = points(1, 0, ['7.00'], 20)
    good(await put(id, { what: 'calibrated', points: [acetate, ...seven] }))
    expect(readElectrode(await listed(id)).last!.slopePercent).toBeCloseTo(100, 3)
  })
})

describe('plugged in', () => {
  let loopId: string
  beforeAll(async () => void (loopId = await loopOf()))

  it('it is read up, and the point follows with a version of its own', async () => {
    const { id, serial } = await electrode(0.965, -6)
    const before = await head(loopId)
    const entryId = uuid()
    for (const _ of [1, 2]) good(await put(id, { what: 'plugged-in', loopId }, ailsa, entryId))
    const after = await head(loopId)
    expect(after.number).toBe(before.number + 1)
    expect(after.reason).toBe(`What electrode ${serial} holds`)
    expect(after.entries).toMatchObject({
      electrodeSerial: { typed: serial },
      slopePercent: { typed: '96.5 %' },
      electrodeOffset: { typed: '-6.0 mV' },
    })
    // Read up again, nothing is new.
    good(await put(id, { what: 'plugged-in', loopId }))
    expect((await head(loopId)).number).toBe(after.number)
  })
  it('another has no place there, and it has no other', async () => {
    const other = await electrode()
    expect((await put(other.id, { what: 'plugged-in', loopId })).problem.code).toBe('place-taken')
    const there = (good(await ailsa.call('electrodes', {})).body as ElectrodeView[]).find((e) => {
      const { place } = readElectrode(e)
      return place.at === 'point' && place.loopId === loopId
    })!
    const elsewhere = await loopOf()
    expect((await put(there.id, { what: 'plugged-in', loopId: elsewhere })).problem.code).toBe('electrode-elsewhere')
    expect((await put(there.id, calibration(0.97, 0))).problem.code).toBe('electrode-elsewhere')
    expect((await put(there.id, { what: 'taken-out', words: ' ' })).status).toBe(400)
    good(await put(there.id, { what: 'taken-out', words: 'acid side changed' }))
    good(await put(there.id, { what: 'plugged-in', loopId: elsewhere }))
    expect(readElectrode(await listed(there.id)).served).toHaveLength(2)
  })
  it('none is that is not ready, does not fit, or while the bench is connected', async () => {
    const [worn, never] = [await electrode(0.8), uuid()]
    expect((await put(worn.id, { what: 'plugged-in', loopId })).problem.code).toBe('electrode-not-ready')
    good(await put(never, enter('S-200')))
    expect((await put(never, { what: 'plugged-in', loopId })).problem.code).toBe('electrode-not-ready')
    const past = await electrode()
    good(await put(past.id, calibration(0.97, 0, { bestBefore: '2026-01-01' })))
    expect((await put(past.id, { what: 'plugged-in', loopId })).problem.detail).toContain('Past its best: 2026-01-01')
    const fine = await electrode()
    const redox = await loopOf('orp')
    expect((await put(fine.id, { what: 'plugged-in', loopId: redox })).problem.code).toBe('electrode-does-not-fit')
    expect((await put(fine.id, { what: 'plugged-in', loopId: uuid() })).status).toBe(404)
    const benched = await loopOf()
    await ailsa.connectBench(benched)
    expect((await put(fine.id, { what: 'plugged-in', loopId: benched })).problem.code).toBe('bench-connected')
  })
  it('none is whose record was changed past the application', async () => {
    const [changed, added] = [await electrode(), await electrode()]
    const owner = new pg.Client({ connectionString: server.ownerUrl })
    await owner.connect()
    // Younger by a year than it is; and a calibration that nobody made.
    await owner.query(`update electrode_log set at = at + interval '1 year' where electrode_id = $1`, [changed.id])
    await owner.query(
      `insert into electrode_log select $2, electrode_id, 3, what, body, "by", at from electrode_log
       where electrode_id = $1 and what = 'calibrated'`,
      [added.id, uuid()],
    )
    await owner.end()
    for (const { id } of [changed, added])
      expect((await put(id, { what: 'plugged-in', loopId: await loopOf() })).problem.code).toBe(
        'electrode-record-changed',
      )
    const shown = (good(await ailsa.call('electrodes', {})).body as ElectrodeView[]).map((e) => readElectrode(e))
    expect(shown.find((e) => e.serial === 'G-4471')).toBeDefined()
  })
  it('those of the demo are as they were put on record', async () => {
    const spare = (good(await ailsa.call('electrodes', {})).body as ElectrodeView[]).find(
      (e) => readElectrode(e).serial === 'G-4590',
    )!
    good(await put(spare.id, { what: 'plugged-in', loopId: await loopOf() }))
  })
  it('a redox electrode brings its offset, and has no slope', async () => {
    const [id, redox] = [uuid(), await loopOf('orp')]
    good(await put(id, enter('R-1', { sort: 'orp' })))
    const solution = { what: 'calibrated', points: [{ buffer: 'solution', is: 220, mV: 227 }] }
    expect((await put(id, { ...solution, readBack: { offset_mV: 3 } })).problem.code).toBe('entry-mismatch')
    // A voltage that is only reckoned is never said by a page.
    const claimed = [{ ...solution.points[0], reckoned: true }]
    expect((await put(id, { ...solution, points: claimed })).status).toBe(400)
    good(await put(id, solution))
    good(await put(id, { what: 'plugged-in', loopId: redox }))
    const { entries } = await head(redox)
    expect(entries).toMatchObject({ electrodeSerial: { typed: 'R-1' }, electrodeOffset: { typed: '7.0 mV' } })
    expect(entries['slopePercent']).toBeUndefined()
  })
})

describe('calibrated at its point', () => {
  it('a redox electrode: what the device reported is reckoned back, and said to be so', async () => {
    const [id, loopId] = [uuid(), await loopOf('orp')]
    good(await put(id, enter('R-2', { sort: 'orp' })))
    good(await put(id, { what: 'calibrated', points: [{ buffer: 'solution', is: 220, mV: 227 }] }))
    good(await put(id, { what: 'plugged-in', loopId }))
    await guided.point(loopId, '300', 'mV', '304')
    const { runId, answer } = await guided.begin(loopId, 'redox-offset', { lower: '220 mV' })
    good(answer)
    const reads: Record<string, string> = { 'apply-solution': '220 mV', found: '224 mV', left: '220 mV' }
    for (let i = 0; i < 40; i++) {
      const state = await guided.stateOf(loopId, runId)
      if (state.status !== 'running') break
      const step = state.steps[state.at]!
      const typed = reads[step.id]
      good(
        await guided.act(
          loopId,
          runId,
          step.kind === 'command'
            ? { do: 'send', step: step.id }
            : step.kind === 'read-back'
              ? { do: 'read', step: step.id, seen: 'offset as written' }
              : { do: 'pass', step: step.id, words: 'Rolf', ...(typed ? { typed } : {}) },
        ),
      )
    }
    // 7 mV were taken off already, 4 mV more are seen; no temperature was read.
    expect((await listed(id)).log.at(-1)).toMatchObject({
      what: 'calibrated',
      points: [{ buffer: 'redox solution', is: 220, mV: 231, reckoned: true }],
    })
    expect(readElectrode(await listed(id)).last).toMatchObject({ offset_mV: 11, temp_C: undefined })
    expect((await head(loopId)).entries['electrodeOffset']).toMatchObject({ typed: '11.0 mV' })
  })
  it('by hand: the electrode keeps it, and the point follows; what is practised leaves both as they are', async () => {
    const loopId = await loopOf()
    const { id } = await electrode(0.99, 0)
    good(await put(id, { what: 'plugged-in', loopId }))
    await guided.point(loopId, '7', 'pH', '7.1')
    const mV = (share: number, ph: string) => (share * idealSlope_mV(25) * (bufferPh(ph, 25).ph - 7) + 5).toFixed(2)
    const run = async (share: number) => {
      const { runId, answer } = await guided.begin(loopId, 'ph-calibration', { buffers: ['4.00', '7.00'] })
      good(answer)
      const reads: Record<string, string> = {
        'buffer-1': '25 °C',
        'electrode-1': `${mV(share, '7.00')} mV`,
        'buffer-2': '25 °C',
        'electrode-2': `${mV(share, '4.00')} mV`,
        left: '4 pH',
      }
      for (let i = 0; i < 60; i++) {
        const state = await guided.stateOf(loopId, runId)
        if (state.status !== 'running') return { runId, state }
        const step = state.steps[state.at]!
        const typed = reads[step.id] ?? (step.id === 'left' ? `${state.values['ph-2']} pH` : undefined)
        const slope: [string, string] = [
          `${state.values['slope']?.toFixed(3)} mV`,
          `${state.values['offset']?.toFixed(3)} mV`,
        ]
        const body =
          step.kind === 'command'
            ? { do: 'send', step: step.id }
            : step.kind === 'read-back'
              ? { do: 'read', step: step.id, seen: 'slope and offset as written', typed: slope }
              : { do: 'pass', step: step.id, words: 'Rolf', ...(typed ? { typed } : {}) }
        good(await guided.act(loopId, runId, body))
      }
      throw new Error('no end')
    }
    const { runId, state } = await run(0.94)
    expect(state.status).toBe('done')
    const kept = (await listed(id)).log.at(-1)!
    expect(kept).toMatchObject({ what: 'calibrated', run: runId })
    expect(readElectrode(await listed(id)).last).toMatchObject({
      slopePercent: expect.closeTo(94, 1) as number,
      offset_mV: expect.closeTo(5, 1) as number,
      tag: expect.stringMatching(/^AT-9/) as string,
    })
    expect((await head(loopId)).entries).toMatchObject({
      slopePercent: { typed: '94.0 %' },
      electrodeOffset: { typed: '5.0 mV' },
    })

    const [events, version] = [(await listed(id)).log.length, (await head(loopId)).number]
    await ailsa.connectBench(loopId)
    await guided.point(loopId, '7', 'pH', '7.1')
    const practised = await guided.begin(loopId, 'ph-calibration', { buffers: ['4.00', '7.00'] })
    const feed = (value: number) => guided.bench(loopId, { do: 'apply', value })
    expect((await guided.runTo(loopId, practised.runId, () => false, feed)).status).toBe('done')
    expect([(await listed(id)).log.length, (await head(loopId)).number]).toEqual([events, version])
  })
})
