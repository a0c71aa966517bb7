// What the server judges for itself: what is live, when it was taken, which words stood at a gate, with what and by
// whom.
import { LiveReading, type FolderView } from '@calm-loop/contract'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { sampleTokens } from '../src/link/samples.ts'
import { checkBegun, givenBack, listenTo, mA, mm, readingAt, served, type Visitor } from './harness.ts'

const { server, ailsa, rona, magnus } = await served()
const take = async (b: { loopId: string; checkId: string }, reading: object, who = ailsa) =>
  who.call('takeReading', { ...b, readingId: uuid() }, reading)

describe('a live reading', () => {
  const sampleOf = async (loopId: string) =>
    LiveReading.parse((await listenTo(server, ailsa, `/api/loops/${loopId}/link/stream`, (e) => e.length > 0))[0]!.data)
  const live = (s: LiveReading, change: object = {}) => {
    const current = s.knots['current']!
    const typed = `${current.toFixed(3)} mA`
    return {
      ...readingAt(0),
      source: 'live',
      sample: s.token,
      takenAt: new Date(s.at_ms!).toISOString(),
      reads: { current: { typed, value: Number(current.toFixed(3)), unit: 'mA' } },
      ...change,
    }
  }
  it('is one whose figures this server’s link gave, for this loop, now', async () => {
    const b = await checkBegun(ailsa, 'LT-1201', {}, true)
    const other = await checkBegun(ailsa, 'LT-1202', {}, true)
    const s = await sampleOf(b.loopId)
    const code = async (reading: object, at: typeof b = b) => (await take(at, reading)).problem?.code
    expect(await code(live(s, { sample: undefined }))).toBe('not-live')
    expect(await code(live(s, { sample: `${s.token!.slice(0, -3)}xyz` }))).toBe('not-live')
    expect(
      await code(
        live(s, {
          sample: sampleTokens('another secret').issue({
            loopId: b.loopId,
            at_ms: Date.now(),
            simulated: true,
            knots: { current: { value: 4, unit: 'mA' } },
          }),
        }),
      ),
    ).toBe('not-live')
    expect(await code(live(s), other)).toBe('not-live')
    expect(await code(live(s, { reads: { current: mA(12) } }))).toBe('not-live')
    expect(await code(live(s, { takenAt: new Date(s.at_ms! + 90_000).toISOString() }))).toBe('not-live')
    const taken = await take(b, live(s))
    expect(taken.status, taken.text).toBe(200)
    expect(taken.body).toMatchObject({
      source: 'live',
      sampledAt: new Date(s.at_ms!).toISOString(),
      origins: { applied: 'typed', current: 'simulated' },
    })
    expect((await take(b, readingAt(1))).body).not.toHaveProperty('sampledAt')
  })
})

describe('the time of a reading', () => {
  it('lies between the check’s beginning and now, by the server’s clock', async () => {
    const b = await checkBegun(ailsa, 'LT-1203')
    const at = (ms: number) => take(b, { ...readingAt(0), takenAt: new Date(Date.now() + ms).toISOString() })
    expect((await at(5 * 60_000)).problem.code).toBe('clock-ahead')
    expect((await at(-5 * 60_000)).problem.code).toBe('before-check')
    expect((await at(0)).status).toBe(200)
  })
})

describe('words of a gate', () => {
  it('are those that a page has shown', async () => {
    const b = await checkBegun(ailsa, 'LT-1204')
    expect((await folderOf(b.loopId)).checks[0]!.gates[0]!.words).toBe(gateWording('loop-in-manual', 'current'))
    const gate = (words: string) => ailsa.call('confirmGate', { ...b, gateId: uuid() }, { ...givenBack(), words })
    expect((await gate('Everything is fine.')).problem.code).toBe('unknown-words')
    expect((await gate(gateWording('loop-in-manual', 'current'))).problem.code).toBe('unknown-words')
    expect((await gate(gateWording('loop-released', 'current'))).status).toBe(200)
    const start = { ...b.start, gateId: uuid(), words: 'Trust me.' }
    expect((await ailsa.call('startCheck', { ...b, checkId: uuid() }, start)).problem.code).toBe('unknown-words')
  })
})
const folderOf = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView

describe('equipment past its due date', () => {
  it('is refused unless somebody says why, and that stands on the check', async () => {
    const gearId = uuid()
    await rona.call(
      'saveGear',
      { gearId },
      { id: gearId, name: 'Old meter', serial: '7', measures: 'mA', range: '', uncertainty: '', due: '2020-01-01' },
    )
    const b = await checkBegun(ailsa, 'LT-1205')
    const start = (expiredReason: string) =>
      ailsa.call(
        'startCheck',
        { ...b, checkId: uuid() },
        { ...b.start, gateId: uuid(), gearIds: [gearId], expiredReason },
      )
    expect((await start(' ')).problem).toMatchObject({ status: 422, code: 'gear-expired' })
    expect((await start('The only one on site; to be checked afterwards')).body).toMatchObject({
      gear: [{ name: 'Old meter', expiredReason: 'The only one on site; to be checked afterwards' }],
    })
  })
})

describe('who signs', () => {
  const finished = async (tag: string, who = ailsa) => {
    const b = await checkBegun(who, tag)
    for (let i = 0; i < 6; i++) await take(b, readingAt(i), who)
    await who.call('confirmGate', { ...b, gateId: uuid() }, givenBack())
    return b
  }
  const sign = (who: Visitor, b: object, role: string) =>
    who.call('sign', { ...b, signatureId: uuid() }, { role, statement: 'Yes.', password: 'kelp and salt' })
  it('as performer had a hand in it', async () => {
    const b = await finished('LT-1206')
    expect((await sign(rona, b, 'performed')).problem).toMatchObject({ status: 403, code: 'no-hand' })
    expect((await sign(ailsa, b, 'performed')).status).toBe(200)
  })
  it('as reviewer neither took readings nor entered the range', async () => {
    const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid() }
    await rona.call('createLoop', ids, { tag: 'LT-1207', service: 's', area: 'a', kind: 'level-from-above' })
    const version = firstVersion(demoEntries('level-from-above'), { reason: 'Entered', seal: true })
    expect((await rona.call('saveVersion', ids, version)).status).toBe(200)
    const next = {
      ...version,
      parentId: ids.versionId,
      parentRevision: 0,
      entries: { ...demoEntries('level-from-above'), tell: { typed: 'Someone' } },
    }
    expect((await ailsa.call('saveVersion', { ...ids, versionId: uuid() }, next)).status).toBe(200)
    const start = {
      phase: 'as-found',
      percents: [0, 50, 100],
      gearIds: [],
      ambient: '',
      told: 'Bree',
      gateId: ids.gateId,
      words: gateWording('loop-in-manual', 'current'),
    }
    expect((await ailsa.call('startCheck', ids, start)).status).toBe(200)
    for (let i = 0; i < 6; i++) await take(ids, { ...readingAt(i), takenAt: new Date().toISOString() })
    await ailsa.call('confirmGate', { ...ids, gateId: uuid() }, givenBack())
    expect((await sign(ailsa, ids, 'performed')).status).toBe(200)
    expect((await sign(rona, ids, 'reviewed')).problem).toMatchObject({ status: 403, code: 'own-range' })
    expect((await sign(magnus, ids, 'reviewed')).status).toBe(200)
  })
})

describe('a second reading of a point', () => {
  it('never replaces the first without its name and a reason, and both people are told', async () => {
    const b = await checkBegun(ailsa, 'LT-1208')
    const first = await take(b, { ...readingAt(0), reads: { current: mA(4.48) } })
    expect(first.status).toBe(200)
    let again: Awaited<ReturnType<typeof take>> | undefined
    const events = await listenTo(
      server,
      ailsa,
      `/api/loops/${b.loopId}/events`,
      (all) => all.length > 0,
      async () => {
        await new Promise((r) => setTimeout(r, 150))
        again = await take(b, readingAt(0), rona)
      },
    )
    expect(again!.problem).toMatchObject({
      status: 409,
      code: 'already-read',
      current: { reads: { current: { value: 4.48 } } },
    })
    expect(again!.problem.detail).toMatch(/read before, by Ailsa Fenn/)
    expect(events[0]!.data).toMatchObject({
      what: 'clash',
      by: 'Rona Teague',
      says: expect.stringMatching(/Rona Teague sent another reading.*Ailsa Fenn/) as string,
    })
    expect(
      (
        await take(
          b,
          { ...readingAt(0), supersedes: (first.body as { id: string }).id, reason: 'Wrong terminal' },
          rona,
        )
      ).status,
    ).toBe(200)
    // What was corrected already is not corrected past the one that stands.
    expect(
      (
        await take(b, {
          ...readingAt(0),
          applied: mm(4),
          supersedes: (first.body as { id: string }).id,
          reason: 'Again',
        })
      ).problem.code,
    ).toBe('already-read')
    expect((await folderOf(b.loopId)).checks[0]!.readings).toHaveLength(2)
  })
})
