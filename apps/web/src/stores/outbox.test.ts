// The outbox: nothing written is lost, each thing is sent once and in order, by one tab for all of a person, in nobody
// else's name.
import { forceCloseDatabase } from 'fake-indexeddb'
import 'fake-indexeddb/auto'
import { USUAL_DUTIES, type Session } from '@calm-loop/contract'
import { deleteDB } from 'idb'
import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useOutbox } from './outbox.ts'
import { useSession } from './session.ts'
import { closeRoom, keepWrite, takeLeftovers, writesOf } from './waiting-room.ts'
import { until } from '../../test/until.ts'
import { eachOf } from './server.fixture.ts'

const person = (id: string): Session => ({
  person: { id, name: id, signIn: id, roles: ['technician'] },
  csrfToken: 't',
  empty: false,
  duties: USUAL_DUTIES,
  demo: null,
})
const reading = (id: string, tag = 'LT-1') => ({
  id,
  endpoint: 'takeReading' as const,
  params: { loopId: 'l', checkId: 'c', readingId: id },
  body: { pointIndex: 0 },
  tag,
})
const answer = (status: number, body: object = {}) => new Response(JSON.stringify(body), { status })

let sent: string[]
let messages: string[]
let respond: (id: string) => Response | Promise<Response>
const tabs: ReturnType<typeof useOutbox>[] = []
/** A page of its own, signed in as this person. */
function tab(who = 'ailsa'): ReturnType<typeof useOutbox> {
  const pinia: Pinia = createPinia()
  setActivePinia(pinia)
  useSession(pinia).session = person(who)
  const outbox = useOutbox(pinia)
  tabs.push(outbox)
  return outbox
}
beforeEach(() => {
  localStorage.clear()
  sent = []
  respond = () => answer(200, { ok: true })
  messages = []
  const one = async (address: string): Promise<Response> => {
    const id = address.split('/').at(-1)!
    if (id !== 'session') sent.push(id)
    return respond(id)
  }
  vi.stubGlobal('fetch', async (address: string, init: RequestInit) => {
    messages.push(address.split('/').at(-1)!)
    return (await eachOf(address, init, one)) ?? one(address)
  })
})
afterEach(async () => {
  tabs.splice(0).forEach((t) => t.close())
  await closeRoom()
  await deleteDB('calm-loop')
  vi.unstubAllGlobals()
})
const refuse = () => Promise.reject(new TypeError('no network'))

