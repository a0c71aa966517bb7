// What this device keeps of the server's answers: in whose name, how long, and what is given when nobody answers.
import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { call, keepAnswersWith } from '../api/client.ts'
import { useCoverage } from './coverage.ts'
import { closeShelf, forget, keeperFor, KEPT_ms, keptLoops, takeAlong, tidyShelf } from './kept.ts'
import { useRegister } from './register.ts'
import { AILSA, answering, folderOf, LOOP_ID, noNetwork, refusal, sessionOf } from './server.fixture.ts'
import { useSession } from './session.ts'

const RONA = '01890000-0000-7000-8000-00000000000b'
const row = (tag: string, area = 'Wash house') => ({
  ...{ id: LOOP_ID, tag, service: 'Rinse', area, kind: 'direct', state: 'ready' as const },
  ...{ nextDue: '2020-01-01', lastErrorPct: null, tolerancePct: null },
})
const folder = (tag = 'LT-1') => folderOf('direct', {}, { row: row(tag) })
const other = '01890000-0000-7000-8000-0000000000ff'
/** A keeper of somebody, and what it said was shown. */
function keeping(person = AILSA.id) {
  const shown: (number | undefined)[] = []
  const keeper = keeperFor(
    () => person,
    (at) => shown.push(at),
  )
  keepAnswersWith(keeper)
  return { keeper, shown }
}
const path = (id = LOOP_ID) => `/api/loops/${id}`

beforeEach(() => setActivePinia(createPinia()))
afterEach(async () => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
  keepAnswersWith(undefined)
  for (const person of [AILSA.id, RONA]) await forget(person)
  await closeShelf()
  localStorage.clear()
})

describe('an answer', () => {
  it('is given when nobody answers, and told as what it is', async () => {
    const { shown } = keeping()
    answering({ [`GET ${path()}`]: () => folder() })
    const told = await call('folder', { params: { loopId: LOOP_ID } })
    await vi.waitFor(async () => expect(await keptLoops(AILSA.id)).toHaveLength(1))
    answering({ [`GET ${path()}`]: noNetwork })
    expect(await call('folder', { params: { loopId: LOOP_ID } })).toEqual(told)
    expect(shown).toEqual([expect.any(Number)])
  })
  it('is not given in place of a refusal, nor for a loop that was never opened', async () => {
    const { keeper } = keeping()
    await keeper.keep('folder', path(), folder())
    answering({ [`GET ${path()}`]: () => refusal(404, 'not-found', 'gone'), [`GET ${path(other)}`]: noNetwork })
    await expect(call('folder', { params: { loopId: LOOP_ID } })).rejects.toMatchObject({ code: 'not-found' })
    await expect(call('folder', { params: { loopId: other } })).rejects.toMatchObject({ code: 'no-network' })
  })
  it('is not given to whoever wants what the server says now', async () => {
    const { keeper } = keeping()
    await keeper.keep('folder', path(), folder())
    answering({ [`GET ${path()}`]: noNetwork })
    await expect(call('folder', { params: { loopId: LOOP_ID }, fresh: true })).rejects.toMatchObject({
      code: 'no-network',
    })
  })
  it('is nobody else’s, and gone when its person signs out', async () => {
    const ailsa = keeping()
    await ailsa.keeper.keep('folder', path(), folder())
    expect(await keeping(RONA).keeper.kept('folder', path())).toBeUndefined()
    await forget(AILSA.id)
    expect(await keeping().keeper.kept('folder', path())).toBeUndefined()
  })
  it('of a route that is not for the way is not kept', () => {
    const { keeper } = keeping()
    expect(['folder', 'gear', 'session'].every((n) => keeper.keeps(n as never))).toBe(true)
    expect(['audit', 'sessions', 'takeReading', 'openapi'].some((n) => keeper.keeps(n as never))).toBe(false)
  })
})

describe('a folder that nobody opened', () => {
  it('goes after a fortnight, unless it is taken along', async () => {
    const { keeper } = keeping()
    await keeper.keep('folder', path(), folder('LT-1'))
    await keeper.keep('folder', path(other), folder('LT-2'))
    await keeper.keep('gear', '/api/gear', [])
    await takeAlong(AILSA.id, other, true)
    await tidyShelf(Date.now() + KEPT_ms - 60_000)
    expect((await keptLoops(AILSA.id)).map((l) => l.row.tag)).toEqual(['LT-1', 'LT-2'])
    await tidyShelf(Date.now() + KEPT_ms + 60_000)
    expect(await keptLoops(AILSA.id)).toMatchObject([{ id: other, along: true }])
    // What is of the whole site stays for those.
    expect(await keeper.kept('gear', '/api/gear')).toEqual([])
    // Told anew it is still along; put back it goes with the others.
    await keeper.keep('folder', path(other), folder('LT-2'))
    expect(await keptLoops(AILSA.id)).toMatchObject([{ along: true }])
    await takeAlong(AILSA.id, other, false)
    await tidyShelf(Date.now() + KEPT_ms + 60_000)
    expect(await keptLoops(AILSA.id)).toEqual([])
  })
})

