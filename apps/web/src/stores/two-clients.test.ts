// Two devices and one server, the network cut at any moment: before a write arrives, between two of one message, once
// it arrived and before its answer did, or while the page is loaded anew. Whatever was put in a queue is on record
// once, in its order within its loop; what was refused stands in the tray of who wrote it; both devices end at the same
// state.
import { IDBFactory } from 'fake-indexeddb'
import type { WorkEntry } from '@calm-loop/contract'
import fc from 'fast-check'
import { createPinia, setActivePinia } from 'pinia'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import { sure } from '@calm-loop/core/sure'
import { eachOf, folderOf, handFed, json, refusal, sessionOf } from './server.fixture.ts'

/** `MODEL_RUNS=2000` for all of them, which take some minutes. */
const RUNS = Number(process.env['MODEL_RUNS'] ?? 300)
type Cut = 'none' | 'before' | 'midway' | 'after'
const NAMES = ['ailsa', 'rona'] as const
type Name = (typeof NAMES)[number]
const LOOPS = 2

/** One device: a module graph, a database and a page of its own. */
interface Device {
  /** Loads its page anew. */
  readonly load: () => Device['outbox']
  outbox: ReturnType<typeof import('./outbox.ts').useOutbox>
  readonly withWaiting: typeof import('./with-waiting.ts').withWaiting
  /** Nothing of its person waits in its room, whatever the page has seen of that. */
  readonly isEmpty: () => Promise<boolean>
  cut: Cut
}
const PERSON: Record<Name, string> = {
  ailsa: '01890000-0000-7000-8000-00000000000a',
  rona: '01890000-0000-7000-8000-00000000000b',
}

/** What the server has, by loop; a write under a known id changes nothing. */
let record = new Map<string, WorkEntry[]>()
/** Writes that the server will not take. */
const REFUSED = 'not like this'

function server(token: string, path: string, body: { words: string }): Response {
  const [loopId, , id] = path.split('/').slice(3) as [string, string, string]
  if (body.words === REFUSED) return refusal(422, 'step-out-of-order', 'Somebody went on elsewhere.')
  const log = record.get(loopId) ?? []
  const known = log.find((e) => e.id === id)
  const entry = known ?? ({ ...body, id, by: { id: token, name: token }, at: '' } as unknown as WorkEntry)
  if (!known) record.set(loopId, [...log, entry])
  return json(200, entry)
}
const devices = {} as Record<Name, Device>
const lost = () => Promise.reject(new TypeError('no network'))

beforeAll(async () => {
  handFed()
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const headers = (init.headers ?? {}) as Record<string, string>
    const name = NAMES.find((n) => n === headers['x-csrf-token'])
    if (!name || init.method === 'GET') return json(200, {})
    const { cut } = devices[name]
    if (cut === 'before') return lost()
    let done = 0
    const one = (to: string, body: { words: string }) =>
      // Of several in one message the server was lost after the first.
      cut === 'midway' && done++ ? lost() : server(PERSON[name], to, body)
    const answer = (await eachOf(address, init, one)) ?? (await one(address, JSON.parse(init.body as string)))
    return cut === 'after' ? lost() : answer
  })
  for (const name of NAMES) {
    vi.resetModules()
    vi.stubGlobal('indexedDB', new IDBFactory())
    const [{ useSession }, { rememberToken }, { useOutbox }, { withWaiting }, { writesOf }] = [
      await import('./session.ts'),
      await import('../api/client.ts'),
      await import('./outbox.ts'),
      await import('./with-waiting.ts'),
      await import('./waiting-room.ts'),
    ]
    rememberToken(name)
    /** A page of this device, with what it has kept. */
    const load = () => {
      setActivePinia(createPinia())
      useSession().session = sessionOf(['technician'], {
        person: { id: PERSON[name], name, signIn: name, roles: ['technician'] },
      })
      return useOutbox()
    }
    const isEmpty = async () => (await writesOf(PERSON[name])).length === 0
    devices[name] = { withWaiting, isEmpty, cut: 'none', load, outbox: load() }
    // Its database is open from now on, whatever stands in the window.
    await devices[name].outbox.settled()
    await devices[name].outbox.flush()
  }
})
afterAll(() => {
  NAMES.forEach((name) => devices[name].outbox.close())
  vi.unstubAllGlobals()
})

