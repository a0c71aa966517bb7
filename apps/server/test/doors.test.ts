// The doors: the first person, guessing, people and their sessions, what reaches the log, and the database's own
// refusals.
import type { AuditPage, ListedPerson, OpenSession, Session } from '@calm-loop/contract'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { foldName, forgetOldGuesses } from '../src/auth/guessing.ts'
import { applicationConnection, asOwner } from '../src/db/database.ts'
import { errorWords } from '../src/log.ts'
import { record } from '../src/services/audit.ts'
import { checkBegun, startServer, type TestServer, type Visitor } from './harness.ts'

let server: TestServer
let rona: Visitor
const lines: string[] = []
beforeAll(async () => {
  server = await startServer({ log: (line) => lines.push(line) })
  rona = await server.as('rona')
})
afterAll(() => server.stop())
const idOf = async (signIn: string) =>
  ((await rona.call('people')).body as ListedPerson[]).find((p) => p.signIn === signIn)!.id
async function asApplication<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client(applicationConnection(server.applicationUrl))
  await client.connect()
  return work(client).finally(() => client.end())
}
const PASSWORD = 'long enough words'
async function newPerson(signIn: string, roles = ['technician']) {
  const body = { id: uuid(), name: `Person ${signIn}`, signIn, password: PASSWORD, roles }
  const answer = await rona.call('addPerson', { personId: body.id }, body)
  expect(answer.status, answer.text).toBe(200)
  return { body, who: await server.visitor().signIn(signIn, PASSWORD) }
}

describe('the first person', () => {
  it('is nobody whom this installation knows: a known id, name and sign-in name open no door', async () => {
    for (const known of (await rona.call('people')).body as ListedPerson[]) {
      const visitor = server.visitor()
      const answer = await visitor.call(
        'firstPerson',
        {},
        {
          id: known.id,
          name: known.name,
          signIn: known.signIn,
          password: 'any password at all',
          code: 'AAAA-AAAA-AAAA-AAAA',
        },
      )
      expect([answer.status, answer.problem.code]).toEqual([409, 'not-empty'])
      expect((await visitor.call('loops')).status).toBe(401)
    }
  })
  it('needs the code that the start command printed, once; the same request again changes nothing', async () => {
    const empty = await startServer({ empty: true })
    const first = { id: uuid(), name: 'First', signIn: 'first', password: PASSWORD, code: empty.setupCode }
    const call = (change: object) => empty.visitor().call('firstPerson', {}, { ...first, ...change })
    expect((await call({ code: 'AAAA-AAAA-AAAA-AAAA' })).problem.code).toBe('wrong-code')
    // As it is read from a screen: small letters, no dashes.
    expect((await call({ code: empty.setupCode.toLowerCase().replaceAll('-', '') })).status).toBe(200)
    expect((await call({})).body).toMatchObject({
      person: { name: 'First', roles: ['technician', 'reviewer', 'administrator'] },
    })
    for (const change of [
      { password: 'another password' },
      { code: 'AAAA-AAAA-AAAA-AAAA' },
      { name: 'Other' },
      { id: uuid() },
      { signIn: 'second' },
    ])
      expect((await call(change)).problem.code, JSON.stringify(change)).toBe('not-empty')
    await empty.stop()
  })
})

