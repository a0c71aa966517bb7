// What follows from a check: fit for use or not, due again when, what was measured with it since; and who decides.
import type { FolderView } from '@calm-loop/contract'
import { monthsLater } from '@calm-loop/contract/judging'
import { daysLater } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { expect, it } from 'vitest'
import { checkBegun, givenBack, good, PASSWORD, readingAt, served, startServer, type Visitor } from './harness.ts'

const { server, ailsa, rona, magnus } = await served()

const today = () => new Date().toISOString().slice(0, 10)
type Begun = Awaited<ReturnType<typeof checkBegun>>
const folderOf = async ({ loopId }: { loopId: string }) => (await ailsa.call('folder', { loopId })).body as FolderView
const sign = (b: Begun, who: Visitor, role: string) =>
  who.call('sign', { ...b, signatureId: uuid() }, { role, statement: 'Yes.', password: PASSWORD })
/** Reads every point with an error, and signs. */
async function finish(b: Begun, error_mA: number): Promise<Begun> {
  for (let i = 0; i < 6; i++) {
    const reading = { ...readingAt(i, error_mA), takenAt: new Date().toISOString(), reason: 'It showed that' }
    good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, reading))
  }
  good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
  good(await sign(b, ailsa, 'performed'))
  return b
}
/** A further check of the same loop. */
async function again(b: Begun, phase: 'as-found' | 'as-left', error_mA: number): Promise<Begun> {
  const more = { ...b, checkId: uuid() }
  good(await ailsa.call('startCheck', more, { ...b.start, gateId: uuid(), phase }))
  return finish(more, error_mA)
}
const decide = (b: Begun, who: Visitor, decision: object, password = PASSWORD, entryId = uuid()) =>
  who.call('decide', { ...b, entryId }, { decision, password })
const fit = (b: Begun) => ({ what: 'fit', check: b.checkId, reason: 'Only trended; nothing is controlled by it.' })
const interval = (more: object = {}) => ({
  ...{ what: 'interval', days: 90, instead: '12 months', suggested_days: 182, reason: 'It drifts in the heat.' },
  ...more,
})

it('what was found out of tolerance and left well is due sooner, and asks what was measured since', async () => {
  const b = await finish(await checkBegun(ailsa, 'LT-2201'), 0.2)
  expect((await folderOf(b)).row).toMatchObject({ state: 'failed', nextDue: today() })
  await again(b, 'as-left', 0.01)
  // Half of twelve months.
  expect((await folderOf(b)).row).toMatchObject({ state: 'awaiting-review', nextDue: daysLater(today(), 182) })
  const answer = { what: 'measured-since', check: b.checkId, answer: 'Two batches, both weighed: good.' }
  const entryId = uuid()
  const add = (body: object) => ailsa.call('addWork', { ...b, entryId }, body)
  expect(good(await add(answer)).body).toMatchObject({ ...answer, practice: false })
  expect(good(await add(answer)).body).toMatchObject(answer)
  expect((await add({ ...answer, answer: 'Otherwise.' })).problem.code).toBe('id-reused')
  const strange = { ...answer, check: uuid() }
  expect((await ailsa.call('addWork', { ...b, entryId: uuid() }, strange)).problem.code).toBe('nothing-to-decide')
})

it('what was left out of tolerance is not fit for use until someone who may says otherwise', async () => {
  const b = await finish(await checkBegun(ailsa, 'LT-2202'), 0.2)
  const left = await again(b, 'as-left', 0.15)
  expect((await folderOf(b)).row).toMatchObject({ state: 'not-fit', nextDue: today() })
  expect((await ailsa.raw('GET', '/api/loops?state=not-fit')).text).toContain('LT-2202')
  // Not by whoever has not the duty, nor without their password, nor of a check that does not stand in the way.
  expect((await decide(b, ailsa, fit(left))).problem.code).toBe('wrong-role')
  expect((await decide(b, magnus, fit(left), 'not my password')).problem.code).toBe('wrong-password')
  expect((await decide(b, magnus, fit(b))).problem.code).toBe('nothing-to-decide')
  const entryId = uuid()
  const said = good(await decide(b, magnus, fit(left), PASSWORD, entryId))
  expect(good(await decide(b, magnus, fit(left), PASSWORD, entryId)).body).toEqual(said.body)
  expect((await folderOf(b)).row).toMatchObject({ state: 'failed', nextDue: today() })
  expect((await decide(b, magnus, fit(left))).problem.code).toBe('nothing-to-decide')
  const trail = await server.pool.query('select details from audit where loop_id = $1 and action = $2', [
    b.loopId,
    'decided-fit',
  ])
  expect(trail.rows).toMatchObject([{ details: { check: left.checkId } }])
})

