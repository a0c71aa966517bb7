import { endpoints, type EndpointName } from '@calm-loop/contract'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { applicationConnection } from '../src/db/database.ts'
import { checkBegun, readingAt, startServer, type TestServer } from './harness.ts'

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
})

describe('who may call', () => {
  const guarded = (Object.keys(endpoints) as EndpointName[]).filter((name) => endpoints[name].access !== 'anyone')
  it.each(guarded)('%s wants a signed-in person', async (name) => {
    const visitor = server.visitor()
    await visitor.look()
    const answer = await visitor.call(name, anyId(), endpoints[name].method === 'get' ? undefined : {})
    expect([answer.status, answer.problem.code]).toEqual([401, 'not-signed-in'])
  })
  it.each(guarded.filter((n) => endpoints[n].access === 'technician'))('%s wants a technician', async (name) => {
    const answer = await (await server.as('magnus')).call(name, anyId(), {})
    expect([answer.status, answer.problem.code]).toEqual([403, 'wrong-role'])
  })
  it('lets only a reviewer add people', async () => {
    const body = {
      id: uuid(),
      name: 'Isla Brand',
      signIn: 'isla',
      password: 'long enough words',
      roles: ['technician'],
    }
    expect((await (await server.as('ailsa')).call('addPerson', { personId: body.id }, body)).status).toBe(403)
    const rona = await server.as('rona')
    for (let twice = 0; twice < 2; twice++)
      expect((await rona.call('addPerson', { personId: body.id }, body)).status).toBe(200)
    expect((await rona.call('addPerson', { personId: body.id }, { ...body, name: 'Other' })).problem.code).toBe(
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
  it('ends at sign-out', async () => {
    const ailsa = await server.as('ailsa')
    const cookie = ailsa.cookie
    expect((await ailsa.call('signOut')).status).toBe(204)
    ailsa.cookie = cookie
    expect((await ailsa.call('loops')).status).toBe(401)
  })
  it('does not tell a wrong name from a wrong password, and limits guessing', async () => {
    const visitor = server.visitor()
    await visitor.look()
    const guess = (signIn: string) => visitor.call('signIn', {}, { signIn, password: 'wrong password' })
    expect((await guess('nobody')).problem.detail).toBe((await guess('magnus')).problem.detail)
    const codes: string[] = []
    for (let i = 0; i < 11; i++) codes.push((await guess('magnus')).problem.code)
    expect(codes.at(-1)).toBe('too-many-tries')
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
  it('cannot change or remove readings, gates, signatures or audit entries, nor take back its restriction', async () => {
    const ailsa = await server.as('ailsa')
    const begun = await checkBegun(ailsa, 'LT-901')
    await ailsa.call('takeReading', { ...begun, readingId: uuid() }, readingAt(0))
    await ailsa.call('addWireEntry', { ...begun, entryId: uuid() }, { what: 'afresh', reason: 'Shunt replaced' })
    const client = new pg.Client(applicationConnection(server.applicationUrl))
    await client.connect()
    for (const table of ['readings', 'wire_log', 'gates', 'signatures', 'audit', 'checks']) {
      expect(Number((await client.query<{ n: string }>(`select count(*) n from ${table}`)).rows[0]!.n)).toBeGreaterThan(
        0,
      )
      for (const sql of [`update ${table} set id = id`, `delete from ${table}`, `truncate ${table} cascade`])
        await expect(client.query(sql), sql).rejects.toMatchObject({ code: '42501' })
    }
    await expect(client.query('alter table readings add column x int')).rejects.toMatchObject({ code: '42501' })
    await expect(client.query('reset role; delete from readings')).rejects.toMatchObject({ code: '42501' })
    await client.end()
  })
})

it('an empty installation makes its first user once', async () => {
  const empty = await startServer({ empty: true })
  try {
    const visitor = empty.visitor()
    await visitor.look()
    expect((await visitor.raw('GET', '/api/session')).body).toMatchObject({ empty: true, demo: null, person: null })
    const person = {
      id: uuid(),
      name: 'First Person',
      signIn: 'first',
      password: 'quite long enough',
      roles: ['technician', 'reviewer'],
    }
    expect((await visitor.call('firstPerson', {}, { ...person, password: 'short' })).problem.fields).toMatchObject([
      { path: 'password' },
    ])
    expect((await visitor.call('firstPerson', {}, person)).body).toMatchObject({
      empty: false,
      person: { name: 'First Person' },
    })
    const second = empty.visitor()
    await second.look()
    expect((await second.call('firstPerson', {}, { ...person, id: uuid(), signIn: 'second' })).problem.code).toBe(
      'not-empty',
    )
  } finally {
    await empty.stop()
  }
})
