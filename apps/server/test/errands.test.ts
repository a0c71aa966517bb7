// Long work: papers of many loops, folders brought in, a backup; done by any server, and taken up where one is lost.
import { existsSync, mkdtempSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { guessMapping, readRows } from '@calm-loop/core/intake'
import Excel from 'exceljs'
import sharp from 'sharp'
import { unzipSync, zipSync, strToU8 } from 'fflate'
import { ERRAND_PAPERS, PART_BYTES, type Errand, type ErrandWish, type ListMapping } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { afterAll, describe, expect, it } from 'vitest'
import { findPrograms } from '../../../scripts/lib/postgres.mjs'
import { wordsOf } from '../src/errands/errands.ts'
import { HttpProblem } from '../src/http/problems.ts'
import { good, startServer, until, type TestServer, type Visitor } from './harness.ts'

const into = mkdtempSync(join(tmpdir(), 'calm-loop-backups-'))
const first = await startServer()
const backups = {
  of: { ownerUrl: first.ownerUrl, sealKeyFile: first.sealKeyFile, programs: findPrograms()! },
  ...{ folder: into, passphraseFile: `${into}.passphrase`, days: 14 },
}
const server = await startServer({ on: first, backups })
const [ailsa, rona, magnus] = [await server.as('ailsa'), await server.as('rona'), await server.as('magnus')]
afterAll(async () => {
  await server.stop()
  await first.stop()
})

const listed = async (who: Visitor): Promise<Errand[]> =>
  (good(await who.call('errands')).body as { errands: Errand[] }).errands
async function ended(who: Visitor, id: string): Promise<Errand> {
  let found: Errand | undefined
  await until(async () => {
    found = (await listed(who)).find((e) => e.id === id)
    return found !== undefined && found.state !== 'waiting' && found.state !== 'running'
  }, 600)
  return found!
}
async function asked(who: Visitor, wish: ErrandWish, id = uuid()): Promise<Errand> {
  good(await who.call('beginErrand', { errandId: id }, wish))
  return ended(who, id)
}
async function fileOf(who: Visitor, id: string, from: TestServer = server): Promise<Record<string, Uint8Array>> {
  const got = await fetch(`${from.base}/api/errands/${id}/file`, { headers: { cookie: who.cookie } })
  expect([got.status, got.headers.get('content-type')]).toEqual([200, 'application/zip'])
  return unzipSync(new Uint8Array(await got.arrayBuffer()))
}
async function sent(who: Visitor, id: string, bytes: Uint8Array, size = PART_BYTES): Promise<number> {
  const parts = Math.ceil(bytes.length / size)
  for (let i = 0; i < parts; i++)
    good(await who.raw('PUT', `/api/errands/${id}/parts/${i}`, Buffer.from(bytes.subarray(i * size, (i + 1) * size))))
  return parts
}
const papers = (kind: (typeof ERRAND_PAPERS)[number], of = {}): ErrandWish => ({
  ...{ what: 'papers', papers: kind, of },
})

describe('papers of many loops', () => {
  it('come in one file, each whole; what has none is named', async () => {
    const done = await asked(ailsa, papers('certificates', { area: 'Wash house' }))
    expect(done).toMatchObject({ state: 'done', share: 1, by: { name: 'Ailsa Fenn' } })
    const files = await fileOf(ailsa, done.id)
    const names = Object.keys(files)
    expect(names.length).toBeGreaterThan(0)
    expect(done.says).toBe(`${names.length} of ${names.length + done.left.length} loops`)
    for (const name of names) expect(Buffer.from(files[name]!).subarray(0, 5).toString()).toBe('%PDF-')
    for (const why of done.left) expect(why).toMatch(/: no signed check$/)
    expect(done.file).toBeGreaterThan(1000)
  })
  it('are the very folders that each loop gives by itself, and are brought in elsewhere', async () => {
    const done = await asked(rona, papers('folders', { q: 'LT-112' }))
    const [[name, bytes]] = Object.entries(await fileOf(rona, done.id)) as [[string, Uint8Array]]
    expect(name).toBe('LT-112.calm-loop.json')
    const { loops } = (await rona.raw('GET', '/api/loops?q=LT-112')).body as { loops: { id: string }[] }
    const alone = (await rona.call('bundle', { loopId: loops[0]!.id })).text
    const strip = (text: string) => JSON.parse(text) as { folder: unknown }
    expect(strip(Buffer.from(bytes).toString()).folder).toEqual(strip(alone).folder)
  })
  it('that were kept with loops come in a folder each, called by what they are, without places', async () => {
    const { id } = await loopOf('TT-405')
    const keep = (name: string, bytes: string | Buffer, more = '') =>
      ailsa.raw('PUT', `/api/loops/${id}/attachments/${uuid()}?name=${encodeURIComponent(name)}${more}`, bytes)
    const place = { exif: { IFD3: { GPSLatitude: '59/1 1/1 0/1' } } }
    const dot = sharp({ create: { width: 4, height: 4, channels: 3, background: 'red' } })
    const jpeg = await dot.withExif(place.exif).jpeg().toBuffer()
    expect(jpeg.includes('Exif')).toBe(true)
    good(await keep('../gland', jpeg, '&shows=terminals&words=loose'))
    good(await keep('../gland', await dot.png().toBuffer()))
    good(await keep('sheet.pdf', '%PDF-1.7 sheet', '&shows=data-sheet'))
    good(await keep('sheet.pdf', '%PDF-1.7 another'))
    const done = await asked(ailsa, papers('photographs', { q: 'TT-4' }))
    expect(done.says).toMatch(/^1 of \d+ loops$/)
    expect(done.left).toContain('TT-407: no photographs or papers')
    const files = await fileOf(ailsa, done.id)
    const day = new Date().toISOString().slice(0, 10)
    expect(Object.keys(files).sort()).toEqual(
      ['__gland.jpg', '__gland.png', 'sheet (2).pdf', 'sheet.pdf']
        .map((n) => `TT-405/${day} ${n}`)
        .concat('TT-405/about.txt'),
    )
    expect(Buffer.from(files[`TT-405/${day} __gland.jpg`]!).includes('Exif')).toBe(false)
    const about = Buffer.from(files['TT-405/about.txt']!).toString()
    expect(about.split('\n')[0]).toBe(`${day} __gland.jpg: terminals, loose, kept by Ailsa Fenn`)
  })
  it('of loops that are not there are none, and say so', async () => {
    const done = await asked(ailsa, papers('set-up sheets', { q: 'no such tag' }))
    expect(done).toMatchObject({ state: 'done', says: 'No loop is found by that.', file: null })
    expect((await ailsa.raw('GET', `/api/errands/${done.id}/file`)).status).toBe(404)
  })
})

describe('folders brought in', () => {
  it('in one file, sent in parts: those that cannot be are named, the others stand', async () => {
    const bundle = (await rona.call('bundle', { loopId: (await loopOf('TT-407')).id })).text
    const other = bundle.replaceAll('TT-407', 'TT-999')
    const zip = zipSync({
      'a.json': strToU8(bundle),
      'b.json': strToU8(other),
      'c.json': strToU8('{'),
      'd.txt': strToU8('x'),
    })
    const id = uuid()
    const parts = await sent(ailsa, id, zip, 2000)
    expect(parts).toBeGreaterThan(2)
    const done = await asked(ailsa, { what: 'bring-in', parts, name: 'folders.zip' }, id)
    expect(done).toMatchObject({ state: 'done', says: '0 brought in, 1 were here already' })
    expect(done.left.map((l) => l.slice(0, 7)).toSorted()).toEqual(['b.json:', 'c.json:'])
  })
  it('is refused before all of its parts are there, and is no matter of others', async () => {
    const id = uuid()
    await sent(ailsa, id, strToU8('{}'))
    const half = await ailsa.call('beginErrand', { errandId: id }, { what: 'bring-in', parts: 2, name: 'a.zip' })
    expect([half.status, half.problem.code]).toEqual([409, 'file-incomplete'])
    const theirs = await rona.call('beginErrand', { errandId: id }, { what: 'bring-in', parts: 1, name: 'a.zip' })
    expect(theirs.problem.code).toBe('file-incomplete')
  })
  it('that are no ZIP file, or a broken one, fail in words', async () => {
    const id = uuid()
    const parts = await sent(ailsa, id, Buffer.concat([Buffer.from('PK'), Buffer.alloc(400, 7)]))
    const done = await asked(ailsa, { what: 'bring-in', parts, name: 'x.zip' }, id)
    expect(done).toMatchObject({ state: 'failed', says: 'This is no whole ZIP file.' })
  })
})

describe('a backup from a page', () => {
  it('is made by a server that can, for an administrator', async () => {
    expect((await ailsa.call('beginErrand', { errandId: uuid() }, { what: 'backup' })).status).toBe(403)
    const done = await asked(rona, { what: 'backup' })
    expect(done.state, done.says).toBe('done')
    const [name] = readdirSync(into)
    expect(existsSync(join(into, name!, 'manifest.json'))).toBe(true)
  })
  it('into a folder that cannot be written to fails in words', async () => {
    renameSync(into, `${into}.aside`)
    // A file stands where the folder should be.
    writeFileSync(into, '')
    const done = await asked(rona, { what: 'backup' })
    rmSync(into)
    renameSync(`${into}.aside`, into)
    expect(done.state).toBe('failed')
    expect(done.says).toMatch(/^Nothing can be written to /)
  })
})

describe('who sees what, and what happens to it', () => {
  it('one sees one’s own; an administrator sees all', async () => {
    const done = await asked(ailsa, papers('folders', { q: 'no such tag' }))
    expect((await listed(ailsa)).every((e) => e.by.name === 'Ailsa Fenn')).toBe(true)
    expect((await listed(rona)).map((e) => e.id)).toContain(done.id)
    expect(await listed(magnus)).toEqual([])
    expect((await magnus.raw('GET', `/api/errands/${done.id}/file`)).status).toBe(404)
    expect((await magnus.call('beginErrand', { errandId: uuid() }, papers('folders'))).status).toBe(403)
  })
  it('the same again is the same; something else under its id is refused', async () => {
    const id = uuid()
    const one = await asked(ailsa, papers('folders', { q: 'no such tag' }), id)
    expect(await asked(ailsa, papers('folders', { q: 'no such tag' }), id)).toEqual(one)
    expect((await ailsa.call('beginErrand', { errandId: id }, papers('certificates'))).problem.code).toBe('id-reused')
  })
  it('one that is ended comes to nothing', async () => {
    const id = uuid()
    good(await ailsa.call('beginErrand', { errandId: id }, papers('certificates')))
    const answer = good(await ailsa.call('cancelErrand', { errandId: id })).body as Errand
    expect(answer.state).toBe('cancelled')
    // What was asked for after it is done: its turn is over.
    await asked(ailsa, papers('folders', { q: 'no such tag' }))
    expect((await ended(ailsa, id)).state).toBe('cancelled')
    expect((await ailsa.raw('GET', `/api/errands/${id}/file`)).status).toBe(404)
  })
  it('what broke on the server says so, and none of its insides', () => {
    expect(wordsOf(new Error('Failed query: select * from people; params: ailsa'))).toMatch(/^Something broke/)
    expect(wordsOf(new HttpProblem(422, 'too-much-work', 'Divide it.'))).toBe('Divide it.')
  })
  it('one whose server is lost is taken up by another', async () => {
    const id = uuid()
    // As a server leaves it that was killed: it was doing it, and nobody has heard of it for a while.
    const at = new Date(Date.now() - 60_000)
    const [person] = (await server.pool.query<{ id: string }>("select id from people where sign_in = 'ailsa'")).rows
    await server.pool.query(
      `insert into errands (id, wish, by, at, state, doer, beat_at, tries, address)
       values ($1, $2, $3, $4, 'running', 'lost', $4, 1, 'http://127.0.0.1')`,
      [id, JSON.stringify(papers('folders', { q: 'LT-112' })), person!.id, at],
    )
    const done = await ended(ailsa, id)
    expect(done).toMatchObject({ state: 'done', says: '1 of 1 loops' })
    expect(Object.keys(await fileOf(ailsa, id, first))).toEqual(['LT-112.calm-loop.json'])
  })
})
async function loopOf(tag: string): Promise<{ id: string }> {
  return ((await rona.raw('GET', `/api/loops?q=${tag}`)).body as { loops: { id: string }[] }).loops[0]!
}

describe('an instrument list', () => {
  const loop = (tag: string, more: object = {}) => ({
    ...{ id: uuid(), versionId: uuid(), tag, service: 'Of a list', area: 'Listed', kind: 'pressure', kindVersion: 1 },
    ...{ entries: { lrv: { typed: '0 bar', value: 0, unit: 'bar' }, serial: { typed: `S-${tag}` } } },
    ...more,
  })
  async function brought(loops: readonly object[], id = uuid()): Promise<Errand> {
    const parts = await sent(ailsa, id, strToU8(JSON.stringify({ loops })))
    return asked(ailsa, { what: 'plant', parts, name: 'list.xlsx', loops: loops.length }, id)
  }
  const has = async (q: string) =>
    (good(await ailsa.raw('GET', `/api/loops?q=${q}`)).body as { loops: { id: string; tag: string; state: string }[] })
      .loops

  it('comes in whole: loops with their entries, in the register and in the trail', async () => {
    const list = [...Array.from({ length: 300 }, (_, i) => loop(`PL-${1000 + i}`)), loop('PL-9', { entries: {} })]
    expect(await brought(list)).toMatchObject({ state: 'done', says: '301 loops brought in' })
    const [found] = await has('PL-1007')
    expect(found).toMatchObject({ tag: 'PL-1007', state: 'half-entered' })
    const folder = good(await ailsa.call('folder', { loopId: found!.id })).body as {
      versions: { entries: object; reason: string; sealedAt: string | null; author: { name: string } }[]
    }
    expect(folder.versions).toMatchObject([
      {
        entries: { serial: { typed: 'S-PL-1007' } },
        reason: 'From the list list.xlsx',
        author: { name: 'Ailsa Fenn' },
      },
    ])
    expect(folder.versions[0]!.sealedAt).not.toBeNull()
    const [bare] = await has('PL-9')
    expect((good(await ailsa.call('folder', { loopId: bare!.id })).body as { versions: [] }).versions).toEqual([])
    const trail = good(await rona.raw('GET', `/api/audit?loop=${found!.id}`)).body as { entries: { action: string }[] }
    expect(trail.entries.map((e) => e.action)).toContain('loop-created')
  })
  it('adds nothing when the same comes again, and goes on from what is here', async () => {
    const list = [loop('PM-1'), loop('PM-2')]
    await brought(list)
    expect((await brought(list)).says).toBe('0 loops brought in, 2 were here already')
    expect((await brought([...list, loop('PM-3')])).says).toBe('1 loops brought in, 2 were here already')
  })
  it('is refused whole where a tag is taken, stands twice, or an entry is not what its text says', async () => {
    const untrue = { entries: { lrv: { typed: '0 bar', value: 5, unit: 'bar' } } }
    for (const [list, says] of [
      [[loop('PN-1'), loop('LT-112')], /already: LT-112\. Nothing was stored/],
      [[loop('PN-1'), loop('PN-1')], /twice: PN-1\. Nothing was stored/],
      [[loop('PN-1'), loop('PN-2', untrue)], /do not agree: PN-2: lrv/],
      [[loop('PN-1'), loop('PN-3', { entries: { nonsense: { typed: 'x' } } })], /PN-3: nonsense/],
      [[loop('PN-1'), loop('PN-4', { kind: 'nonsense' })], /./],
    ] as const) {
      expect(await brought(list)).toMatchObject({ state: 'failed', says: expect.stringMatching(says) as string })
      expect(await has('PN-')).toEqual([])
    }
  })
  it('goes out as XLSX and CSV, and comes back as it was', async () => {
    await brought([
      loop('PQ-1'),
      loop('PQ-2', { entries: { faultAction: { typed: 'high' }, tell: { typed: '=Ailsa' } } }),
    ])
    const done = await asked(ailsa, { what: 'papers', papers: 'instrument list', of: { q: 'PQ-' } })
    expect(done).toMatchObject({ state: 'done', says: '2 loops' })
    const files = await fileOf(ailsa, done.id)
    expect(Object.keys(files).sort()).toEqual(['instruments.csv', 'instruments.xlsx'])
    const book = new Excel.Workbook()
    await book.xlsx.load(new Uint8Array(files['instruments.xlsx']!).buffer)
    const rows: string[][] = []
    book.worksheets[0]!.eachRow((row) => rows.push((row.values as (string | undefined)[]).slice(1).map((v) => v ?? '')))
    const sheet = { name: 'x', rows: rows.map((r) => Array.from(r, (c) => c ?? '')) }
    const back = [...readRows(sheet, guessMapping(sheet))]
    expect(back).toMatchObject([
      {
        loop: {
          tag: 'PQ-1',
          kind: 'pressure',
          entries: { lrv: { typed: '0 bar', value: 0 }, serial: { typed: 'S-PQ-1' } },
        },
      },
      // What looks like a formula is no value when it comes in.
      { tag: 'PQ-2', why: ['Who must be told: a formula stands there, and no value.'] },
    ])
    const csv = new TextDecoder().decode(files['instruments.csv'])
    expect(csv).toContain('Serial number [serial]')
    expect(csv).not.toMatch(/[,;]"?=Ailsa/)
  })
  it('is told which tags are taken', async () => {
    const answer = await ailsa.call('tagsTaken', {}, { tags: ['LT-112', 'QQ-1', 'PM-1'] })
    expect(good(answer).body).toEqual({ taken: ['LT-112', 'PM-1'] })
  })
  it('is read as the last with these heads was, by whoever brings it in; a change of that is on record', async () => {
    const heads = ['Tag', '', 'Type']
    const mapping = (decimalMark: string, to = 'tag'): ListMapping => ({
      ...{ header: 2, headerLines: 1, kinds: { 'level radar': 'level-from-above' } },
      ...{ columns: [{ to, unit: '' }], decimalMark: decimalMark as '.' },
    })
    const look = async (who: Visitor, of = heads) =>
      (good(await who.call('listMapping', {}, { heads: of })).body as { mapping: ListMapping | null }).mapping
    expect(await look(ailsa)).toBe(null)
    good(await ailsa.call('keepListMapping', {}, { heads, mapping: mapping('.') }))
    good(await rona.call('keepListMapping', {}, { heads, mapping: mapping(',') }))
    good(await rona.call('keepListMapping', {}, { heads, mapping: mapping(',') }))
    expect(await look(ailsa)).toEqual(mapping(','))
    expect(await look(ailsa, ['Tag', 'Type'])).toBe(null)
    const { entries } = good(await rona.raw('GET', '/api/audit')).body as { entries: { action: string }[] }
    expect(entries.filter((e) => e.action === 'list-mapping')).toHaveLength(2)
    const odd = mapping(';')
    expect((await ailsa.call('keepListMapping', {}, { heads, mapping: odd })).problem.code).toBe('invalid-input')
  })
  it('may be brought in by who enters loops only', async () => {
    const wish: ErrandWish = { what: 'plant', parts: 1, name: 'x', loops: 1 }
    expect((await magnus.call('beginErrand', { errandId: uuid() }, wish)).status).toBe(403)
    expect((await magnus.call('tagsTaken', {}, { tags: [] })).status).toBe(403)
    expect((await magnus.call('listMapping', {}, { heads: [] })).status).toBe(403)
  })
})