it('a later check that passes lifts it only once it is countersigned', async () => {
  const b = await finish(await checkBegun(ailsa, 'LT-2203'), 0.2)
  await again(b, 'as-left', 0.15)
  const mended = await again(b, 'as-left', 0.01)
  expect((await folderOf(b)).row.state).toBe('not-fit')
  good(await sign(mended, magnus, 'reviewed'))
  expect((await folderOf(b)).row.state).toBe('passed')
})

it('another interval is accepted by someone who had no hand in the check, within the site’s bounds', async () => {
  const b = await finish(await checkBegun(ailsa, 'LT-2204'), 0.02)
  good(
    await rona.call(
      'saveDuties',
      {},
      { kit: 'technician', limits: 'reviewer', rows: 'technician', fitness: 'technician' },
    ),
  )
  expect((await decide(b, ailsa, interval())).problem.code).toBe('own-work')
  expect((await decide(b, rona, interval({ days: 3000 }))).problem.code).toBe('nothing-to-decide')
  expect((await decide(b, rona, interval({ days: 0 }))).problem.code).toBe('invalid-input')
  expect((await decide(b, rona, interval({ elsewhere: false }))).problem.code).toBe('invalid-input')
  good(await decide(b, rona, interval()))
  expect((await folderOf(b)).row.nextDue).toBe(daysLater(today(), 90))
  // What is entered afterwards takes its place.
  const { versions } = await folderOf(b)
  const next = { ...b.version, parentId: versions.at(-1)!.id, parentRevision: versions.at(-1)!.revision }
  const entries = { ...versions.at(-1)!.entries, interval: { typed: '24 months' } }
  good(await ailsa.call('saveVersion', { ...b, versionId: uuid() }, { ...next, entries }))
  expect((await folderOf(b)).row.nextDue).toBe(monthsLater(today(), 24))
})

it('what was decided elsewhere is kept and not followed here', async () => {
  const b = await finish(await checkBegun(ailsa, 'LT-2205'), 0.2)
  const left = await again(b, 'as-left', 0.15)
  good(await decide(b, rona, fit(left)))
  const out = good(await ailsa.call('bundle', b)).text
  const there = await startServer({ empty: true })
  try {
    const who = await there.founder()
    const bring = () => who.raw('POST', '/api/bundles', out, { 'content-type': 'application/json' })
    expect(good(await bring()).body).toMatchObject({ added: ['LT-2205'] })
    const { workLog } = (await who.call('folder', b)).body as FolderView
    expect(workLog).toMatchObject([{ what: 'fit', elsewhere: true }])
    expect((await who.call('bundle', b)).text).toBe(out)
    expect(good(await bring()).body).toMatchObject({ already: ['LT-2205'] })
  } finally {
    await there.stop()
  }
})

it('the report of a visit is a paper with the site’s head; of a moment without one there is none', async () => {
  const head = { name: 'Holmsay Kelp Works', address: 'Wash house', procedure: 'P-12, edition 3' }
  expect((await ailsa.call('saveSiteHead', {}, head)).problem.code).toBe('wrong-role')
  good(await rona.call('saveSiteHead', {}, head))
  expect((await ailsa.call('siteHead')).body).toEqual(head)
  const b = await finish(await checkBegun(ailsa, 'LT-2206'), 0.02)
  const { checks } = await folderOf(b)
  const report = (at = '') => ailsa.raw('GET', `/api/loops/${b.loopId}/visit.pdf${at}`)
  const pdf = good(await report())
  expect(pdf.headers.get('content-type')).toBe('application/pdf')
  expect(pdf.text.startsWith('%PDF-')).toBe(true)
  expect((await report(`?at=${checks[0]!.startedAt}`)).status).toBe(200)
  expect((await report('?at=2020-01-01T00:00:00.000Z')).problem.code).toBe('no-such-visit')
  expect((await report('?at=yesterday')).problem.code).toBe('invalid-input')
})
