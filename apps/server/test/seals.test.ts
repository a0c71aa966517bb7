// What was signed cannot be changed, forged or brought in as one's own without its being seen everywhere.
import {
  canonicalJson,
  type Bundle,
  type Check,
  type FolderView,
  type LoopPage,
  type SealKey,
} from '@calm-loop/contract'
import { newestFingerprint, standOfCheck } from '@calm-loop/contract/judging'
import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { asOwner, migrateDatabase } from '../src/db/database.ts'
import { fingerprint } from '../src/documents/certificate-parts.ts'
import { keyIdOf, openSealer, rotateKey } from '../src/seals/sealer.ts'
import { contentOfDigest, digestOf, subjectOfCheck } from '../src/seals/seals.ts'
import { registerKeys } from '../src/services/seal-keys.ts'
import {
  checkBegun,
  givenBack,
  PASSWORD,
  readingAt,
  served,
  startServer,
  type TestServer,
  type Visitor,
} from './harness.ts'
import { roundOf, sealedRegister } from '../src/services/sealed-register.ts'

const { server, ailsa, rona, magnus } = await served()

let tags = 1100
const sign = (who: Visitor, p: object, role: string, password = PASSWORD) =>
  who.call('sign', { ...p, signatureId: uuid() }, { role, statement: 'Yes.', password })
async function signedCheck(tag: string) {
  const b = await checkBegun(ailsa, tag)
  for (let i = 0; i < 6; i++) await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(i))
  await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack())
  for (const answer of [await sign(ailsa, b, 'performed'), await sign(magnus, b, 'reviewed')])
    expect(answer.status, answer.text).toBe(200)
  return b
}
const folderOf = async (who: Visitor, loopId: string) => (await who.call('folder', { loopId })).body as FolderView
const rowOf = async (who: Visitor, tag: string) =>
  ((await who.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!
async function asSuperuser(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: server.ownerUrl })
  await client.connect()
  await client.query(sql)
  await client.end()
}
const send = (who: Visitor, bundle: object) =>
  who.raw('POST', '/api/bundles', canonicalJson(bundle), { 'content-type': 'application/octet-stream' })

