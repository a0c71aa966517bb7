// What every earlier release wrote is read, judged, replayed and written out again the same.
import { Bundle } from '@calm-loop/contract'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { seenOf } from '../golden/seen.ts'
import { startServer, type TestServer, type Visitor } from './harness.ts'

const GOLDEN = join(import.meta.dirname, '../../../packages/core/golden')
const read = (...path: string[]) => readFileSync(join(GOLDEN, ...path), 'utf8')
const releases = readdirSync(GOLDEN)

type Seen = ReturnType<typeof seenOf>
/**
 * What nobody looked at before 0.2: a loop of 0.1 has a wet leg that ends below its full level, two have a gauged wall
 * beside that of their schedule, one a second path without numbers.
 */
const NEWLY_SEEN = new Set(['look leg-below-full', 'note wall-off-schedule', 'note second-pair-unknown'])
/** What is judged by place since 0.2, and was only compared by its span: the place is a stop. */
const BY_PLACE: Readonly<Record<string, string>> = {
  'stop current-in-lower-zone': 'look range-beyond-probe',
  'stop current-in-upper-zone': 'look range-beyond-probe',
}
/**
 * What is seen, but for its figures, in the symbols of now: a difference of temperatures has had a unit of its own
 * since 0.2, which in
 * 0.1 was that of a temperature.
 */
const settled = (seen: Seen) => ({
  ...seen,
  versions: seen.versions.map(({ figures: _, ...v }) => ({
    ...v,
    findings: v.findings
      .filter((f) => !NEWLY_SEEN.has(f))
      .map((f) => BY_PLACE[f] ?? f)
      .sort(),
    thread: v.thread && { ...v.thread, knots: v.thread.knots.map((k) => k.replace('delta_', '')) },
  })),
})
const UNFED = /no-loop-supply|loop-open|two-loop-supplies|reversed-polarity/
const OF_THE_DRAWING = /^(total-ohm|volts-|spare-ohm|min-supply|largest-shunt|longest-cable)/
/**
 * A figure may be sharpened by a release (the budget now counts every clamp as drawn), never changed: half a per cent.
 */
const close = (now: number | null | undefined, then: number | null): boolean =>
  then === null || now === null || now === undefined
    ? now === then
    : Math.abs(now - then) <= Math.max(0.005 * Math.abs(then), 0.02)

describe.each(releases)('what release %s wrote', (release) => {
  const tags = readdirSync(join(GOLDEN, release)).flatMap((f) => (f.endsWith('.bundle.json') ? [f.slice(0, -12)] : []))
  let server: TestServer
  let magnus: Visitor
  beforeAll(async () => {
    server = await startServer({ empty: true })
    magnus = await server.founder()
  })
  afterAll(() => server.stop())

  it('holds folders, checks and runs', () => {
    const seen = tags.map((tag) => JSON.parse(read(release, `${tag}.seen.json`)) as ReturnType<typeof seenOf>)
    expect(tags.length).toBeGreaterThan(15)
    expect(seen.flatMap((s) => s.checks).length).toBeGreaterThan(8)
    expect(new Set(seen.flatMap((s) => s.runs.map((r) => r.at))).size).toBeGreaterThanOrEqual(10)
  })
  it.each(tags)('%s is judged and replayed as it was', (tag) => {
    const bundle = Bundle.parse(JSON.parse(read(release, `${tag}.bundle.json`)))
    const [now, then] = [seenOf(bundle), JSON.parse(read(release, `${tag}.seen.json`)) as Seen]
    expect(settled(now)).toEqual(settled(then))
    now.versions.forEach((version, i) => {
      for (const [id, value] of Object.entries(then.versions[i]!.figures)) {
        const got = version.figures[id]
        // The budget is that of the drawing since 0.2: a loop drawn so that nothing feeds it has none.
        const unfed = version.findings.some((f) => UNFED.test(f)) && OF_THE_DRAWING.test(id) && got === null
        expect(unfed || close(got, value), `${id}: ${got}, was ${value}`).toBe(true)
      }
    })
  })
  it.each(tags)('%s comes in and goes out byte for byte', async (tag) => {
    const text = read(release, `${tag}.bundle.json`)
    const came = await magnus.raw('POST', '/api/bundles', text, { 'content-type': 'application/json' })
    expect([came.status, came.text]).toEqual([200, JSON.stringify({ added: [tag], already: [] })])
    const { id } = (JSON.parse(text) as Bundle).folder.loop
    expect((await magnus.call('bundle', { loopId: id })).text).toBe(text)
  })
  it('an entry that was understood otherwise once stands when another is saved beside it', async () => {
    const [odd] = tags.filter((tag) => tag === 'LT-900')
    if (!odd) return
    const { folder } = JSON.parse(read(release, `${odd}.bundle.json`)) as Bundle
    const loopId = folder.loop.id
    const head = folder.versions.at(-1)!
    const save = (entries: object) =>
      magnus.call(
        'saveVersion',
        { loopId, versionId: uuid() },
        { parentId: head.id, parentRevision: head.revision, revision: 0, entries, reason: '', seal: false },
      )
    const depth = head.entries['tankDepth']!
    expect(depth).toMatchObject({ typed: `12'-6"`, value: 11.5, unit: 'ft' })
    // Typed anew it would be twelve and a half feet: saved as it was read once, it is not what its text says now.
    expect((await save({ ...head.entries, emptyDistance: { ...depth } })).problem.code).toBe('entry-mismatch')
    expect((await save({ ...head.entries, tell: { typed: 'Bree' } })).status).toBe(200)
  })
})