describe('guessing', () => {
  it('is counted for one name however it is typed', () => {
    for (const name of ['magnus', ' Magnus', 'MAGNUS ', 'ｍａｇｎｕｓ']) expect(foldName(name)).toBe('magnus')
  })
  const race = async (n: number, guess: (i: number) => Promise<{ status: number }>) =>
    (await Promise.all(Array.from({ length: n }, (_, i) => guess(i)))).map((a) => a.status)
  it('is slowed after a few, and the owner still gets in', async () => {
    await newPerson('guessed')
    const spelled = ['guessed', ' Guessed', 'GUESSED ']
    const statuses = await race(14, (i) =>
      server.visitor().call('signIn', {}, { signIn: spelled[i % 3], password: `wrong ${i}` }),
    )
    expect(statuses.filter((s) => s === 429).length).toBeGreaterThan(3)
    expect(statuses.filter((s) => s === 401).length).toBeGreaterThan(4)
    const mine = await server.visitor().call('signIn', {}, { signIn: 'guessed', password: PASSWORD })
    expect(mine.status).toBe(200)
  })
  it('is slowed for the password wanted at signing too', async () => {
    const ailsa = await server.as('ailsa')
    const b = await checkBegun(ailsa, 'LT-951')
    const body = (i: number) => ({ role: 'performed', statement: 'Yes.', password: `wrong ${i}` })
    const answers = await Promise.all(
      Array.from({ length: 40 }, (_, i) => ailsa.call('sign', { ...b, signatureId: uuid() }, body(i))),
    )
    const refused = answers.filter((a) => a.status === 429)
    expect(refused.length).toBeGreaterThan(25)
    expect(refused[0]!.headers.get('retry-after')).toMatch(/^\d$/)
    expect(answers.filter((a) => a.problem.code === 'wrong-password').length).toBeLessThan(12)
  })
})

