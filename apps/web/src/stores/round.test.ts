// The round on the page: planned from what the server told and what waits here; put once, sent once, kept out of
// coverage.
import 'fake-indexeddb/auto'
import { USUAL_DUTIES, type Job, type Round } from '@calm-loop/contract'
import { deleteDB } from 'idb'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { until } from '../../test/until.ts'
import { today } from '../widgets/dates.ts'
import { useOutbox } from './outbox.ts'
import { useRound } from './round.ts'
import { useSession } from './session.ts'
import { closeRoom } from './waiting-room.ts'

const AILSA = { id: 'a', name: 'Ailsa Fenn' }
const job = (id: string, loopId = '1'): Job => ({
  ...{ id, loopId, tag: 'LT-1', what: 'Look', why: '', by: null, from: 'Shift', origin: 'call', works: [] },
  ...{ made: '2026-11-01T08:00:00.000Z', madeBy: AILSA, ended: null },
})
const need = { what: 'Loop current', unit: 'mA', low: 4, high: 20, tolerance: 0.08 }
const loop = (id: string, area: string) => ({
  ...{ id, area, tag: `LT-${id}`, service: 'Tank', kind: 'k', due: '2026-01-01' },
  ...{ works: ['loop-check' as const], needs: [need], brings: [] },
})
let server: Round
let sent: { method: string; path: string; body: unknown }[]
let away: boolean
let refuse: ((path: string) => object | undefined) | undefined
beforeEach(() => {
  localStorage.clear()
  sent = []
  away = false
  refuse = undefined
  server = {
    ...{ day: today(), loops: [loop('2', 'B'), loop('1', 'A')], more: 0, jobs: [job('j')], past: {}, wanted: 4 },
    kit: [
      {
        ...{ id: 'g', name: 'Loop meter', serial: '7', due: '2099-01-01', move: null },
        ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.001 }],
      },
    ],
    ...{ walking: { areas: [{ area: 'B', told: 'the gatekeeper' }] }, mine: null },
  }
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    if (away) throw new TypeError('no network')
    const body = typeof init.body === 'string' ? (JSON.parse(init.body) as unknown) : undefined
    if (init.method !== 'GET') sent.push({ method: init.method!, path, body })
    const problem = refuse?.(path)
    if (problem) return new Response(JSON.stringify(problem), { status: 409 })
    return new Response(JSON.stringify(path.startsWith('/api/round?') ? server : (body ?? {})))
  })
  setActivePinia(createPinia())
  const person = { ...AILSA, signIn: 'ailsa', roles: ['technician' as const] }
  useSession().session = { person, csrfToken: 't', empty: false, duties: USUAL_DUTIES, demo: null }
})
afterEach(async () => {
  useOutbox().close()
  await closeRoom()
  await deleteDB('calm-loop')
  vi.unstubAllGlobals()
})
const order = () => useRound().plan?.stops.map((s) => s.loop.id)

describe('the round on the page', () => {
  it('is in walking order with whom to tell, what to bring, and the jobs of each loop', async () => {
    const round = useRound()
    await round.load()
    expect(order()).toEqual(['2', '1'])
    expect(round.people[0]).toMatchObject({ what: 'the gatekeeper', by: '07:30', tags: ['LT-2'] })
    expect(round.plan!.stops[1]!.jobs.map((j) => j.id)).toEqual(['j'])
    expect(round.pack[0]).toMatchObject({ key: 'kit g', tags: ['LT-2', 'LT-1'] })
    expect(round.lacks).toEqual([])
  })
  it('stands as it was put at once, is sent, and is asked for again with another last day', async () => {
    const round = useRound()
    await round.load()
    round.change({ byHand: ['1', '2'] })
    expect(order()).toEqual(['1', '2'])
    round.packed('test leads', true)
    expect(round.isPacked(round.pack.find((l) => l.key === 'test leads')!)).toBe(true)
    await until(() => expect(sent).toHaveLength(2))
    // What is put otherwise, and nothing that another tab may have put meanwhile.
    const path = `/api/rounds/${today()}`
    expect(sent).toMatchObject([
      { path, body: { byHand: ['1', '2'] } },
      { path, body: { pack: { key: 'test leads', on: true } } },
    ])
    expect(Object.keys(sent.at(-1)!.body as object)).toEqual(['pack'])
    round.packed('test leads', false)
    expect(round.state.packed).toEqual([])
    round.change({ areas: ['A'] })
    expect(order()).toEqual(['1'])
    await until(() => expect(useOutbox().pending).toEqual([]))
  })
  it('stands as it was put although an answer of before comes after it was saved', async () => {
    const round = useRound()
    await round.load()
    const slow = fetch
    let answer: () => void = () => undefined
    const before = JSON.stringify(server)
    vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
      if (!path.startsWith('/api/round?')) return slow(path, init)
      await new Promise<void>((go) => (answer = go))
      return new Response(before)
    })
    round.change({ byHand: ['1', '2'] })
    const asked = round.load()
    await until(() => expect(useOutbox().pending).toEqual([]))
    answer()
    await asked
    expect(order()).toEqual(['1', '2'])
  })
  it('of one person is not shown to the next', async () => {
    const round = useRound()
    await round.load()
    round.change({ byHand: ['1', '2'] })
    await until(() => expect(useOutbox().pending).toEqual([]))
    const { person, ...session } = useSession().session!
    useSession().session = { ...session, person: { ...person!, id: 'r', name: 'Rona' } }
    await until(() => expect(order()).toEqual(['2', '1']))
  })
  it('keeps what is done out of coverage, shows it, and sends it once', async () => {
    const round = useRound()
    await round.load()
    away = true
    await round.endJob(job('j'), { how: 'done', words: 'Dry' })
    const { id: _, tag: _t, made: _m, madeBy: _b, ended: _e, ...asked } = job('k', '2')
    await round.makeJob(asked, 'LT-2', 'k')
    await round.moveKit(round.pack[0]!, true)
    round.packed('test leads', true)
    expect(round.plan!.stops.map((s) => s.jobs.map((j) => j.id))).toEqual([['k'], []])
    expect(round.isMine(round.pack[0]!)).toBe(true)
    const jobs = { made: server.jobs }
    away = false
    server = { ...server, jobs: [{ ...jobs.made[0]!, id: 'k', loopId: '2' }] }
    await until(() => expect(useOutbox().pending).toEqual([]))
    const writes = sent.map((s) => s.path.replace(/[0-9a-f-]{36}/, 'ID'))
    expect(writes).toEqual(['/api/jobs/j/end', '/api/jobs/k', '/api/gear/g/moves/ID', `/api/rounds/${today()}`])
    await until(() => expect(round.plan!.stops[0]!.jobs.map((j) => j.id)).toEqual(['k']))
  })
  it('tells who has a piece that another took meanwhile, and looks again', async () => {
    const round = useRound()
    await round.load()
    const move = { id: 'm', holder: { id: 'r', name: 'Rona' }, place: '', by: AILSA, at: '2026-11-30T08:10:00.000Z' }
    refuse = (path) => (path.includes('/moves/') ? { code: 'kit-moved', detail: 'Rona took it.' } : undefined)
    server = { ...server, kit: server.kit.map((k) => ({ ...k, move })) }
    await expect(round.moveKit(round.pack[0]!, true)).rejects.toThrow('Rona took it.')
    expect(round.holderOf(round.pack[0]!)?.holder?.name).toBe('Rona')
    expect(round.isPacked(round.pack[0]!)).toBe(false)
  })
})