describe('a seal', () => {
  it('is made with every signature, chained to the one before, and verified at each reading', async () => {
    const b = await signedCheck('LT-1001')
    const { checks, row } = await folderOf(ailsa, b.loopId)
    expect(row.state).toBe('passed')
    const [performed, reviewed] = checks[0]!.signatures
    expect([performed!.standing, reviewed!.standing]).toEqual(['sealed', 'sealed'])
    expect(reviewed!.seal!.seq).toBe(performed!.seal!.seq + 1)
    expect(reviewed!.seal!.previous).toBe(createHash('sha256').update(canonicalJson(performed!.seal)).digest('hex'))
    expect(performed!.seal!.verdict).toMatchObject({ pass: true })
  })
  it.each([
    [
      'a reading',
      `update readings set reads = jsonb_set(reads, '{current,value}', '4.5') where check_id = '$check' and ` +
        'point_index = 0',
    ],
    ['the tolerance', `update checks set tolerance_pct = 5 where id = '$check'`],
    ['the time of a signature', `update signatures set at = at - interval '1 day' where check_id = '$check'`],
    [
      'the name of the one who signed',
      `update signatures set name = 'Someone Else' where check_id = '$check' and role = 'performed'`,
    ],
    ['the service of the loop', `update loops set service = 'Another tank' where id = '$loop'`],
    [
      'the seal',
      `update seals set body = jsonb_set(body, '{verdict,pass}', 'false') where signature_id in (select id ` +
        `from signatures where check_id = '$check')`,
    ],
    [
      'the seal before it',
      `update seals set hash = repeat('0', 64) where seq = (select min(z.seq) - 1 from seals z join ` +
        `signatures s on s.id = z.signature_id where s.check_id = '$check')`,
    ],
    [
      'a seal taken away',
      `delete from seals where signature_id in (select id from signatures where check_id = '$check' and role ` +
        `= 'reviewed')`,
    ],
  ])('breaks when %s is changed behind it, and is shown broken everywhere', async (_what, sql) => {
    const tag = `LT-${++tags}`
    const b = await signedCheck(tag)
    const fingerprint = newestFingerprint((await folderOf(ailsa, b.loopId)).checks[0]!)!
    const stands = async () =>
      (await server.visitor().call('verify', { digest: fingerprint })).body as { stands: boolean }
    expect(await stands()).toEqual({ stands: true })
    expect((await rowOf(ailsa, tag)).state).toBe('passed')
    await asSuperuser(sql.replaceAll('$check', b.checkId).replaceAll('$loop', b.loopId))
    expect(standOfCheck((await folderOf(ailsa, b.loopId)).checks[0]!)).toBe('broken')
    expect((await rowOf(ailsa, tag)).state).toBe('seal-broken')
    expect((await ailsa.raw('GET', '/api/loops.csv')).text).toMatch(new RegExp(`${tag},.*seal-broken`))
    expect(await stands()).toEqual({ stands: false })
    expect((await ailsa.call('readingsCsv', b)).text).toMatch(/SEAL BROKEN/)
    expect((await sign(rona, b, 'reviewed')).status).toBeGreaterThanOrEqual(400)
  })
  it('changed behind it is found by the round, although nobody opens the loop', async () => {
    const b = await signedCheck('LT-1004')
    await asSuperuser(`update checks set tolerance_pct = 5 where id = '${b.checkId}'`)
    const state = async () =>
      (await server.pool.query<{ state: string }>('select state from loops where id = $1', [b.loopId])).rows[0]!.state
    expect(await state()).toBe('passed')
    const next = roundOf(server.db, sealedRegister(server.db))
    for (let i = 0; i < 20 && (await state()) === 'passed'; i++) await next()
    expect(await state()).toBe('seal-broken')
    expect((await ailsa.raw('GET', '/api/loops.csv')).text).toMatch(/LT-1004,.*seal-broken/)
  })
  it('missing under a signature that was put there by hand is no seal', async () => {
    const b = await checkBegun(ailsa, 'LT-1003')
    for (let i = 0; i < 6; i++) await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(i))
    await asSuperuser(
      `insert into signatures (id, check_id, role, by, name, at, statement, digest) values ('${uuid()}', ` +
        `'${b.checkId}', 'performed', '01890a5d-0001-7000-8000-000000000001', 'Ailsa Fenn', now(), 'Forged', ` +
        `repeat('a', 64))`,
    )
    expect(standOfCheck((await folderOf(ailsa, b.loopId)).checks[0]!)).toBe('broken')
  })
})

describe('a certificate’s fingerprint', () => {
  it('is told to stand or not, to anyone, and nothing else', async () => {
    const b = await signedCheck('LT-1010')
    const digest = newestFingerprint((await folderOf(ailsa, b.loopId)).checks[0]!)!
    const visitor = server.visitor()
    expect((await visitor.call('verify', { digest })).body).toEqual({ stands: true })
    expect((await visitor.call('verify', { digest: 'f'.repeat(64) })).body).toEqual({ stands: false })
    expect((await visitor.raw('GET', '/api/verify/zork')).status).toBe(400)
    expect(visitor.cookie).toBe('')
  })
  it(
    'stands on the certificate with a code that leads to its verification, ' + 'and not on one that does not count',
    async () => {
      const b = await signedCheck('LT-1011')
      const check = (await folderOf(ailsa, b.loopId)).checks[0]!
      const printed = (c: Check) => JSON.stringify(fingerprint(c, { address: 'https://loops.example' }))
      const digest = newestFingerprint(check)!
      expect(printed(check)).toContain(`"qr":"https://loops.example/verify?is=${digest}"`)
      expect(printed(check)).toContain(digest.slice(0, 32))
      expect(
        printed({ ...check, signatures: check.signatures.map((s) => ({ ...s, standing: 'broken' as const })) }),
      ).toBe('[]')
      expect(printed({ ...check, imported: { at: check.startedAt, by: null } })).toBe('[]')
      expect((await ailsa.call('certificate', b)).text.startsWith('%PDF-')).toBe(true)
    },
  )
})