describe('a session', () => {
  it('is known without the server for as long as the server would know it', async () => {
    answering({ 'GET /api/session': () => sessionOf(['technician']) })
    await useSession().load()
    await vi.waitFor(async () => expect(await keeping().keeper.kept('session', '/api/session')).toBeTruthy())
    answering({ 'GET /api/session': noNetwork })
    setActivePinia(createPinia())
    await useSession().load()
    expect(useSession().person?.name).toBe(AILSA.name)
    expect(useCoverage().away).toBe(true)
    // Asked for again in between, the same session is no younger.
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 7 * 3_600_000 })
    await keeping().keeper.keep('session', '', sessionOf(['technician']))
    vi.setSystemTime(Date.now() + 6 * 3_600_000)
    setActivePinia(createPinia())
    await expect(useSession().load()).rejects.toMatchObject({ code: 'no-network' })
  })
  it('is known from the moment of signing in', async () => {
    answering({ 'POST /api/session': () => sessionOf(['technician']), 'GET /api/session': noNetwork })
    await useSession().signIn('ailsa', 'a password')
    await vi.waitFor(async () => expect(await keeping().keeper.kept('session', '')).toBeTruthy())
  })
  it('that is ended out of coverage is forgotten here at once, and there when the server is reached', async () => {
    answering({ 'GET /api/session': () => sessionOf(['technician']) })
    await useSession().load()
    const { keeper } = keeping()
    await keeper.keep('folder', path(), folder())
    answering({ 'DELETE /api/session': noNetwork, 'GET /api/session': noNetwork })
    await useSession().signOut()
    expect(useSession().person).toBeNull()
    expect(await keptLoops(AILSA.id)).toEqual([])
    setActivePinia(createPinia())
    await expect(useSession().load()).rejects.toMatchObject({ code: 'no-network' })
    // Signed in anew, nothing is left to be ended.
    answering({
      'POST /api/session': () => sessionOf(['technician']),
      'GET /api/session': () => sessionOf(['technician']),
    })
    setActivePinia(createPinia())
    await useSession().signIn('ailsa', 'a password')
    setActivePinia(createPinia())
    await useSession().load()
    expect(useSession().person?.name).toBe(AILSA.name)
    answering({ 'DELETE /api/session': noNetwork, 'GET /api/session': noNetwork })
    await useSession().signOut()
    // Back in coverage the cookie still stands: it is ended before anything is shown.
    let ended = false
    const asked = answering({
      'GET /api/session': () => sessionOf(ended ? null : ['technician']),
      'DELETE /api/session': () => void (ended = true),
    })
    setActivePinia(createPinia())
    await useSession().load()
    expect(useSession().person).toBeNull()
    expect(asked.map((a) => a.method)).toContain('DELETE')
  })
})

describe('the register without the server', () => {
  it('shows the loops that would open, as filtered', async () => {
    answering({ 'GET /api/session': () => sessionOf(['technician']), 'GET /api/loops': noNetwork })
    await useSession().load()
    const { keeper } = keeping()
    const register = useRegister()
    await register.load()
    expect(register.problem).toContain('cannot be reached')
    await keeper.keep('folder', path(), folder('LT-1'))
    await keeper.keep('folder', path(other), folderOf('direct', {}, { row: row('PT-2', 'Gas') }))
    await register.load()
    expect(register.loops.map((l) => l.tag)).toEqual(['LT-1', 'PT-2'])
    expect(register.areas).toEqual(['Gas', 'Wash house'])
    for (const [filter, tags] of [
      [{ q: 'gas pt', area: '', state: '' }, ['PT-2']],
      [{ q: '', area: 'Wash house', state: '' }, ['LT-1']],
      [{ q: '', area: '', state: 'failed' }, []],
      [{ q: '', area: '', state: 'overdue' }, ['LT-1', 'PT-2']],
    ] as const) {
      register.filter = { ...filter }
      await register.load()
      expect(register.loops.map((l) => l.tag)).toEqual(tags)
    }
  })
})
