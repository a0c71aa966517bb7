import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiProblem, call } from '../api/client.ts'
import { openStream } from '../api/stream.ts'
import { answering, HandFed, handFed, noNetwork, refusal, sessionOf } from './server.fixture.ts'
import { useKinds } from './kinds.ts'
import { useRegister } from './register.ts'
import { useSession } from './session.ts'
import { until } from '../../test/until.ts'

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => vi.unstubAllGlobals())

describe('a session', () => {
  it('is asked for once', async () => {
    const asked = answering({ 'GET /api/session': () => sessionOf(['technician']) })
    const session = useSession()
    await session.load()
    await session.load()
    expect(asked).toHaveLength(1)
    expect(session.person?.name).toBe('Ailsa Fenn')
  })
  it('signs in, signs in again where the work is, and out', async () => {
    let now = sessionOf(null)
    const asked = answering({
      'GET /api/session': () => now,
      'POST /api/session': () => (now = sessionOf(['technician'], { csrfToken: 'token-2' })),
      'DELETE /api/session': () => ((now = sessionOf(null)), undefined),
    })
    const session = useSession()
    await session.signIn('ailsa', 'kelp and salt')
    expect(asked.at(-1)!.body).toEqual({ signIn: 'ailsa', password: 'kelp and salt' })
    session.ended = true
    await session.signInAgain('kelp and salt')
    expect(asked.at(-1)!.body).toEqual({ signIn: 'ailsa', password: 'kelp and salt' })
    expect(session.ended).toBe(false)
    await session.signOut()
    expect(asked.find((a) => a.method === 'DELETE')?.headers['x-csrf-token']).toBe('token-2')
    expect(session.person).toBe(null)
  })
  it('that has ended is not signed out of a second time', async () => {
    const asked = answering({ 'GET /api/session': () => sessionOf(null) })
    const session = useSession()
    session.session = sessionOf(['technician'])
    session.ended = true
    await session.signOut()
    expect(asked.map((a) => a.method)).toEqual(['GET'])
  })
  it('knows roles, and to whom the site gives a duty', () => {
    const session = useSession()
    expect(session.has('technician')).toBe(false)
    session.session = sessionOf(['technician', 'reviewer'])
    expect([session.has('technician'), session.has('administrator')]).toEqual([true, false])
    const duty = Object.keys(session.session.duties)[0] as keyof typeof session.session.duties
    for (const role of ['technician', 'administrator'] as const) {
      session.session = sessionOf(['technician'], { duties: { ...session.session.duties, [duty]: role } })
      expect(session.hasDuty(duty)).toBe(role === 'technician')
    }
  })
  it('makes the first person, takes a one-time code, and changes a password', async () => {
    const signedIn = (csrfToken: string) => () => sessionOf(['administrator'], { csrfToken })
    const asked = answering({
      'POST /api/first-person': signedIn('a'),
      'POST /api/password-reset': signedIn('b'),
      'PUT /api/session/password': signedIn('c'),
    })
    const session = useSession()
    await session.makeFirst({ id: 'i', name: 'n', signIn: 's', password: 'p', code: 'c' })
    expect(session.session?.csrfToken).toBe('a')
    await session.reset({ signIn: 's', code: 'c', password: 'p' })
    expect(session.session?.csrfToken).toBe('b')
    await session.changePassword('old', 'new')
    expect(asked.at(-1)!.body).toEqual({ current: 'old', next: 'new' })
    expect(asked.at(-1)!.headers['x-csrf-token']).toBe('b')
    expect(session.session?.csrfToken).toBe('c')
  })
})