interface Step {
  readonly who: Name
  readonly does: 'write' | 'refused' | 'send' | 'reload' | Cut
  readonly loop: number
}
const step = fc.record<Step>({
  who: fc.constantFrom(...NAMES),
  does: fc.constantFrom('write', 'write', 'write', 'refused', 'send', 'reload', 'none', 'before', 'midway', 'after'),
  loop: fc.nat(LOOPS - 1),
})
interface Put {
  readonly who: Name
  readonly loopId: string
  readonly id: string
  readonly bad: boolean
}

async function go({ who, does, loop }: Step, loops: readonly string[], put: Put[]): Promise<void> {
  const device = devices[who]
  if (does === 'send') return device.outbox.flush()
  if (does === 'reload') {
    await device.outbox.settled()
    device.outbox.close()
    device.outbox = device.load()
    return
  }
  if (does !== 'write' && does !== 'refused') return void (device.cut = does)
  const [id, loopId] = [uuid(), sure(loops[loop])]
  const body = { what: 'step', step: id, words: does === 'refused' ? REFUSED : '' }
  put.push({ who, loopId, id, bad: does === 'refused' })
  device.outbox.put({ id, endpoint: 'addWork', params: { loopId, entryId: id }, body, tag: loopId })
}

/** Both are in coverage again, until nothing waits. */
async function settle(): Promise<void> {
  for (const name of NAMES) {
    const device = devices[name]
    device.cut = 'none'
    for (let tries = 0; ; tries++) {
      if (tries > 1000) throw new Error(`${name} still waits`)
      await device.outbox.settled()
      await device.outbox.flush()
      if ((await device.isEmpty()) && !device.outbox.waiting.length) break
      await new Promise((resolve) => setTimeout(resolve, 2))
    }
  }
}

it(
  'nothing put in a queue is lost, doubled or out of its order, and both end at the same state',
  async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 14 }), async (steps) => {
        // What a run that failed has left is none of the next one's.
        await settle()
        for (const n of NAMES) for (const w of [...devices[n].outbox.refused]) await devices[n].outbox.dismiss(w.id)
        record = new Map()
        const loops = Array.from({ length: LOOPS }, () => uuid())
        const put: Put[] = []
        for (const s of steps) await go(s, loops, put)
        await settle()
        for (const loopId of loops) {
          const there = (record.get(loopId) ?? []).map((e) => e.id)
          const wanted = (who: Name) => put.filter((p) => p.who === who && p.loopId === loopId && !p.bad)
          expect(there.toSorted()).toEqual(NAMES.flatMap((n) => wanted(n).map((p) => p.id)).toSorted())
          for (const name of NAMES) {
            const mine = (record.get(loopId) ?? []).filter((e) => e.by.id === PERSON[name]).map((e) => e.id)
            expect(mine).toEqual(wanted(name).map((p) => p.id))
          }
          const told = { ...folderOf('coriolis', {}), workLog: record.get(loopId) ?? [] }
          const seen = NAMES.map((n) => devices[n].withWaiting(told, devices[n].outbox.waiting).workLog)
          expect(seen[0]).toEqual(seen[1])
        }
        for (const name of NAMES) {
          const { outbox } = devices[name]
          const tray = outbox.refused.map((w) => w.id).toSorted()
          expect(tray).toEqual(
            put
              .filter((p) => p.who === name && p.bad)
              .map((p) => p.id)
              .toSorted(),
          )
          for (const id of tray) await outbox.dismiss(id)
        }
      }),
      { numRuns: RUNS },
    )
  },
  20 * 60_000,
)
