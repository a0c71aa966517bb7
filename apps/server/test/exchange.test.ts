import type { Bundle, FolderView, LoopPage } from '@calm-loop/contract'
import { canonicalJson } from '@calm-loop/contract'
import { readdirSync, readFileSync } from 'node:fs'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoFolders, electrodesText } from '../../../demo/make.ts'
import { checkBegun, readingAt, startServer, type TestServer, type Visitor } from './harness.ts'

const FOLDERS = new URL('../../../demo/folders/', import.meta.url)
const demo = (name: string) => readFileSync(new URL(name, FOLDERS), 'utf8')

let server: TestServer
let other: TestServer
let ailsa: Visitor
let elsewhere: Visitor
beforeAll(async () => {
  server = await startServer()
  other = await startServer({ empty: true })
  ailsa = await server.as('ailsa')
  elsewhere = await other.founder()
})
afterAll(async () => {
  await server.stop()
  await other.stop()
})
const send = (who: Visitor, path: string, body: string | Buffer) =>
  who.raw('POST', path, body, { 'content-type': 'application/octet-stream' })
const tables = async (who: Visitor) =>
  ((await who.raw('GET', '/api/loops?limit=200')).body as LoopPage).loops.map((l) => l.tag)

describe('a folder’s bundle', () => {
  it('is made from its description the same every time', () => {
    const made = demoFolders()
    for (const name of readdirSync(FOLDERS)) expect(made[name], name).toBe(demo(name))
    expect(electrodesText()).toBe(demo('../electrodes.json'))
  })
  it('of the demo cites the kit as it was calibrated then', () => {
    const { calibrations } = JSON.parse(demo('../day.json')) as {
      calibrations: { gear: string; body: { day: string; certificate: string; due: string } }[]
    }
    for (const name of readdirSync(FOLDERS)) {
      const { folder } = JSON.parse(demo(name)) as Bundle
      for (const { gear, startedAt } of folder.checks)
        for (const { name: piece, certificate, calibrated = '', due, expiredReason } of gear) {
          const [on, what] = [startedAt.slice(0, 10), `${name}, ${startedAt}, ${piece}`]
          expect(calibrated <= on && (due >= on || !!expiredReason), what).toBe(true)
          const known = calibrations.filter((c) => c.gear === piece)
          if (known.length)
            expect(
              known.map(({ body }) => [body.day, body.certificate, body.due]),
              what,
            ).toContainEqual([...[calibrated, certificate, due]])
        }
    }
  })
  it('goes into an empty database and comes out again, byte for byte', async () => {
    const b = await checkBegun(ailsa, 'LT-701')
    await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(0))
    const ids = [b.loopId, ...((await ailsa.raw('GET', '/api/loops')).body as LoopPage).loops.map((l) => l.id)]
    for (const loopId of new Set(ids)) {
      const text = (await ailsa.call('bundle', { loopId })).text
      expect((await send(elsewhere, '/api/bundles', text)).status).toBe(200)
      expect((await elsewhere.call('bundle', { loopId })).text).toBe(text)
      expect((await send(elsewhere, '/api/bundles', text)).body).toMatchObject({
        added: [],
        already: [expect.any(String)],
      })
      const [here, there] = await Promise.all([ailsa.call('folder', { loopId }), elsewhere.call('folder', { loopId })])
      // What came from elsewhere is no check of this installation until a reviewer accepts it.
      const { state, nextDue, lastErrorPct, tolerancePct, ...row } = (there.body as FolderView).row
      expect((here.body as FolderView).row).toMatchObject(row)
      expect([nextDue, lastErrorPct, tolerancePct]).toEqual([null, null, null])
      expect(['ready', 'stopped', 'half-entered']).toContain(state)
    }
  })
  it('is refused, and nothing stored, when it is', async () => {
    const good = demo('TT-405.json')
    const bundle = JSON.parse(good) as Bundle
    const edit = (change: (b: Bundle) => void) => {
      const copy = structuredClone(bundle)
      change(copy)
      return JSON.stringify(copy)
    }
    const fresh = await startServer({ empty: true })
    const who = await fresh.founder()
    const cases: [string, string | Buffer, string][] = [
      ['truncated', good.slice(0, good.length / 2), 'not-json'],
      ['UTF-16', Buffer.from(`\ufeff${good}`, 'utf16le'), 'not-utf-8'],
      [
        'Latin-1',
        Buffer.from(
          edit((b) => (b.folder.loop.service = 'Trockner für Gemüse')),
          'latin1',
        ),
        'not-utf-8',
      ],
      ['another file', '{"hello": 1}', 'not-a-bundle'],
      ['empty', '', 'not-json'],
      ['newer', edit((b) => ((b as { version: number }).version = 9)), 'newer-version'],
      [
        'lacking a part',
        edit((b) => delete (b.folder.checks[0] as Partial<(typeof b.folder.checks)[0]>).readings),
        'not-a-bundle',
      ],
      [
        'changed after signing',
        edit((b) => (b.folder.checks[0]!.readings[3]!.reads['current']!.value += 0.1)),
        'signature-broken',
      ],
      ['of an unknown kind', edit((b) => (b.folder.loop.kind = 'zork')), 'unknown-kind'],
      ['one id twice', edit((b) => (b.folder.checks[1]!.id = b.folder.checks[0]!.id)), 'not-a-bundle'],
      ['of 50 MB', `{"pad":"${'x'.repeat(50 * 1024 * 1024)}"}`, 'too-large'],
    ]
    for (const [name, body, code] of cases) {
      const answer = await send(who, '/api/bundles', body)
      expect(answer.problem.code, name).toBe(code)
      expect(answer.problem.detail, name).toMatch(/Nothing was stored/)
    }
    expect(await tables(who)).toEqual([])
    await fresh.stop()
  })
  it('never overwrites a folder that has gone on', async () => {
    const bundle = JSON.parse(demo('LT-133.json')) as Bundle
    bundle.folder.loop.service = 'Another service'
    expect((await send(ailsa, '/api/bundles', canonicalJson(bundle))).problem).toMatchObject({
      status: 409,
      code: 'folder-differs',
    })
    bundle.folder.loop.id = uuid()
    expect((await send(ailsa, '/api/bundles', canonicalJson(bundle))).problem).toMatchObject({
      status: 409,
      code: 'tag-taken',
    })
  })
})

