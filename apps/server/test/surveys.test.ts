// A survey is logged by the server: without wiring, with its page closed, over a restart; never among another world's.
import { firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { inWorld, workOf, type FolderView, type SurveyNow, type WorkEntry } from '@calm-loop/contract'
import { entryFrom } from '@calm-loop/core/quantity'
import { parse } from 'csv-parse/sync'
import { v7 as uuid } from 'uuid'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { good, served, startServer, type Visitor } from './harness.ts'

const { ailsa, magnus } = await served()
const QUICK = { interval_s: 0.2, hours: 1, note: 'night rate' }
let number = 0

/** A portable meter on a pipe: nothing is entered but pipe, fluid and pair. */
async function portable(who: Visitor = ailsa): Promise<string> {
  const loopId = uuid()
  const typed: Record<string, string> = { od: '114.3 mm', wall: '6.02 mm', fluidTemp: '20 °C', fluidPressure: '3 bar' }
  const chosen = { material: 'carbon-steel', liquid: 'water', transducer: 'W2', serialA: 'A', serialB: 'B' }
  const units: Record<string, [string, string]> = {
    od: ['length', 'mm'],
    wall: ['length', 'mm'],
    fluidTemp: ['temperature', 'degC'],
    fluidPressure: ['pressure', 'bar'],
  }
  const entries = {
    ...Object.fromEntries(Object.entries(chosen).map(([key, value]) => [key, { typed: value }])),
    ...Object.fromEntries(
      Object.entries(typed).map(([key, value]) => [
        key,
        entryFrom(value, { quantity: units[key]![0] as 'length', unit: units[key]![1] }),
      ]),
    ),
  }
  const ids = { loopId, versionId: uuid() }
  const create = { tag: `FT-${9000 + ++number}`, service: 'Survey', area: 'Test', kind: 'clamp-on' }
  good(await who.call('createLoop', ids, create))
  good(await who.call('saveVersion', ids, firstVersion(entries)))
  return loopId
}
/** With its bench connected and the meter measuring a flow. */
async function measuring(who: Visitor = ailsa): Promise<string> {
  const loopId = await portable(who)
  good(await who.connectBench(loopId))
  good(await who.call('moveProcess', { loopId }, { wanted: 30 }))
  good(await who.call('commandMeter', { loopId }, { do: 'start' }))
  return loopId
}
const begin = (loopId: string, wish: object = QUICK, surveyId = uuid(), who: Visitor = ailsa) =>
  who.call('beginSurvey', { loopId, surveyId }, wish)
const begun = async (loopId: string, wish: object = QUICK, who: Visitor = ailsa) =>
  (good(await begin(loopId, wish, uuid(), who)).body as WorkEntry).id
const now = async (loopId: string, surveyId: string, who: Visitor = ailsa) =>
  good(await who.call('surveyNow', { loopId, surveyId })).body as SurveyNow
const end = (loopId: string, surveyId: string, who: Visitor = ailsa) => who.call('endSurvey', { loopId, surveyId })
const log = async (loopId: string, who: Visitor = ailsa) =>
  (good(await who.call('folder', { loopId })).body as FolderView).workLog
const csvOf = async (loopId: string, surveyId: string, who: Visitor = ailsa) =>
  parse<Record<string, string>>((await who.call('surveyCsv', { loopId, surveyId })).text, { columns: true })
const rowsOver = (loopId: string, id: string, n: number, who: Visitor = ailsa) =>
  vi.waitFor(async () => expect((await now(loopId, id, who)).rows).toBeGreaterThan(n), {
    timeout: 60_000,
    interval: 150,
  })

describe('a survey', () => {
  it('needs only pipe, fluid and pair: started, zeroed, logged, on paper', async () => {
    const loopId = await measuring()
    const id = await begun(loopId)
    await vi.waitFor(async () => expect((await now(loopId, id)).recent.at(-1)?.[1]).toBeGreaterThan(1), {
      timeout: 60_000,
      interval: 200,
    })
    const zero = { what: 'zero', unit: 'ns', before: 0.4, after: 0, spread: 0.1, limit: null, note: '' }
    expect((await ailsa.call('addWork', { loopId, entryId: uuid() }, zero)).problem?.code).not.toBe('loop-incomplete')
    const closing = good(await end(loopId, id)).body as Extract<WorkEntry, { what: 'survey-end' }>
    const last = await now(loopId, id)
    expect(last).toMatchObject({ running: false, rows: closing.rows, problem: '' })
    expect(last.total).toBeCloseTo(closing.total, 9)
    const csv = await csvOf(loopId, id)
    expect(csv).toHaveLength(closing.rows)
    expect(Object.keys(csv[0]!)).toEqual(['time_UTC', 'flow_m3/h', 'total_m³', 'sound_speed_m/s', 'signal_%', 'world'])
    const seen = csv.filter((row) => row['flow_m3/h'] !== '')
    expect(Number(seen.at(-1)!['sound_speed_m/s'])).toBeCloseTo(1482, -1.5)
    const pdf = await ailsa.raw('GET', `/api/loops/${loopId}/surveys/${id}/report.pdf`)
    expect([pdf.status, pdf.text.slice(0, 5)]).toEqual([200, '%PDF-'])
  })
  it('is of its world: practised, it stands on no record', async () => {
    const loopId = await measuring()
    const id = await begun(loopId)
    expect(workOf(await log(loopId), 'survey')).toMatchObject([{ id, practice: true, unit: 'm3/h', hours: 1 }])
    expect(workOf(inWorld(await log(loopId), false), 'survey')).toEqual([])
    // Without the bench nothing is there to be logged.
    good(await ailsa.connectBench(loopId, false))
    await vi.waitFor(
      async () => expect(workOf(await log(loopId), 'survey-end')).toMatchObject([{ survey: id, practice: true }]),
      { timeout: 60_000, interval: 200 },
    )
    expect(workOf(await log(loopId), 'survey-end')[0]!.why).not.toBe('')
    expect((await begin(loopId)).problem.code).toBe('bench-not-connected')
  })
  it('is begun once, however often it is asked for; one at a time; ended once', async () => {
    const loopId = await measuring()
    const id = uuid()
    const twice = [await begin(loopId, QUICK, id), await begin(loopId, QUICK, id)]
    expect(twice[1]!.body).toEqual(twice[0]!.body)
    expect((await begin(loopId, { ...QUICK, note: 'else' }, id)).problem.code).toBe('id-reused')
    expect((await begin(loopId)).problem.code).toBe('survey-running')
    const ends = [good(await end(loopId, id)), good(await end(loopId, id))]
    expect(ends[1]!.body).toEqual(ends[0]!.body)
    expect(workOf(await log(loopId), 'survey-end')).toHaveLength(1)
    good(await end(loopId, await begun(loopId)))
  })
  it('takes no rows of another unit: it ends when the unit of the loop is changed', async () => {
    const loopId = await measuring()
    const id = await begun(loopId)
    const { versions } = good(await ailsa.call('folder', { loopId })).body as FolderView
    const [open] = versions.slice(-1)
    const end = (typed: string) => entryFrom(typed, { quantity: 'volume-flow', unit: 'm3/h' })
    // On a bus the loop is whole with its range, and no more a meter by itself.
    const range = { output: { typed: 'digital bus' }, lrv: end('0 l/min'), urv: end('900 l/min') }
    const entries = { ...open!.entries, ...range }
    const next = { parentId: open!.id, parentRevision: open!.revision, revision: 0, entries, reason: '', seal: false }
    good(await ailsa.call('saveVersion', { loopId, versionId: uuid() }, next))
    // Whoever asks for the device next has it made anew, by the entries as they are now.
    await ailsa.call('link', { loopId })
    await vi.waitFor(
      async () => {
        await ailsa.call('link', { loopId })
        expect(workOf(await log(loopId), 'survey-end')).toMatchObject([{ survey: id }])
      },
      { timeout: 60_000, interval: 300 },
    )
    expect(workOf(await log(loopId), 'survey-end')[0]!.why).toBe('The unit of the flow was changed.')
  })
  it('ends by itself when its hours are over, and says so', async () => {
    const loopId = await measuring()
    const id = await begun(loopId, { ...QUICK, hours: 1 / 3600 })
    await vi.waitFor(async () => expect((await now(loopId, id)).running).toBe(false), {
      timeout: 60_000,
      interval: 200,
    })
    expect(workOf(await log(loopId), 'survey-end')).toMatchObject([{ survey: id, why: 'Its hours were over.' }])
  })
  it('is for technicians; of no more rows than can be kept; of a loop that has it', async () => {
    const loopId = await measuring()
    expect((await begin(loopId, QUICK, uuid(), magnus)).status).toBe(403)
    expect((await begin(loopId, { ...QUICK, hours: 700 })).problem.code).toBe('survey-too-long')
    expect((await ailsa.call('surveyNow', { loopId, surveyId: uuid() })).status).toBe(404)
    expect((await end(loopId, uuid())).status).toBe(404)
    expect((await ailsa.call('surveyCsv', { loopId, surveyId: uuid() })).status).toBe(404)
  })
})

describe('a server that is lost', () => {
  const first = startServer()
  const others: { stop(): Promise<void> }[] = []
  afterAll(() => Promise.all(others.map((other) => other.stop())))
  it('is followed by one that goes on; what was not logged is in no total', async () => {
    const one = await first
    const who = await one.as('ailsa')
    const loopId = await measuring(who)
    const id = await begun(loopId, QUICK, who)
    await vi.waitFor(
      async () =>
        expect((await one.pool.query("select 1 from work_log where what = 'survey-rows'")).rows.length).toBeGreaterThan(
          1,
        ),
      { timeout: 60_000, interval: 500 },
    )
    await one.die()
    const two = await startServer({ on: one })
    others.push(two)
    const again = await two.as('ailsa')
    await two.pool.query('delete from link_leases')
    const before = await now(loopId, id, again)
    // Its lease was that of the dead server: it is looked for again.
    await vi.waitFor(async () => expect((await now(loopId, id, again)).running).toBe(true), {
      timeout: 90_000,
      interval: 500,
    })
    await rowsOver(loopId, id, before.rows + 3, again)
    const { recent } = await now(loopId, id, again)
    const gap = recent.findIndex((row, i) => i > 0 && row[0] - recent[i - 1]![0] > 3000)
    expect(gap).toBeGreaterThan(0)
    expect(recent[gap]![2]).toBeCloseTo(recent[gap - 1]![2], 9)
    good(await end(loopId, id, again))
    const { rows } = await now(loopId, id, again)
    expect(await csvOf(loopId, id, again)).toHaveLength(rows)
  })
})
