// Photographs and papers of a loop: known by their content, kept once and whole, given away without place and device.
import type { Attachment, AttachmentNote, FolderView } from '@calm-loop/contract'
import { createHash } from 'node:crypto'
import sharp from 'sharp'
import { v7 as uuid } from 'uuid'
import { beforeAll, describe, expect, it } from 'vitest'
import { good, served, type Visitor } from './harness.ts'
import { drawn } from './paper.ts'

const { ailsa, magnus, server } = await served()
let loopId = ''
beforeAll(async () => {
  loopId = uuid()
  const identity = { tag: 'LT-9701', service: 'Tank', area: 'Test', kind: 'level-from-above' }
  good(await ailsa.call('createLoop', { loopId }, identity))
})
const PLACE = { IFD0: { Make: 'Nobody', Orientation: '6' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '60/1 9/1 0/1' } }
const photograph = (width = 400, height = 300) =>
  sharp({ create: { width, height, channels: 3, background: '#7a5' } })
    .withExif(PLACE)
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer()
const at = (id: string, of = loopId) => `/api/loops/${of}/attachments/${id}`
const put = (
  bytes: Buffer | string,
  id = uuid(),
  { who = ailsa, query = '' }: { who?: Visitor; query?: string } = {},
) => who.raw('PUT', at(id) + query, bytes)
const bytesOf = async (path: string): Promise<{ bytes: Buffer; headers: Headers }> => {
  const answer = await fetch(server.base + path, { headers: { cookie: magnus.cookie } })
  expect(answer.status).toBe(200)
  return { bytes: Buffer.from(await answer.arrayBuffer()), headers: answer.headers }
}

describe('a photograph', () => {
  it('is kept once and whole, and shown small and upright', async () => {
    const [bytes, id] = [await photograph(3000, 2000), uuid()]
    const query = '?name=plate.jpg&shows=plate&words=of%20the%20head'
    const kept = good(await put(bytes, id, { query })).body as Attachment
    expect(kept).toMatchObject({
      ...{ id, name: 'plate.jpg', media: 'image/jpeg', bytes: bytes.length, width: 2000, height: 3000 },
      ...{ digest: createHash('sha256').update(bytes).digest('hex'), by: { name: 'Ailsa Fenn' }, noted: null },
      note: { shows: 'plate', words: 'of the head', marks: [], hidden: null },
    })
    expect(good(await put(bytes, id)).body).toEqual(kept)
    expect((await put(await photograph(10, 10), id)).problem.code).toBe('id-reused')
    expect((await magnus.call('attachments', { loopId })).body).toEqual([kept])
    const small = await bytesOf(`${at(id)}/small.webp`)
    const { format, width, height, exif } = await sharp(small.bytes).metadata()
    expect([format, width, height, exif]).toEqual(['webp', 853, 1280, undefined])
    expect(small.headers.get('cache-control')).toContain('immutable')
  })
  it('that waited out of coverage is of when it was added there', async () => {
    const hour = 3_600_000
    const said = { 'x-waited-ms': String(5 * hour) }
    const kept = good(await ailsa.raw('PUT', at(uuid()), await photograph(), said)).body as Attachment
    expect(Math.abs(Date.now() - 5 * hour - Date.parse(kept.at))).toBeLessThan(hour / 2)
  })
  it('is given away without where and by what it was taken, and whole where that is asked for', async () => {
    const [bytes, id] = [await photograph(), uuid()]
    good(await put(bytes, id))
    expect((await sharp(bytes).metadata()).exif).toBeDefined()
    const bare = await bytesOf(`${at(id)}/file`)
    const { exif, format, width } = await sharp(bare.bytes).metadata()
    expect([exif, format, width]).toEqual([undefined, 'jpeg', 300])
    expect(bare.headers.get('content-disposition')).toMatch(/^attachment/)
    expect((await bytesOf(`${at(id)}/file?whole=yes`)).bytes.equals(bytes)).toBe(true)
  })
  it('is told by its content: no HEIC, no bomb, no text, no drawing, and nothing beyond 25 MB', async () => {
    const heic = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypheic'), Buffer.alloc(200)])
    const bomb = await sharp({ create: { width: 16_000, height: 16_000, channels: 3, background: '#fff' } })
      .png({ compressionLevel: 9 })
      .toBuffer()
    for (const bytes of [
      heic,
      bomb,
      'words',
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
      (await photograph()).subarray(0, 90),
    ])
      expect((await put(bytes)).problem.code).toBe('not-a-picture')
    const large = await put(Buffer.alloc(60_000_000, 7))
    expect([large.status, large.problem.code]).toEqual([413, 'too-large'])
  })
})

