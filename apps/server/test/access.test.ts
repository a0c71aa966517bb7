// The matrix of roles and endpoints, the session, and what the application's role may not do.
import {
  endpoints,
  ROLES,
  USUAL_DUTIES,
  type Access,
  type Duty,
  type EndpointName,
  type Role,
} from '@calm-loop/contract'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { applicationConnection } from '../src/db/database.ts'
import { checkBegun, readingAt, startServer, type TestServer, type Visitor } from './harness.ts'

let server: TestServer
beforeAll(async () => void (server = await startServer()))
afterAll(() => server.stop())
const anyId = () => ({
  loopId: uuid(),
  versionId: uuid(),
  checkId: uuid(),
  readingId: uuid(),
  gateId: uuid(),
  signatureId: uuid(),
  personId: uuid(),
  gearId: uuid(),
  calculator: 'rtd',
  entryId: uuid(),
  trainId: uuid(),
  runId: uuid(),
  eventId: uuid(),
  surveyId: uuid(),
  rowId: uuid(),
  sessionId: 'all',
  keyId: 'f'.repeat(16),
})

/** What each role may call, from the table of endpoints: whoever may gets past the door, whoever may not is told so. */
describe('who may call', () => {
  const names = (Object.keys(endpoints) as EndpointName[]).filter((name) => !endpoints[name].stateless)
  const roleFor = (access: Access): Role | undefined =>
    access.startsWith('duty:') ? USUAL_DUTIES[access.slice(5) as Duty] : ROLES.find((r) => r === access)
  const knock = async (who: Visitor, name: EndpointName) => {
    // A stream that opens is not waited for.
    if (endpoints[name].media === 'text/event-stream') return { status: 0, code: '' }
    const answer = await who.call(name, anyId(), endpoints[name].method === 'get' ? undefined : {})
    return { status: answer.status, code: answer.problem?.code ?? '' }
  }
  const people = new Map<string, Visitor>()
  beforeAll(async () => {
    const rona = await server.as('rona')
    for (const role of ROLES) {
      const body = {
        id: uuid(),
        name: `Only ${role}`,
        signIn: `only-${role}`,
        password: 'long enough words',
        roles: [role],
      }
      await rona.call('addPerson', { personId: body.id }, body)
      people.set(role, await server.visitor().signIn(body.signIn, body.password))
    }
  })
  it.each(names.filter((n) => endpoints[n].access !== 'anyone'))('%s wants a signed-in person', async (name) => {
    const answer = await server.visitor().call(name, anyId(), endpoints[name].method === 'get' ? undefined : {})
    expect([answer.status, answer.problem.code]).toEqual([401, 'not-signed-in'])
  })
  it.each(ROLES.flatMap((role) => names.filter((n) => !['signOut'].includes(n)).map((name) => [role, name] as const)))(
    '%s at %s',
    async (role, name) => {
      const needed = roleFor(endpoints[name].access)
      const { status, code } = await knock(people.get(role)!, name)
      if (needed && needed !== role) expect([status, code]).toEqual([403, 'wrong-role'])
      else expect(needed !== undefined && code === 'wrong-role', `${status} ${code}`).toBe(false)
      expect(status).toBeLessThan(500)
    },
  )
  it('adds people once, and not two under one id', async () => {
    const body = {
      id: uuid(),
      name: 'Isla Brand',
      signIn: 'isla',
      password: 'long enough words',
      roles: ['technician'],
    }
    const rona = await server.as('rona')
    for (let twice = 0; twice < 2; twice++)
      expect((await rona.call('addPerson', { personId: body.id }, body)).status).toBe(200)
    for (const change of [{ name: 'Other' }, { password: 'another long password' }])
      expect((await rona.call('addPerson', { personId: body.id }, { ...body, ...change })).problem.code).toBe(
        'id-reused',
      )
    await server.visitor().signIn('isla', body.password)
  })
})

describe('the session', () => {
  it('refuses a write without its token', async () => {
    const ailsa = await server.as('ailsa')
    ailsa.token = 'forged'
    expect((await ailsa.call('createLoop', { loopId: uuid() }, {})).problem).toMatchObject({
      status: 403,
      code: 'stale-page',
    })
  })
  it('is a new one after signing in, in a cookie no script can read and no other site sends', async () => {
    const visitor = server.visitor()
    await visitor.look()
    const before = visitor.cookie
    const answer = await visitor.call('signIn', {}, { signIn: 'ailsa', password: 'kelp and salt' })
    expect(visitor.cookie).not.toBe(before)
    expect(answer.headers.get('set-cookie')).toMatch(/HttpOnly/i)
    expect(answer.headers.get('set-cookie')).toMatch(/SameSite=Strict/i)
  })
  it('is set once: looking sets no cookie and writes nothing', async () => {
    const ailsa = await server.as('ailsa')
    const ends = async () => (await server.pool.query('select sid, expire from sessions order by sid')).rows
    const before = await ends()
    for (const name of ['loops', 'session', 'kinds'] as const)
      expect((await ailsa.call(name)).headers.get('set-cookie')).toBeNull()
    expect(await ends()).toEqual(before)
  })
  it('ends at sign-out', async () => {
    const ailsa = await server.as('ailsa')
    const cookie = ailsa.cookie
    expect((await ailsa.call('signOut')).status).toBe(204)
    ailsa.cookie = cookie
    expect((await ailsa.call('loops')).status).toBe(401)
  })
  it('does not tell a wrong name from a wrong password', async () => {
    const visitor = server.visitor()
    const guess = (signIn: string) => visitor.call('signIn', {}, { signIn, password: 'wrong password' })
    expect((await guess('nobody')).problem.detail).toBe((await guess('magnus')).problem.detail)
  })
  it('keeps no password in clear', async () => {
    const pool = new pg.Client(applicationConnection(server.applicationUrl))
    await pool.connect()
    const { rows } = await pool.query<{ password_hash: string }>(
      'select password_hash from people where password_hash is not null',
    )
    await pool.end()
    for (const row of rows) expect(row.password_hash).toMatch(/^\$argon2id\$/)
  })
})

describe('the application’s database role', () => {
  it(
    'cannot change or remove readings, gates, signatures or audit entries, ' + 'nor take back its restriction',
    async () => {
      const ailsa = await server.as('ailsa')
      const begun = await checkBegun(ailsa, 'LT-901')
      await ailsa.call('takeReading', { ...begun, readingId: uuid() }, readingAt(0))
      await ailsa.call('addWireEntry', { ...begun, entryId: uuid() }, { what: 'afresh', reason: 'Shunt replaced' })
      const client = new pg.Client(applicationConnection(server.applicationUrl))
      await client.connect()
      for (const table of ['readings', 'wire_log', 'gates', 'signatures', 'audit', 'checks']) {
        expect(
          Number((await client.query<{ n: string }>(`select count(*) n from ${table}`)).rows[0]!.n),
        ).toBeGreaterThan(0)
        for (const sql of [`update ${table} set id = id`, `delete from ${table}`, `truncate ${table} cascade`])
          await expect(client.query(sql), sql).rejects.toMatchObject({ code: '42501' })
      }
      await expect(client.query('alter table readings add column x int')).rejects.toMatchObject({ code: '42501' })
      await expect(client.query('reset role; delete from readings')).rejects.toMatchObject({ code: '42501' })
      await client.end()
    },
  )
})