describe('people', () => {
  it('who are disabled or changed lose their sessions and streams at once', async () => {
    for (const change of [
      { roles: ['technician'], disabled: true },
      { roles: ['technician', 'reviewer'], disabled: false },
    ]) {
      const { body, who } = await newPerson(change.disabled ? 'leaving' : 'changing')
      const stream = await fetch(`${server.base}/api/points/stream`, { headers: { cookie: who.cookie } })
      const ended = stream.text()
      expect((await rona.call('setAccess', { personId: body.id }, change)).status).toBe(200)
      expect(await ended).toMatch(/event: session\ndata: {"ended":true}/)
      expect((await who.call('loops')).problem.code).toBe('not-signed-in')
      const again = server.visitor().call('signIn', {}, { signIn: body.signIn, password: PASSWORD })
      expect((await again).status).toBe(change.disabled ? 401 : 200)
    }
  })
  it('who sign out end their streams', async () => {
    const { who } = await newPerson('streaming')
    const ended = (await fetch(`${server.base}/api/points/stream`, { headers: { cookie: who.cookie } })).text()
    await who.call('signOut')
    expect(await ended).toMatch(/event: session/)
  })
  it('always leave one administrator', async () => {
    const me = await idOf('rona')
    const answer = await rona.call(
      'setAccess',
      { personId: me },
      { roles: ['technician', 'reviewer'], disabled: false },
    )
    expect(answer.problem).toMatchObject({ status: 409, code: 'last-administrator' })
    expect(
      (await rona.call('setAccess', { personId: me }, { roles: ['administrator'], disabled: true })).problem.code,
    ).toBe('last-administrator')
    expect((await rona.call('loops')).status).toBe(200)
  })
  it('change their own password, which ends their other sessions and not this one', async () => {
    const { body, who } = await newPerson('renewing')
    const elsewhere = await server.visitor().signIn('renewing', PASSWORD)
    expect((await who.call('changePassword', {}, { current: 'wrong', next: 'a new long password' })).problem.code).toBe(
      'wrong-password',
    )
    const changed = await who.call('changePassword', {}, { current: PASSWORD, next: 'a new long password' })
    expect(changed.body).toMatchObject({ person: { id: body.id } })
    expect((await elsewhere.call('loops')).status).toBe(401)
    expect((await who.call('loops')).status).toBe(200)
    expect((await server.visitor().call('signIn', {}, { signIn: 'renewing', password: PASSWORD })).status).toBe(401)
    await server.visitor().signIn('renewing', 'a new long password')
  })
  it('who forgot theirs set another with a code that works once', async () => {
    const { body, who } = await newPerson('forgetful')
    const { code } = (await rona.call('issueReset', { personId: body.id })).body as { code: string }
    const use = (given: string, signIn = 'forgetful') =>
      server.visitor().call('useReset', {}, { signIn, code: given, password: 'remembered this time' })
    expect((await use('AAAA-BBBB-CCCC-DDDD')).problem.code).toBe('wrong-code')
    expect((await use(code, 'nobody-here')).problem.code).toBe('wrong-code')
    expect((await use(code)).body).toMatchObject({ person: { name: body.name } })
    expect((await use(code)).problem.code).toBe('wrong-code')
    expect((await who.call('loops')).status).toBe(401)
  })
  it('see and end their own sessions; an administrator anyone’s', async () => {
    const { body, who } = await newPerson('twice')
    const second = await server.visitor().signIn('twice', PASSWORD)
    const list = (await who.call('sessions', { personId: body.id })).body as OpenSession[]
    expect(list.map((s) => s.here).sort()).toEqual([false, true])
    expect(JSON.stringify(list)).not.toContain(decodeURIComponent(second.cookie).slice(12, 40))
    const other = list.find((s) => !s.here)!
    expect(
      ((await who.call('endSession', { personId: body.id, sessionId: other.id })).body as OpenSession[]).length,
    ).toBe(1)
    expect((await second.call('loops')).status).toBe(401)
    expect((await who.call('sessions', { personId: await idOf('rona') })).problem.code).toBe('wrong-role')
    expect((await rona.call('endSession', { personId: body.id, sessionId: 'all' })).body).toEqual([])
    expect((await who.call('loops')).status).toBe(401)
  })
  it('are signed in for a working day and not longer, however much they do', async () => {
    const { body, who } = await newPerson('allday')
    expect((await who.call('loops')).headers.get('cache-control')).toBe('no-store')
    await asOwner(server.ownerUrl, (_db, client) =>
      client.query(
        `update sessions set sess = jsonb_set(sess, '{since}', to_jsonb((now() - interval '13 hours')::text)) ` +
          `where sess->>'personId' = $1`,
        [body.id],
      ),
    )
    // Believed for a moment longer, as nobody was told.
    await expect.poll(async () => (await who.call('loops')).problem.code, { timeout: 30_000 }).toBe('not-signed-in')
  })
  it('have the duties that the site gives to their role', async () => {
    const ailsa = await server.as('ailsa')
    const item = {
      id: uuid(),
      name: 'Meter',
      serial: '1',
      measures: 'current',
      range: '',
      uncertainty: '',
      due: '2030-01-01',
    }
    const save = (who: Visitor) => who.call('saveGear', { gearId: item.id }, item)
    expect((await save(ailsa)).status).toBe(200)
    expect(
      (await ailsa.call('saveDuties', {}, { kit: 'reviewer', limits: 'reviewer', rows: 'technician' })).status,
    ).toBe(403)
    await rona.call('saveDuties', {}, { kit: 'reviewer', limits: 'reviewer', rows: 'technician' })
    expect((await save(ailsa)).problem).toMatchObject({ status: 403, detail: 'Only a reviewer may do this.' })
    expect((await save(rona)).status).toBe(200)
    expect((await save(await server.as('magnus'))).status).toBe(200)
  })
})

