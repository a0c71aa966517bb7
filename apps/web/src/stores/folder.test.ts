import { USUAL_DUTIES } from '@calm-loop/contract'
import type { FolderView, Reading, SaveVersion, Version } from '@calm-loop/contract'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { draftKey } from './draft-notes.ts'
import { useFolder } from './folder.ts'
import { useOutbox } from './outbox.ts'
import { HandFed, handFed } from './server.fixture.ts'
import { useSession } from './session.ts'

const LOOP = '01890000-0000-7000-8000-000000000001'
const ailsa = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa' }
const rona = { id: '01890000-0000-7000-8000-00000000000b', name: 'Rona' }
const DAY = '2027-01-01T10:00:00.000Z'
const text = (typed: string) => ({ typed })

const version = (more: Partial<Version>): Version => ({
  id: 'v1',
  number: 1,
  parentId: null,
  revision: 0,
  entries: {},
  author: ailsa,
  startedAt: DAY,
  savedAt: DAY,
  reason: '',
  sealedAt: null,
  ...more,
})

/** A stream on which nothing comes. */
class SilentSource {
  addEventListener(_what?: string, _hear?: () => void): void {}
  removeEventListener(): void {}
  close(): void {}
}

let versions: Version[]
let saves: { id: string; body: SaveVersion }[]
let answerSave: (id: string, body: SaveVersion) => Response | Promise<Response>
const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status })
const view = () =>
  ({
    row: {},
    loop: { id: LOOP, tag: 'LT-1', service: 's', area: 'a', kind: 'level-from-above', createdAt: DAY },
    versions,
    checks: [],
  }) as unknown as FolderView

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  versions = [version({ sealedAt: DAY, entries: { device: text('Head') } })]
  saves = []
  answerSave = (id, body) =>
    json(200, version({ ...body, id, number: 2, author: ailsa, sealedAt: body.seal ? DAY : null }))
  vi.stubGlobal('EventSource', SilentSource)
  vi.stubGlobal('fetch', (address: string, sent: RequestInit) => {
    if (sent.method === 'GET') return Promise.resolve(json(200, view()))
    const body = JSON.parse(sent.body as string) as SaveVersion
    const id = address.split('/').at(-1)!
    saves.push({ id, body })
    return Promise.resolve(answerSave(id, body))
  })
  useSession().session = {
    person: { ...ailsa, signIn: 'ailsa', roles: ['technician'] },
    csrfToken: 't',
    empty: false,
    duties: USUAL_DUTIES,
    demo: null,
  }
})
afterEach(() => {
  useFolder().close()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const soon = () => vi.advanceTimersByTimeAsync(1000)

describe('entries being typed', () => {
  it('are saved a moment later, once for many keys, as a version made from the newest', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    for (const typed of ['2', '24', '24 V']) folder.set('tell', text(typed))
    await soon()
    expect(saves).toMatchObject([
      {
        body: { parentId: 'v1', parentRevision: 0, revision: 0, entries: { device: text('Head'), tell: text('24 V') } },
      },
    ])
    expect(folder.status).toBe('saved')
  })
  it('go on in the open version, one revision at a time', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    folder.set('tell', text('a'))
    await soon()
    folder.set('tell', text('ab'))
    await soon()
    expect(saves.map((s) => [s.id === saves[0]!.id, s.body.revision])).toEqual([
      [true, 0],
      [true, 1],
    ])
  })
  it('are kept on the device while the server is away, and saved when it is back', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    answerSave = () => Promise.reject(new TypeError('no network'))
    folder.set('tell', text('kept'))
    await soon()
    expect(folder.status).toBe('offline')
    setActivePinia(createPinia())
    useSession().session = {
      person: { ...ailsa, signIn: 'ailsa', roles: ['technician'] },
      csrfToken: 't',
      empty: false,
      duties: USUAL_DUTIES,
      demo: null,
    }
    answerSave = (id, body) => json(200, version({ ...body, id, number: 2 }))
    const again = useFolder()
    await again.open(LOOP)
    await soon()
    expect(again.entries['tell']).toEqual(text('kept'))
    expect(saves.at(-1)!.body.entries['tell']).toEqual(text('kept'))
  })
  it.each(['', 'null', '{}', '{"base":{}', '{"base":1,"entries":[]}'])(
    'that this device kept badly do not keep a folder closed: %j',
    async (kept) => {
      localStorage.setItem(draftKey(ailsa.id, LOOP), kept)
      const folder = useFolder()
      await folder.open(LOOP)
      expect(folder.entries).toEqual({ device: text('Head') })
      expect(saves).toEqual([])
    },
  )
  it('are saved although this device can keep nothing, and that is told', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    const quota = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
    vi.stubGlobal('localStorage', { length: 0, getItem: () => null, removeItem: () => undefined, setItem: quota })
    folder.set('tell', text('a'))
    await vi.advanceTimersByTimeAsync(400)
    expect(useOutbox().full).toContain('can keep nothing more')
    const store = answerSave
    answerSave = (id, body) => {
      // Typed on while it was saved.
      folder.set('tell', text('ab'))
      return store(id, body)
    }
    await soon()
    answerSave = store
    await soon()
    expect([folder.status, folder.refusal]).toEqual(['saved', ''])
    expect(saves.at(-1)!.body.entries['tell']).toEqual(text('ab'))
    vi.stubGlobal('localStorage', { length: 0, removeItem: () => undefined, setItem: () => undefined })
    folder.set('tell', text('abc'))
    await vi.advanceTimersByTimeAsync(400)
    expect(useOutbox().full).toBe('')
  })
  it('of one person are not restored as another’s', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    answerSave = () => Promise.reject(new TypeError('no network'))
    folder.set('tell', text('Ailsa’s'))
    await soon()
    expect(Object.values(localStorage).join()).toContain('Ailsa’s')
    setActivePinia(createPinia())
    useSession().session = {
      person: { ...rona, signIn: 'rona', roles: ['technician'] },
      csrfToken: 't',
      empty: false,
      duties: USUAL_DUTIES,
      demo: null,
    }
    const hers = useFolder()
    await hers.open(LOOP)
    expect(hers.entries['tell']).toBeUndefined()
  })
})