describe('a paper', () => {
  it('is known as one whatever its name says, and is no plate', async () => {
    const id = uuid()
    const kept = good(await put('%PDF-1.7 data', id, { query: '?name=plate.jpg&shows=plate' })).body as Attachment
    expect(kept).toMatchObject({ media: 'application/pdf', width: null, note: { shows: 'other' } })
    const { bytes, headers } = await bytesOf(`${at(id)}/file`)
    expect([bytes.toString(), headers.get('content-type')]).toEqual(['%PDF-1.7 data', 'application/pdf'])
    expect((await ailsa.raw('GET', `${at(id)}/small.webp`)).status).toBe(404)
    const marks = [{ draw: 'words', x: 0, y: 0, words: 'here' }]
    const said = { shows: 'terminals', words: '', marks, hidden: null }
    const noted = await ailsa.call('noteAttachment', { loopId, attachmentId: id, noteId: uuid() }, said)
    expect(good(noted).body).toMatchObject({ note: { shows: 'other', marks: [] } })
  })
})

describe('a link', () => {
  it('is one address of a page or file elsewhere, and nothing else', async () => {
    const id = uuid()
    const address = 'https://papers.example/heads/a2?sheet=1'
    const kept = good(await put(address, id, { query: '?name=papers.example' })).body as Attachment
    expect(kept).toMatchObject({ media: 'text/uri-list', link: address, width: null, note: { shows: 'other' } })
    const file = await bytesOf(`${at(id)}/file`)
    expect([file.bytes.toString(), file.headers.get('content-type')]).toEqual([address, 'text/uri-list; charset=utf-8'])
    for (const other of [
      'javascript:alert(1)',
      'https://a b',
      'ftp://x',
      'https://x\nhttps://y',
      'file:///etc/passwd',
      'https:',
    ])
      expect((await put(other)).problem.code, other).toBe('not-a-picture')
  })
})

describe('what is said of it', () => {
  const NOTE: AttachmentNote = {
    ...{ shows: 'terminals', words: 'TX+ is loose', hidden: null },
    marks: [
      { draw: 'arrow', x: 0.1, y: 0.2, toX: 0.5, toY: 0.5 },
      { draw: 'words', x: 0.1, y: 0.1, words: 'here' },
    ],
  }
  it('is said anew, the newest stands, and all of it stays', async () => {
    const [id, noteId] = [uuid(), uuid()]
    good(await put(await photograph(), id))
    const note = (body: unknown, as = noteId, who: Visitor = ailsa) =>
      who.call('noteAttachment', { loopId, attachmentId: id, noteId: as }, body)
    const said = good(await note(NOTE)).body as Attachment
    expect(said).toMatchObject({ note: NOTE, noted: { by: { name: 'Ailsa Fenn' } } })
    expect(good(await note(NOTE)).body).toEqual(said)
    expect((await note({ ...NOTE, words: 'another' })).problem.code).toBe('id-reused')
    good(await note({ ...NOTE, hidden: 'of another tank' }, uuid()))
    const [newest] = (await ailsa.call('attachments', { loopId })).body as Attachment[]
    expect(newest).toMatchObject({ id, note: { hidden: 'of another tank' } })
    await expect(server.pool.query('delete from attachments')).rejects.toThrow(/permission denied/)
    await expect(server.pool.query("update attachment_notes set note = '{}'")).rejects.toThrow(/permission denied/)
    expect((await note(NOTE, uuid(), magnus)).problem.code).toBe('wrong-role')
    for (const wrong of [{ marks: [{ draw: 'arrow', x: 2, y: 0, toX: 0, toY: 0 }] }, { hidden: '' }, { shows: 'cat' }])
      expect((await note({ ...NOTE, ...wrong }, uuid())).problem.code).toBe('invalid-input')
  })
  it('belongs to one loop: under another nothing of it is found', async () => {
    const id = uuid()
    good(await put(await photograph(), id))
    for (const path of ['/file', '/small.webp'])
      expect((await ailsa.raw('GET', at(id, uuid()) + path)).status).toBe(404)
    const params = { loopId: uuid(), attachmentId: id, noteId: uuid() }
    expect((await ailsa.call('noteAttachment', params, NOTE)).status).toBe(404)
    expect((await ailsa.raw('PUT', at(id, uuid()), await photograph())).status).toBe(404)
    expect((await put(await photograph(), uuid(), { who: magnus })).problem.code).toBe('wrong-role')
    expect((await server.visitor().raw('GET', `${at(id)}/file`)).status).toBe(401)
  })
})