describe('a bundle from elsewhere', () => {
  let other: TestServer
  let una: Visitor
  beforeAll(async () => {
    other = await startServer({ empty: true })
    una = await other.founder()
  })
  afterAll(() => other.stop())
  const bundleOf = async (b: { loopId: string }) => JSON.parse((await ailsa.call('bundle', b)).text) as Bundle

  it('edited by hand, with signatures of others and digests that fit, is claimed and counts for nothing', async () => {
    const bundle = await bundleOf(await signedCheck('LT-1020'))
    const { folder } = bundle
    const check = folder.checks[0]!
    const [r] = check.readings
    r!.reads['current'] = { typed: '4.000 mA', value: 4, unit: 'mA' }
    const digest = digestOf(2, subjectOfCheck(folder.loop, folder.versions[0]!, check))!
    check.signatures = check.signatures.map(({ seal: _, ...s }) => ({
      ...s,
      digest,
      by: { id: uuid(), name: 'The Chief' },
    }))
    expect((await send(una, bundle)).status).toBe(200)
    const view = await folderOf(una, folder.loop.id)
    expect(view.checks[0]!.signatures.map((s) => s.standing)).toEqual(['claimed', 'claimed'])
    expect(standOfCheck(view.checks[0]!)).toBe('imported')
    expect(view.checks[0]!.imported).toMatchObject({ by: { name: 'Una Marsh' } })
    expect(view.row).toMatchObject({ state: 'ready', nextDue: null, lastErrorPct: null })
    expect((await una.call('verify', { digest })).body).toEqual({ stands: false })
  })
  it('with a seal that is not for what it holds is refused', async () => {
    const bundle = await bundleOf(await signedCheck('LT-1021'))
    bundle.folder.checks[0]!.readings[2]!.takenAt = '2026-01-01T00:00:00.000Z'
    expect((await send(una, bundle)).problem).toMatchObject({ status: 422, code: 'signature-broken' })
  })
  it('keeps others’ seals: verified once their key is trusted, claimed when the trust is withdrawn', async () => {
    const b = await signedCheck('LT-1022')
    expect((await send(una, await bundleOf(b))).status).toBe(200)
    const standings = async () => (await folderOf(una, b.loopId)).checks[0]!.signatures.map((s) => s.standing)
    expect(await standings()).toEqual(['claimed', 'claimed'])
    const key = ((await ailsa.call('sealKeys')).body as SealKey[]).find((k) => k.own)!
    const trust = (trusted: boolean) =>
      una.call('trustKey', { keyId: key.id }, { name: 'Holmsay', publicKey: key.publicKey, trusted })
    expect((await trust(true)).status).toBe(200)
    expect(await standings()).toEqual(['verified', 'verified'])
    expect((await folderOf(una, b.loopId)).checks[0]!.signatures[0]).toMatchObject({ keyName: 'Holmsay' })
    await trust(false)
    expect(await standings()).toEqual(['claimed', 'claimed'])
    expect(
      (await una.call('trustKey', { keyId: 'f'.repeat(16) }, { name: 'x', publicKey: key.publicKey, trusted: true }))
        .problem.code,
    ).toBe('not-a-key')
    expect(
      (await una.call('trustKey', { keyId: key.id }, { name: 'x', publicKey: 'AAAA', trusted: true })).problem.code,
    ).toBe('not-a-key')
  })
  it('counts once a reviewer accepts it by name, and is marked for good', async () => {
    const b = await signedCheck('LT-1023')
    await send(una, await bundleOf(b))
    const at = { loopId: b.loopId, checkId: b.checkId }
    const accept = (role: string) =>
      una.call(
        'sign',
        { ...at, signatureId: uuid() },
        { role, statement: 'Taken over.', password: 'quite long enough' },
      )
    expect((await accept('reviewed')).problem.code).toBe('imported')
    expect((await una.call('takeReading', { ...at, readingId: uuid() }, readingAt(0))).problem.code).toBe('imported')
    expect((await accept('accepted')).status).toBe(200)
    const view = await folderOf(una, b.loopId)
    expect(view.row.state).toBe('passed')
    expect(view.checks[0]!.imported).toBeDefined()
    expect(view.checks[0]!.signatures.at(-1)).toMatchObject({
      role: 'accepted',
      standing: 'sealed',
      by: { name: 'Una Marsh' },
    })
    // What Una accepted is hers to accept, not the next one's.
    const third = await startServer({ empty: true })
    const next = await third.founder()
    await send(next, JSON.parse((await una.call('bundle', b)).text) as Bundle)
    const there = (await folderOf(next, b.loopId)).checks[0]!
    expect([standOfCheck(there), there.signatures.at(-1)!.standing]).toEqual(['imported', 'claimed'])
    await third.stop()
  })
  it.each([
    [
      'a figure that its text does not give',
      (c: Check) => void (c.readings[0]!.applied = { typed: '3 mm', value: 2999, unit: 'mm' }),
      'entry-mismatch',
    ],
    ['a reading of nothing', (c: Check) => void (c.readings[0]!.reads = {}), 'nothing-read'],
    [
      'a reading in a unit that is none of the point',
      (c: Check) => void (c.readings[0]!.applied = { typed: '3 kg/h', value: 3, unit: 'kg/h' }),
      'incommensurable',
    ],
  ])('with %s is refused', async (_what, change, code) => {
    const bundle = await bundleOf(await signedCheck(`LT-${++tags}`))
    const { folder } = bundle
    folder.loop = { ...folder.loop, id: uuid(), tag: 'LT-1039' }
    const check = folder.checks[0]!
    change(check)
    const digest = digestOf(2, subjectOfCheck(folder.loop, folder.versions[0]!, check))!
    check.signatures = check.signatures.map(({ seal: _, ...s }) => ({ ...s, digest }))
    expect((await send(una, bundle)).problem).toMatchObject({ status: 422, code })
  })
})