describe('someone else saved meanwhile', () => {
  const theirs = (entries: Version['entries']) =>
    version({ id: 'v2', number: 2, parentId: 'v1', author: rona, entries })
  const refuseOnce = (head: Version) => {
    const accept = answerSave
    answerSave = () => {
      answerSave = accept
      return json(409, { code: 'version-conflict', detail: 'Rona saved a change', current: head })
    }
  }
  it('what they changed alone is taken over and mine saved after it', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    refuseOnce(theirs({ device: text('New head') }))
    folder.set('tell', text('mine'))
    await soon()
    await soon()
    expect(folder.entries).toEqual({ device: text('New head'), tell: text('mine') })
    expect(folder.news).toContain('Rona changed Device to New head')
    expect(saves.at(-1)!.body).toMatchObject({
      parentId: 'v2',
      entries: { device: text('New head'), tell: text('mine') },
    })
  })
  it('what both changed keeps my text, waits, and is saved when I have chosen', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    refuseOnce(theirs({ device: text('Theirs') }))
    folder.set('device', text('Mine'))
    await soon()
    expect(folder.clashes).toMatchObject([{ key: 'device', mine: 'Mine', theirs: 'Theirs', who: 'Rona' }])
    expect(folder.entries['device']).toEqual(text('Mine'))
    const before = saves.length
    await vi.advanceTimersByTimeAsync(10_000)
    expect(saves).toHaveLength(before)
    folder.settle(folder.clashes[0]!, 'theirs')
    await soon()
    expect(folder.entries['device']).toEqual(text('Theirs'))
    expect(folder.clashes).toEqual([])
  })
  it('an earlier save of my own whose answer was lost is gone on from, not fought', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    let lost: SaveVersion | undefined
    answerSave = (_, body) => {
      lost = body
      return Promise.reject(new TypeError('no network'))
    }
    folder.set('tell', text('one'))
    await soon()
    const id = saves[0]!.id
    folder.set('tell', text('one two'))
    answerSave = (sentId, body) =>
      body.revision === 0
        ? json(409, { code: 'version-conflict', detail: 'x', current: version({ ...lost!, id, number: 2 }) })
        : json(200, version({ ...body, id: sentId, number: 2 }))
    await vi.advanceTimersByTimeAsync(5000)
    expect(folder.clashes).toEqual([])
    expect(saves.at(-1)).toMatchObject({ id, body: { revision: 1, entries: { tell: text('one two') } } })
    expect(folder.status).toBe('saved')
  })
  it('does not lose a reading to an answer that was asked for before it was saved', async () => {
    const folder = useFolder()
    const reading = (seq: number) => ({ id: `r${seq}`, seq }) as Reading
    const withCheck = (readings: Reading[]) => ({ ...view(), checks: [{ id: 'c1', readings, signatures: [] }] })
    const waiting: ((answer: Response) => void)[] = []
    vi.stubGlobal('fetch', () => Promise.resolve(json(200, withCheck([reading(1)]))))
    await folder.open(LOOP)
    vi.stubGlobal('fetch', () => new Promise((resolve) => waiting.push(resolve)))
    const first = folder.refresh()
    const second = folder.refresh()
    folder.addReading('c1', reading(2))
    waiting[1]!(json(200, withCheck([reading(1), reading(2)])))
    await second
    waiting[0]!(json(200, withCheck([reading(1)])))
    await first
    expect(folder.view!.checks[0]!.readings.map((r) => r.seq)).toEqual([1, 2])
    const third = folder.refresh()
    folder.addReading('c1', reading(3))
    waiting[2]!(json(200, withCheck([reading(1), reading(2)])))
    await third
    expect(folder.view!.checks[0]!.readings.map((r) => r.seq)).toEqual([1, 2, 3])
  })
  it('does not lose the bench just connected to an answer that was asked for before', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    const bench = { by: ailsa, since: DAY }
    const waiting: ((answer: Response) => void)[] = []
    vi.stubGlobal('fetch', (_: string, sent: RequestInit) =>
      sent.method === 'GET'
        ? new Promise((resolve) => waiting.push(resolve))
        : Promise.resolve(json(200, { ...view(), bench })),
    )
    const before = folder.refresh()
    await folder.connectBench(true)
    waiting[0]!(json(200, view()))
    await vi.advanceTimersByTimeAsync(10)
    expect(folder.practising).toBe(true)
    // What that answer would have told is asked for once more.
    waiting[1]!(json(200, { ...view(), bench, workLog: [{ id: 'w1', practice: true }] }))
    await before
    expect(folder.here.workLog).toHaveLength(1)
  })
  it('sees what was recorded between its reading of the folder and the opening of its stream', async () => {
    let opened: (() => void) | undefined
    class LateSource extends SilentSource {
      override addEventListener(what?: string, hear?: () => void): void {
        if (what === 'open') opened = hear
      }
    }
    vi.stubGlobal('EventSource', LateSource)
    const folder = useFolder()
    await folder.open(LOOP)
    const check = { id: 'c1', readings: [{ id: 'r1', seq: 1 }], signatures: [] }
    vi.stubGlobal('fetch', () => Promise.resolve(json(200, { ...view(), checks: [check] })))
    expect(opened).toBeDefined()
    opened!()
    await vi.advanceTimersByTimeAsync(10)
    expect(folder.view!.checks).toHaveLength(1)
  })
  it('looks again once the database is back: what another server wrote meanwhile was not heard', async () => {
    handFed()
    const folder = useFolder()
    await folder.open(LOOP)
    const check = { id: 'c1', readings: [], signatures: [] }
    vi.stubGlobal('fetch', () => Promise.resolve(json(200, { ...view(), checks: [check] })))
    HandFed.last.say('server', { database: 'away' })
    await vi.advanceTimersByTimeAsync(10)
    expect(folder.view!.checks).toHaveLength(0)
    HandFed.last.say('server', { database: 'here' })
    await vi.advanceTimersByTimeAsync(10)
    expect(folder.view!.checks).toHaveLength(1)
  })
  it.each(['by looking', 'by news of something else'])(
    'takes up what another person saved, however it learns of it: %s',
    async (how) => {
      handFed()
      const folder = useFolder()
      await folder.open(LOOP)
      const theirs = { device: text('Head'), slopePercent: text('97.0 %') }
      versions.push(version({ id: 'v2', number: 2, parentId: 'v1', author: rona, entries: theirs }))
      if (how === 'by looking') await folder.refresh()
      else HandFed.last.say('change', { loopId: LOOP, what: 'wire-log', id: 'w1', by: 'Rona' })
      await vi.advanceTimersByTimeAsync(10)
      HandFed.last.say('change', { loopId: LOOP, what: 'version', id: 'v2', by: 'Rona' })
      await soon()
      expect(folder.entries).toEqual(theirs)
      // What is typed next does not take it back.
      folder.set('tell', text('mine'))
      await soon()
      expect(saves.map((s) => s.body.entries)).toEqual([{ ...theirs, tell: text('mine') }])
    },
  )
  it('shows side by side what was typed here and saved elsewhere, when it looks again', async () => {
    const folder = useFolder()
    await folder.open(LOOP)
    folder.set('device', text('Mine'))
    versions.push(version({ id: 'v2', number: 2, parentId: 'v1', author: rona, entries: { device: text('Theirs') } }))
    await folder.refresh()
    expect(folder.clashes).toMatchObject([{ key: 'device', mine: 'Mine', theirs: 'Theirs', who: 'Rona' }])
    await soon()
    expect(saves).toEqual([])
  })
  it('looks at many changes in a row together, and sees the last of them', async () => {
    handFed()
    const folder = useFolder()
    await folder.open(LOOP)
    let [asked, recorded] = [0, 0]
    vi.stubGlobal('fetch', async () => {
      asked++
      const wireLog = Array.from({ length: recorded }, (_, i) => ({ id: `w${i}`, practice: false }))
      await new Promise((resolve) => setTimeout(resolve, 20))
      return json(200, { ...view(), wireLog })
    })
    for (let i = 0; i < 25; i++) {
      recorded++
      HandFed.last.say('change', { loopId: LOOP, what: 'wire-log', id: `w${i}`, by: 'Rona' })
      await vi.advanceTimersByTimeAsync(1)
    }
    await vi.advanceTimersByTimeAsync(200)
    expect(folder.view!.wireLog).toHaveLength(25)
    expect(asked).toBeLessThan(6)
  })
})