describe('a call', () => {
  it('whose token is old fetches the new one, and is made once more', async () => {
    let token = ''
    const asked = answering({
      'GET /api/session': () => sessionOf(['technician'], { csrfToken: 'fresh' }),
      'POST /api/session': ({ headers }) => {
        token = headers['x-csrf-token']!
        return token === 'fresh' ? sessionOf(['technician']) : refusal(403, 'stale-page', 'old')
      },
    })
    await call('signIn', { body: { signIn: 'a', password: 'b' } })
    expect(asked.map((a) => a.method)).toEqual(['POST', 'GET', 'POST'])
    expect(token).toBe('fresh')
  })
  it('that is told that nobody is signed in says so, and the session ends', async () => {
    answering({ 'GET /api/kinds': () => refusal(401, 'not-signed-in', 'Sign in.') })
    const session = useSession()
    session.session = sessionOf(['technician'])
    await expect(call('kinds')).rejects.toMatchObject({ status: 401, code: 'not-signed-in' })
    expect(session.ended).toBe(true)
  })
  it('that was made under the session before says nothing about the one that was begun meanwhile', async () => {
    let answer!: (late: unknown) => void
    const late = new Promise((say) => (answer = say))
    answering({
      'GET /api/kinds': () => late,
      'GET /api/session': () => late.then(() => sessionOf(null)),
      'POST /api/session': () => sessionOf(['technician']),
    })
    handFed()
    const session = useSession()
    session.session = sessionOf(['technician'])
    session.ended = true
    const kinds = call('kinds').catch((e: unknown) => e)
    const close = openStream('/api/events', { on: {} })
    HandFed.last.say('error')
    await session.signInAgain('kelp and salt')
    answer(refusal(401, 'not-signed-in', 'Sign in.'))
    expect(await kinds).toMatchObject({ status: 401 })
    HandFed.last.say('session')
    await new Promise((done) => setTimeout(done))
    expect(session.ended).toBe(false)
    close()
  })
  it.each([
    ['no network', noNetwork, 0],
    ['a page of something in between', () => new Response('<html>', { status: 200 }), 0],
    ['an error page of something in between', () => new Response('<html>', { status: 502 }), 502],
  ] as const)('with %s is no answer, and may be made again', async (_, answer, status) => {
    answering({ 'GET /api/kinds': answer })
    const problem = await call('kinds').catch((e: unknown) => e)
    expect(problem).toBeInstanceOf(ApiProblem)
    expect(problem).toMatchObject({ status, code: 'no-network' })
    expect((problem as Error).message).toContain('What you typed is kept')
  })
  it('carries what is refused, field by field', async () => {
    const fields = [{ path: 'tag', rule: 'is taken' }]
    answering({
      'GET /api/kinds': () => new Response(JSON.stringify({ code: 'x', fields, status: 422 }), { status: 422 }),
    })
    await expect(call('kinds')).rejects.toMatchObject({ fields })
  })
  it('sends a file as it is', async () => {
    let sent: RequestInit | undefined
    vi.stubGlobal('fetch', (_: string, init: RequestInit) => {
      sent = init
      return Promise.resolve(new Response(JSON.stringify({ added: [], already: [] })))
    })
    const file = new Blob(['tag,service'])
    await call('importRegister', { file })
    expect(sent?.body).toBe(file)
    expect((sent?.headers as Record<string, string>)['content-type']).toBe('application/octet-stream')
  })
})

const row = (tag: string) => ({
  id: tag,
  tag,
  service: 's',
  area: 'a',
  kind: 'pressure',
  state: 'half-entered',
  nextDue: null,
  lastErrorPct: null,
  tolerancePct: null,
})
describe('the register', () => {
  it('asks by what is filtered, and goes on after the last tag', async () => {
    const asked = answering({
      'GET /api/loops': ({ path }) =>
        path.includes('after=B')
          ? { loops: [row('C')], next: null, areas: ['a'] }
          : { loops: [row('A'), row('B')], next: 'B', areas: ['a'] },
    })
    const register = useRegister()
    register.filter = { q: 'kelp & salt', area: 'Wash house', state: 'overdue' }
    await register.load()
    expect(new URL(asked[0]!.path, 'http://x').searchParams.get('q')).toBe('kelp & salt')
    expect(new URL(asked[0]!.path, 'http://x').searchParams.get('state')).toBe('overdue')
    await register.load(true)
    expect(register.loops.map((l) => l.tag)).toEqual(['A', 'B', 'C'])
    expect(register.next).toBe(null)
  })
  it('shows the answer to the last question, whichever comes first', async () => {
    const waiting: ((value: unknown) => void)[] = []
    answering({ 'GET /api/loops': () => new Promise((resolve) => waiting.push(resolve)) })
    const register = useRegister()
    const [first, second] = [register.load(), register.load()]
    await until(() => expect(waiting).toHaveLength(2))
    waiting[1]!({ loops: [row('NEW')], next: null, areas: [] })
    await second
    waiting[0]!({ loops: [row('OLD')], next: null, areas: [] })
    await first
    expect(register.loops.map((l) => l.tag)).toEqual(['NEW'])
    expect(register.loading).toBe(false)
  })
  it('says why it cannot be read, and keeps what it has', async () => {
    answering({ 'GET /api/loops': () => ({ loops: [row('A')], next: null, areas: [] }) })
    const register = useRegister()
    await register.load()
    answering({ 'GET /api/loops': noNetwork })
    await register.load()
    expect(register.problem).toContain('cannot be reached')
    expect(register.loops).toHaveLength(1)
    expect(register.loading).toBe(false)
  })
})

describe('the kinds', () => {
  it('are asked for once, and again after a failure', async () => {
    const kinds = useKinds()
    answering({ 'GET /api/kinds': noNetwork })
    await kinds.load()
    expect(kinds.list).toEqual([])
    const asked = answering({
      'GET /api/kinds': () => [{ id: 'pressure', name: 'Pressure', summary: '', family: 'current' }],
    })
    await Promise.all([kinds.load(), kinds.load()])
    await kinds.load()
    expect(asked).toHaveLength(1)
    expect(kinds.of('pressure')?.name).toBe('Pressure')
    expect(kinds.of('nothing')).toBe(undefined)
  })
})
