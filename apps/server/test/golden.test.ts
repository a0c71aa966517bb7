// What every earlier release wrote is read, judged, replayed and written out again the same.
import { Bundle } from '@calm-loop/contract'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { seenOf } from '../golden/seen.ts'
import { startServer, type TestServer, type Visitor } from './harness.ts'

const GOLDEN = join(import.meta.dirname, '../../../packages/core/golden')
const read = (...path: string[]) => readFileSync(join(GOLDEN, ...path), 'utf8')
const releases = readdirSync(GOLDEN)

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
    expect(seenOf(bundle)).toEqual(JSON.parse(read(release, `${tag}.seen.json`)))
  })
  it.each(tags)('%s comes in and goes out byte for byte', async (tag) => {
    const text = read(release, `${tag}.bundle.json`)
    const came = await magnus.raw('POST', '/api/bundles', text, { 'content-type': 'application/json' })
    expect([came.status, came.text]).toEqual([200, JSON.stringify({ added: [tag], already: [] })])
    const { id } = (JSON.parse(text) as Bundle).folder.loop
    expect((await magnus.call('bundle', { loopId: id })).text).toBe(text)
  })
})