describe('what is written down', () => {
  it('holds no cookie, token, hash or parameter of a query', async () => {
    const visitor = server.visitor()
    await visitor.call('signIn', {}, { signIn: 'ailsa', password: 'a very wrong password' })
    await rona.raw('GET', '/api/audit?tag=secretish')
    await rona.call(
      'createLoop',
      { loopId: uuid() },
      { tag: 'LT-961', service: 'Zanzibar', area: 'x', kind: 'nonsense' },
    )
    const all = lines.join('\n')
    expect(lines.length).toBeGreaterThan(10)
    for (const secret of [
      rona.token,
      decodeURIComponent(rona.cookie.split('=')[1]!),
      'a very wrong password',
      '$argon2id',
      'Zanzibar',
      'secretish',
    ])
      expect(all).not.toContain(secret)
  })
  it('of an error of the database leaves out statement and parameters', () => {
    const cause = Object.assign(new Error('duplicate key'), {
      code: '23505',
      detail: 'Key (sign_in)=(secret)',
      constraint: 'people_sign_in',
    })
    const error = new Error('Failed query: insert into "people" values ($1)\nparams: secret,$argon2id$v=19', { cause })
    const words = JSON.stringify(errorWords(error))
    expect(words).toContain('23505')
    for (const secret of ['secret', 'argon2id', 'insert']) expect(words).not.toContain(secret)
  })
  it('knows nothing of who only looked: no session row is left', async () => {
    const rows = () =>
      asApplication(async (c) => Number((await c.query<{ n: string }>('select count(*) n from sessions')).rows[0]!.n))
    const before = await rows()
    for (let i = 0; i < 5; i++) {
      const visitor = server.visitor()
      expect((await visitor.raw('GET', '/api/session')).body as Session).toMatchObject({ person: null, csrfToken: '' })
      await visitor.call('loops')
      expect(visitor.cookie).toBe('')
    }
    expect(await rows()).toBe(before)
  })
})

describe('a page of another site', () => {
  it('signs nobody in and makes nobody', async () => {
    for (const headers of [
      { 'sec-fetch-site': 'cross-site' },
      { origin: 'http://elsewhere.example' },
      { origin: 'null' },
    ])
      for (const path of ['/api/session', '/api/first-person', '/api/password-reset']) {
        const answer = await server
          .visitor()
          .raw('POST', path, '{}', { 'content-type': 'application/json', ...headers })
        expect([answer.status, answer.problem.code]).toEqual([403, 'other-page'])
      }
  })
})

describe('behind a proxy that speaks TLS', () => {
  const forwarded = { 'x-forwarded-proto': 'https', 'content-type': 'application/json' }
  const knock = async (at: TestServer) => {
    const who = { signIn: 'ailsa', password: 'kelp and salt' }
    const { headers } = await at.visitor().raw('POST', '/api/session', JSON.stringify(who), forwarded)
    return [/; Secure/i.test(headers.get('set-cookie') ?? ''), headers.has('strict-transport-security')]
  }
  it('the cookie is Secure and HSTS is sent, but only when the proxy is trusted', async () => {
    const trusting = await startServer({ trustProxy: '1' })
    expect(await knock(trusting)).toEqual([true, true])
    expect(await knock(server)).toEqual([false, false])
    await trusting.stop()
  })
})

it('wrong guesses of long ago leave nothing behind', async () => {
  await asOwner(server.ownerUrl, (_db, client) =>
    client.query(
      `insert into guesses (key, wrong, at) values ('name of-yesterday', 9, now() - interval '1 day'), ('name ` +
        `of-now', 9, now())`,
    ),
  )
  await forgetOldGuesses(server.db)
  const kept = await asApplication((c) =>
    c.query<{ key: string }>(`select key from guesses where key like 'name of-%'`),
  )
  expect(kept.rows.map((r) => r.key)).toEqual(['name of-now'])
})