describe('the outbox', () => {
  it('sends in order and tells who waits for the answer', async () => {
    const outbox = tab()
    const saved: unknown[] = []
    for (const id of ['1', '2', '3']) outbox.put(reading(id), (r) => saved.push(r))
    await until(() => expect(saved).toHaveLength(3))
    expect(sent).toEqual(['1', '2', '3'])
    await until(() => expect(outbox.pending).toEqual([]))
  })
  it('tells who waits before it waits no longer: in between it would be nowhere', async () => {
    const outbox = tab()
    const seen: number[] = []
    outbox.put(reading('1'), () => seen.push(outbox.waiting.length))
    await until(() => expect(outbox.pending).toEqual([]))
    expect(seen).toEqual([1])
  })
  it('keeps what could not be sent, and sends it again in order', async () => {
    respond = refuse
    const outbox = tab()
    outbox.put(reading('1'))
    outbox.put(reading('2'))
    await until(() => expect(outbox.offline).toBe(true))
    expect(outbox.waiting.map((w) => w.id)).toEqual(['1', '2'])
    respond = () => answer(200)
    await until(() => expect(outbox.pending).toEqual([]))
    expect(sent.slice(-2)).toEqual(['1', '2'])
    expect(outbox.offline).toBe(false)
  })
  it('sends what waited for one loop in few messages, and goes on behind one that is refused', async () => {
    respond = refuse
    const outbox = tab()
    const saved: unknown[] = []
    const ids = Array.from({ length: 60 }, (_, i) => `r${i}`)
    for (const id of ids) outbox.put(reading(id), () => saved.push(id))
    await until(() => expect(outbox.offline).toBe(true))
    await outbox.settled()
    ;[sent, messages] = [[], []]
    respond = (id) => (id === 'r9' ? answer(422, { code: 'no-such-place', detail: 'No.' }) : answer(200, { id }))
    await until(() => expect(outbox.waiting).toEqual([]))
    expect(sent).toEqual(ids)
    expect(saved).toEqual(ids.filter((id) => id !== 'r9'))
    expect(outbox.refused.map((w) => w.id)).toEqual(['r9'])
    expect(messages.length).toBeLessThan(6)
  })
  it('sends one at a time to a server that knows no other way, and asks another again', async () => {
    const outbox = tab()
    const usual = fetch
    const queued = async (...ids: string[]) => {
      respond = refuse
      for (const id of ids) outbox.put(reading(id))
      await outbox.settled()
      await until(() => expect(outbox.offline).toBe(true))
      ;[sent, messages, respond] = [[], [], () => answer(200)]
    }
    await queued('1', '2', '3')
    vi.stubGlobal('fetch', (address: string, init: RequestInit) =>
      address.endsWith('/waiting') ? Promise.resolve(answer(404, { code: 'not-found' })) : usual(address, init),
    )
    await until(() => expect(outbox.pending).toEqual([]))
    expect([sent, messages]).toEqual([
      ['1', '2', '3'],
      ['1', '2', '3'],
    ])
    await queued('4', '5', '6')
    vi.stubGlobal('fetch', usual)
    await until(() => expect(outbox.pending).toEqual([]))
    expect([sent, messages]).toEqual([['4', '5', '6'], ['waiting']])
  })
  it('says that a device is full, sends from the page what has no room, and keeps it once there is some', async () => {
    const quota = () => {
      throw new DOMException('no room', 'QuotaExceededError')
    }
    const [room, journal] = [vi.spyOn(IDBObjectStore.prototype, 'add'), vi.spyOn(Storage.prototype, 'setItem')]
    ;[room, journal].forEach((spy) => spy.mockImplementation(quota))
    respond = refuse
    const outbox = tab()
    for (const id of ['1', '2', '3']) outbox.put(reading(id))
    await until(() => expect(outbox.offline).toBe(true))
    expect(outbox.full).toContain('This device can keep nothing more')
    expect(outbox.waiting.map((w) => w.id)).toEqual(['1', '2', '3'])
    ;[sent, respond] = [[], (id) => (id === '2' ? answer(422, { code: 'no', detail: 'No.' }) : answer(200))]
    await until(() => expect(outbox.waiting).toEqual([]))
    expect([sent, outbox.refused.map((w) => w.id)]).toEqual([['1', '2', '3'], ['2']])
    await outbox.dismiss('2')
    expect(outbox.pending).toEqual([])
    // Some room again: what had none goes before what came after it.
    respond = refuse
    outbox.put(reading('4'))
    await outbox.settled()
    ;[room, journal].forEach((spy) => spy.mockRestore())
    outbox.put(reading('5'))
    await outbox.settled()
    expect(outbox.full).toBe('')
    expect((await writesOf('ailsa')).map((w) => w.id)).toEqual(['4', '5'])
    ;[sent, respond] = [[], () => answer(200)]
    await until(() => expect(outbox.pending).toEqual([]))
    expect(sent).toEqual(['4', '5'])
  })
  it('sends once what it cannot take out of the room afterwards', async () => {
    const drop = IDBObjectStore.prototype.delete
    const stuck = vi.spyOn(IDBObjectStore.prototype, 'delete').mockImplementation(function (this: IDBObjectStore, key) {
      if (this.name === 'writes') throw new DOMException('broken', 'UnknownError')
      return drop.call(this, key)
    })
    const outbox = tab()
    for (const id of ['1', '2', '3']) outbox.put(reading(id))
    await until(() => expect(outbox.pending).toEqual([]))
    await outbox.flush()
    stuck.mockRestore()
    expect(sent).toEqual(['1', '2', '3'])
  })
  it('sends what is entered in coverage although a signature still waits for its password', async () => {
    respond = refuse
    const outbox = tab()
    const sign = { id: 's', endpoint: 'sign' as const, params: { loopId: 'other', checkId: 'c', signatureId: 's' } }
    outbox.put({ ...sign, body: { role: 'performed', statement: 'I did.', password: '' }, tag: 'LT-2' })
    await outbox.settled()
    await outbox.seal('kelp and salt')
    await until(() => expect(outbox.offline).toBe(true))
    // The password is forgotten: nothing is tried any more by itself.
    await outbox.seal('')
    ;[sent, respond] = [[], () => answer(200)]
    outbox.put(reading('1'))
    await until(() => expect(sent).toEqual(['1']))
    expect(outbox.toSeal).toHaveLength(1)
  })
  it('puts what it has into a new room when the browser has thrown the old one away', async () => {
    // One that the test before left open would not be among those opened here.
    await closeRoom()
    const rooms: IDBDatabase[] = []
    const open = indexedDB.open.bind(indexedDB)
    vi.spyOn(indexedDB, 'open').mockImplementation((...of) => {
      const asked = open(...of)
      asked.addEventListener('success', () => rooms.push(asked.result))
      return asked
    })
    respond = refuse
    const outbox = tab()
    for (const id of ['1', '2']) outbox.put(reading(id))
    await outbox.settled()
    await until(() => expect(outbox.offline).toBe(true))
    forceCloseDatabase(rooms.at(-1) as never)
    await deleteDB('calm-loop')
    await until(async () => expect((await writesOf('ailsa')).map((w) => w.id)).toEqual(['1', '2']))
    expect(outbox.waiting.map((w) => w.id)).toEqual(['1', '2'])
    ;[sent, respond] = [[], () => answer(200)]
    await until(() => expect(outbox.pending).toEqual([]))
    expect(sent).toEqual(['1', '2'])
    vi.restoreAllMocks()
  })
  it('keeps by itself what had no room, once the browser lets it', async () => {
    respond = refuse
    const opening = vi.spyOn(indexedDB, 'open').mockImplementation(() => {
      throw new DOMException('being cleared', 'UnknownError')
    })
    const outbox = tab()
    for (const id of ['1', '2']) outbox.put(reading(id))
    await until(() => expect(outbox.full).toContain('This device can keep nothing more'))
    opening.mockRestore()
    await until(() => expect(outbox.full).toBe(''))
    expect((await writesOf('ailsa')).map((w) => w.id)).toEqual(['1', '2'])
    expect(outbox.waiting.map((w) => w.id)).toEqual(['1', '2'])
  })
  it('loses nothing of two tabs that are both out of coverage, and sends each thing once', async () => {
    respond = refuse
    const [one, two] = [tab(), tab()]
    const all: string[] = []
    for (let i = 0; i < 10; i++) {
      ;(i % 2 ? one : two).put(reading(`r${i}`))
      all.push(`r${i}`)
      await one.settled()
      await two.settled()
    }
    await until(() => expect(two.waiting).toHaveLength(10))
    respond = () => answer(200)
    sent = []
    await until(() => expect([one.pending.length, two.pending.length]).toEqual([0, 0]))
    // Once each, in the order in which they were entered; only the first may have been asked for again.
    expect(sent).toEqual(all)
  })
  it('tells the tab that wrote it also when another tab has sent it', async () => {
    respond = refuse
    const [one, two] = [tab(), tab()]
    const heard: unknown[] = []
    one.put(reading('1'), (r) => heard.push(r))
    await until(() => expect(two.waiting).toHaveLength(1))
    respond = () => answer(200)
    await two.flush()
    await until(() => expect(heard).toHaveLength(1))
  })
  it('does not take an answer that breaks off on the way for a refusal', async () => {
    respond = () =>
      new Response(new ReadableStream({ start: (c) => c.error(new TypeError('Failed to fetch')) }), { status: 200 })
    const outbox = tab()
    outbox.put(reading('1'))
    await until(() => expect(outbox.offline).toBe(true))
    expect(outbox.refused).toEqual([])
    respond = () => answer(200)
    await until(() => expect(outbox.pending).toEqual([]))
  })
  it('puts what the server will never take into the tray with its reason, and goes on with the next', async () => {
    respond = (id) => (id === '1' ? answer(409, { code: 'signed', detail: 'This check is signed.' }) : answer(200))
    const outbox = tab()
    outbox.put(reading('1'))
    outbox.put(reading('2'))
    await until(() => expect(outbox.refused).toMatchObject([{ id: '1', refused: 'This check is signed.' }]))
    await until(() => expect(outbox.waiting).toEqual([]))
    await outbox.dismiss('1')
    expect(outbox.pending).toEqual([])
  })
  it('was reached by whatever it refuses', async () => {
    respond = refuse
    const outbox = tab()
    outbox.put(reading('1'))
    await until(() => expect(outbox.offline).toBe(true))
    respond = () => answer(409, { code: 'signed', detail: 'This check is signed.' })
    await until(() => expect(outbox.refused).toHaveLength(1))
    expect(outbox.offline).toBe(false)
  })
  it('says of a refused write which field was wrong', async () => {
    respond = () =>
      answer(400, {
        code: 'invalid-input',
        detail: 'Not of the right form.',
        fields: [{ path: 'takenAt', rule: 'must be a time' }],
      })
    const outbox = tab()
    outbox.put(reading('1'))
    await until(() =>
      expect(outbox.refused).toMatchObject([{ refused: 'Not of the right form. takenAt: must be a time' }]),
    )
  })
  it('gives up a write over which the server breaks each time', async () => {
    respond = (id) => (id === '1' ? answer(500, { code: 'internal', detail: 'The error is in the log.' }) : answer(200))
    const outbox = tab()
    outbox.put(reading('1'))
    outbox.put(reading('2'))
    await until(() => expect(outbox.refused).toMatchObject([{ id: '1' }]))
    await until(() => expect(outbox.waiting).toEqual([]))
    expect(sent.filter((id) => id === '1').length).toBe(5)
  })
  it('waits through a database that is away', async () => {
    let away = true
    respond = () => (away ? answer(503, { code: 'database-away' }) : answer(200))
    const outbox = tab()
    outbox.put(reading('1'))
    await until(() => expect(outbox.offline).toBe(true))
    away = false
    await until(() => expect(outbox.pending).toEqual([]))
  })
  it('finds after a reload what was still waiting, even what had not yet reached the room', async () => {
    respond = refuse
    const outbox = tab()
    outbox.put(reading('1'))
    await until(() => expect(outbox.offline).toBe(true))
    outbox.close()
    const write = { ...reading('2'), by: 'ailsa', byName: 'ailsa', at: 1 }
    localStorage.setItem('calm-loop.journal.2', JSON.stringify(write))
    localStorage.setItem('calm-loop.journal.3', '{"cut')
    localStorage.setItem('calm-loop.outbox', JSON.stringify([{ ...reading('old'), by: 'ailsa' }]))
    respond = () => answer(200)
    const again = tab()
    await until(() => expect(sent).toContain('old'))
    await until(() => expect(again.pending).toEqual([]))
    expect(sent.filter((id) => ['2', 'old'].includes(id))).toHaveLength(2)
    expect(localStorage.length).toBe(0)
  })
  it('stores a write once, however often its note is found', async () => {
    const write = { ...reading('1'), by: 'nobody', byName: '', at: 1 }
    await keepWrite(write)
    localStorage.setItem('calm-loop.journal.1', JSON.stringify(write))
    await takeLeftovers()
    const outbox = tab('rona')
    await until(() => expect(outbox.others).toMatchObject([{ count: 1 }]))
  })
  it('sends nothing in another person’s name, and says only that something waits', async () => {
    respond = refuse
    const hers = tab('ailsa')
    hers.put(reading('1'))
    await until(() => expect(hers.offline).toBe(true))
    hers.close()
    sent = []
    respond = () => answer(200)
    const mine = tab('rona')
    await until(() => expect(mine.others).toMatchObject([{ name: 'ailsa', count: 1 }]))
    await mine.flush()
    expect(mine.pending).toEqual([])
    expect(sent).toEqual([])
    const again = tab('ailsa')
    await until(() => expect(sent).toEqual(['1']))
    await until(() => expect(again.pending).toEqual([]))
  })
  it('stops when the session has ended, keeps what is entered, and goes on after signing in again', async () => {
    let out = true
    respond = (id) =>
      id === 'session' ? answer(200, person('ailsa')) : out ? answer(401, { code: 'not-signed-in' }) : answer(200)
    const outbox = tab()
    const session = useSession()
    outbox.put(reading('1'))
    await until(() => expect(session.ended).toBe(true))
    outbox.put(reading('2'))
    await outbox.settled()
    expect(outbox.waiting).toHaveLength(2)
    out = false
    await session.signInAgain('secret')
    await until(() => expect(outbox.pending).toEqual([]))
    expect(sent.slice(-2)).toEqual(['1', '2'])
  })
})