describe('the register as CSV', () => {
  const rows = 'tag,service,area,kind\r\n'
  it('comes in, with quotes and a byte order mark, and goes out', async () => {
    const text = `\ufeff${rows}LT-601,"Tank, ""north""",Yard,level-from-above\r\nTT-602,Öl,Yard,rtd-head\r\n`
    expect((await send(ailsa, '/api/loops.csv', text)).body).toEqual({ added: ['LT-601', 'TT-602'], already: [] })
    expect((await send(ailsa, '/api/loops.csv', text)).body).toEqual({ added: [], already: ['LT-601', 'TT-602'] })
    const out = (await ailsa.raw('GET', '/api/loops.csv')).text
    expect(out).toContain('LT-601,"Tank, ""north""",Yard,level-from-above')
    expect(out).toContain('Öl')
  })
  it('does not hand a spreadsheet a formula', async () => {
    await send(ailsa, '/api/loops.csv', `${rows}LT-603,=1+1,Yard,level-from-above\r\n`)
    expect((await ailsa.raw('GET', '/api/loops.csv')).text).toContain("'=1+1")
  })
  it.each([
    [
      'a bad row among good ones',
      `${rows}LT-611,x,y,level-from-above\r\nbad tag,x,y,level-from-above\r\nLT-612,x,y,zork\r\n`,
      'bad-rows',
    ],
    ['truncated in a quote', `${rows}LT-613,"half a`, 'not-csv'],
    ['a row of too few cells', `${rows}LT-614,x\r\n`, 'not-csv'],
    ['without its columns', 'a,b\r\n1,2\r\n', 'not-csv'],
    ['empty', '', 'not-csv'],
    ['in another encoding', Buffer.from(`${rows}LT-615,Öl,Yard,rtd-head`, 'latin1'), 'not-utf-8'],
    ['of 50 MB', rows + 'x'.repeat(50 * 1024 * 1024), 'too-large'],
  ])('is refused whole when it is %s', async (_, body, code) => {
    const before = await tables(ailsa)
    const answer = await send(ailsa, '/api/loops.csv', body)
    expect(answer.problem.code).toBe(code)
    if (code === 'bad-rows') expect(answer.problem.fields?.map((f) => f.path)).toEqual(['line 3', 'line 4'])
    expect(await tables(ailsa)).toEqual(before)
  })
})

describe('the register', () => {
  it('is paged by tag and found by words, area and state', async () => {
    const page = async (q: string) => (await ailsa.raw('GET', `/api/loops?${q}`)).body as LoopPage
    const first = await page('limit=2')
    const second = await page(`limit=2&after=${first.next}`)
    expect([...first.loops, ...second.loops].map((l) => l.tag)).toEqual((await tables(ailsa)).slice(0, 4))
    expect((await page('q=wash%20tank')).loops.map((l) => l.tag)).toEqual(['LT-112'])
    expect((await page('q=%25')).loops).toEqual([])
    expect((await page('area=Drying')).loops.map((l) => l.tag)).toEqual(['FT-402', 'TT-405', 'ZS-501'])
    const overdue = (await page('state=overdue')).loops
    expect(overdue.map((l) => l.tag)).toEqual(expect.arrayContaining(['LY-133', 'PDT-118', 'TT-405']))
    const today = new Date().toISOString().slice(0, 10)
    expect(overdue.every((l) => l.nextDue !== null && l.nextDue < today)).toBe(true)
    expect((await page('state=not-fit')).loops.map((l) => l.tag)).toEqual(['LY-133'])
    expect((await page('state=half-entered&q=brine')).loops.map((l) => l.tag)).toEqual(['LT-133'])
    expect(first.areas).toContain('Wash house')
  })
})