describe('a photograph chosen for the papers of its loop', () => {
  const GREEN = [119, 170, 85]
  /** Points of a page that are like a colour, in per cent of all. */
  const shareOf = (page: Awaited<ReturnType<typeof drawn>>[number], colour: readonly number[]) => {
    const { data } = page.at.getImageData(0, 0, page.canvas.width, page.canvas.height)
    let like = 0
    for (let i = 0; i < data.length; i += 4) if (colour.every((c, k) => Math.abs(c - data[i + k]!) < 24)) like++
    return (400 * like) / data.length
  }
  const certificate = async () => {
    const { loops } = (await ailsa.raw('GET', '/api/loops?q=PDT-118')).body as { loops: { id: string }[] }
    const of = loops[0]!.id
    const folder = good(await ailsa.call('folder', { loopId: of })).body as FolderView
    const check = folder.checks.findLast((c) => c.signatures.length)!
    const paper = async () => drawn((await bytesOf(`/api/loops/${of}/checks/${check.id}/certificate.pdf`)).bytes, 60)
    return { of, paper }
  }
  /** All that is said, without gaps: a sheet has its words in pieces. */
  const words = (pages: Awaited<ReturnType<typeof drawn>>) =>
    pages
      .flatMap((p) => p.words.map((w) => w.str))
      .join('')
      .replace(/\s/g, '')

  it('stands at its end with arrows and words, said to be no part of what is sealed; another does not', async () => {
    const { of, paper } = await certificate()
    const id = uuid()
    good(await ailsa.raw('PUT', at(id, of), await photograph(400, 300)))
    const before = await paper()
    expect(words(before)).not.toContain('Photographs')
    const marks = [
      { draw: 'arrow', x: 0.2, y: 0.2, toX: 0.6, toY: 0.6 },
      { draw: 'words', x: 0.2, y: 0.15, words: 'loose <here>' },
    ]
    const note = { ...{ shows: 'terminals', words: 'After the storm', marks, hidden: null }, onPapers: true }
    good(await ailsa.call('noteAttachment', { loopId: of, attachmentId: id, noteId: uuid() }, note))
    const after = await paper()
    expect(words(after)).toMatch(/Photographs.*nopartofwhatissealed/s)
    expect(words(after)).toContain('terminals:Afterthestorm;keptbyAilsaFenn')
    expect(words(after)).toContain('loose<here>')
    expect(Math.max(...after.map((p) => shareOf(p, GREEN)))).toBeGreaterThan(3)
    expect(Math.max(...before.map((p) => shareOf(p, GREEN)))).toBeLessThan(0.1)
    expect(Math.max(...after.map((p) => shareOf(p, [200, 16, 46])))).toBeGreaterThan(0.02)
    // Out of view it is off the papers too.
    good(
      await ailsa.call(
        'noteAttachment',
        { loopId: of, attachmentId: id, noteId: uuid() },
        { ...note, hidden: 'blurred' },
      ),
    )
    expect(words(await paper())).not.toContain('Photographs')
  })
})