describe('the key', () => {
  const file = () => join(mkdtempSync(join(tmpdir(), 'calm-loop-key-')), 'seal-key.json')
  it('is made once, for its owner’s eyes only, and added to when it is rotated', async () => {
    const path = file()
    const first = openSealer(path)
    expect(statSync(path).mode & 0o777).toBe(0o600)
    expect(openSealer(path).keyId).toBe(first.keyId)
    expect(keyIdOf(first.publicKeys[0]!.publicKey)).toBe(first.keyId)
    const next = rotateKey(path)
    const second = openSealer(path)
    expect([second.keyId, second.publicKeys.map((k) => k.id)]).toEqual([next, [first.keyId, next]])
    await asOwner(server.ownerUrl, (db) => registerKeys(db, second))
    expect(((await ailsa.call('sealKeys')).body as SealKey[]).filter((k) => k.own)).toHaveLength(3)
  })
  it.each(['', '{"keys": [', '{"keys": []}'])('that is damaged (%j) is told in words and left as it is', (text) => {
    const path = file()
    writeFileSync(path, text)
    expect(() => openSealer(path)).toThrow(/empty, cut or damaged. Put it back from a copy; nothing was changed/)
    expect(readFileSync(path, 'utf8')).toBe(text)
  })
})

it('what was signed before there were seals is still held against the record', async () => {
  const b = await signedCheck('LT-1090')
  const { loop, versions, checks } = await folderOf(ailsa, b.loopId)
  const { signatures: _, ...rest } = checks[0]!
  const old = createHash('sha256')
    .update(
      canonicalJson({
        loop: { id: loop.id, tag: loop.tag, kind: loop.kind },
        entries: versions[0]!.entries,
        check: rest,
      }),
    )
    .digest('hex')
  expect(contentOfDigest(old, subjectOfCheck(loop, versions[0]!, checks[0]!))).toBe(1)
  await migrateDatabase(server.ownerUrl)
})