describe('the application’s role in the database', () => {
  const refused = (sql: string) =>
    asApplication((c) =>
      expect(c.query(sql), sql).rejects.toMatchObject({ code: expect.stringMatching(/^(42501|CL40\d)$/) as string }),
    )
  it('cannot make or change people, their roles and passwords', async () => {
    const id = uuid()
    await refused(`insert into people (id, name, roles) values ('${id}', 'x', '{administrator}')`)
    await refused(`update people set roles = '{administrator}'`)
    await refused(`update people set password_hash = 'x'`)
    await refused(`update people set disabled = false`)
    await refused(`delete from people`)
    await refused(`select person_add('${id}', '${id}', 'x', 'xxx', 'h', '{administrator}')`)
    await refused(`select person_access('${await idOf('ailsa')}', '${await idOf('ailsa')}', '{administrator}', false)`)
    await refused(`select person_first('${id}', 'x', 'xxx', 'h')`)
    await refused(
      `insert into settings (key, value) values ('duties', '{}') on conflict (key) do update set value = '{}'`,
    )
    await refused(`update settings set value = '"x"' where key = 'session-secret'`)
    await refused(
      `insert into seal_keys (id, name, public_key, own, trusted, since) values ('x', 'x', 'x', true, true, now())`,
    )
    await refused(`select seal_key_trust('${await idOf('ailsa')}', 'x', 'x', 'x', true)`)
  })
  it('cannot rewrite or unseal a version, a seal, a key, a tag or the audit trail', async () => {
    const ailsa = await server.as('ailsa')
    const b = await checkBegun(ailsa, 'LT-971')
    const next = { parentId: b.versionId, parentRevision: 0, revision: 0, entries: {}, reason: '', seal: false }
    expect((await ailsa.call('saveVersion', { ...b, versionId: uuid() }, next)).status).toBe(200)
    await refused(`update versions set entries = '{}' where loop_id = '${b.loopId}'`)
    await refused(`update versions set sealed_at = null where loop_id = '${b.loopId}'`)
    await refused(`update versions set loop_id = (select id from loops limit 1) where sealed_at is null`)
    await refused(`delete from versions`)
    await refused(`update seals set hash = 'x'`)
    await refused(`delete from seals`)
    await refused(`update loops set tag = 'LT-1'`)
    await refused(`insert into audit (action, details) values ('x', '{}')`)
    await refused(`update audit set action = 'x'`)
    await refused(`delete from audit`)
    await refused(`select audit_close()`)
  })
})

describe('the audit trail', () => {
  it('is a chain that reviewers read, filter and take along', async () => {
    const magnus = await server.as('magnus')
    expect((await (await server.as('ailsa')).call('audit')).status).toBe(403)
    const page = (await magnus.call('audit')).body as AuditPage
    expect(page.chain.brokenAt).toBeNull()
    expect(page.chain.length).toBeGreaterThan(20)
    expect(page.entries.every((e) => e.whole)).toBe(true)
    expect(page.actions).toContain('signed-in')
    const by = (await magnus.raw('GET', `/api/audit?action=person-access&person=${await idOf('rona')}`))
      .body as AuditPage
    expect(new Set(by.entries.map((e) => [e.action, e.by?.name].join()))).toEqual(
      new Set(['person-access,Rona Teague']),
    )
    expect(
      ((await magnus.raw('GET', '/api/audit?tag=lt-971')).body as AuditPage).entries.every(
        (e) => e.loop?.tag === 'LT-971',
      ),
    ).toBe(true)
    const csv = (await magnus.raw('GET', '/api/audit.csv?action=signed-in')).text
    expect(csv.split('\r\n')[0]).toBe('place,at,by,action,loop,details,hash,whole')
  })
  it('shows an entry that was changed, and one that was taken out', async () => {
    await asOwner(server.ownerUrl, async (db) => {
      for (let i = 0; i < 4; i++) await record({ tx: db, personId: null, action: 'test', loopId: null, details: { i } })
    })
    const entries = ((await rona.raw('GET', '/api/audit?action=test')).body as AuditPage).entries
    const edit = (sql: string) => asOwner(server.ownerUrl, (_db, client) => client.query(sql))
    await edit(`update audit set details = '{"i": 99}' where id = ${entries[2]!.id}`)
    const after = (await rona.raw('GET', '/api/audit?action=test')).body as AuditPage
    expect(after.chain.brokenAt).toBe(entries[2]!.id)
    expect(after.entries.map((e) => e.whole)).toEqual([true, true, false, true])
    await edit(`update audit set details = '{"i": 1}' where id = ${entries[2]!.id}`)
    expect(((await rona.call('audit')).body as AuditPage).chain.brokenAt).toBeNull()
    await edit(`delete from audit where id = ${entries[1]!.id}`)
    expect(((await rona.call('audit')).body as AuditPage).chain.brokenAt).toBe(entries[0]!.id)
  })
})
