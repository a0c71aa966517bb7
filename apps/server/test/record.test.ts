import { type Check, type FolderView, type Version } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { monthsLater } from '@calm-loop/contract/judging'
import { checkBegun, givenBack, mA, mm, readingAt, served, type Visitor } from './harness.ts'

const { server, ailsa, rona } = await served()
const folder = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView

describe('every write can be sent twice', () => {
  it('and changes the record once', async () => {
    const b = await checkBegun(ailsa, 'LT-801')
    const p = { ...b, readingId: uuid(), signatureId: uuid() }
    const once = async (call: () => Promise<{ status: number; text: string }>) => {
      const first = await call()
      const second = await call()
      expect(first.status, first.text).toBe(200)
      expect(second).toMatchObject({ status: 200, text: first.text })
    }
    await once(() => ailsa.call('createLoop', p, b.create).then(({ status, text }) => ({ status, text })))
    await once(() => ailsa.call('startCheck', p, b.start).then(({ status, text }) => ({ status, text })))
    for (let i = 0; i < 6; i++) {
      const readingId = uuid()
      await once(() =>
        ailsa.call('takeReading', { ...p, readingId }, readingAt(i)).then(({ status, text }) => ({ status, text })),
      )
    }
    const gateId = uuid()
    await once(() =>
      ailsa.call('confirmGate', { ...p, gateId }, givenBack()).then(({ status, text }) => ({ status, text })),
    )
    await once(() =>
      ailsa
        .call('sign', p, { role: 'performed', statement: 'Done.', password: 'kelp and salt' })
        .then(({ status, text }) => ({ status, text })),
    )
    const check = (await folder(b.loopId)).checks[0]!
    expect([check.readings.length, check.gates.length, check.signatures.length]).toEqual([6, 2, 1])
    expect(check.readings.map((r) => r.seq)).toEqual([1, 2, 3, 4, 5, 6])
  })
  it('but the same id with other content is refused', async () => {
    const b = await checkBegun(ailsa, 'LT-802')
    const p = { ...b, readingId: uuid() }
    await ailsa.call('takeReading', p, readingAt(0))
    expect((await ailsa.call('takeReading', p, readingAt(1))).problem).toMatchObject({ status: 409, code: 'id-reused' })
    expect((await ailsa.call('createLoop', p, { ...b.create, service: 'Other' })).problem.code).toBe('id-reused')
  })
  it('also when both arrive at once', async () => {
    const b = await checkBegun(ailsa, 'LT-803')
    const readingId = uuid()
    const answers = await Promise.all(
      [0, 1, 2, 3].map(() => ailsa.call('takeReading', { ...b, readingId }, readingAt(0))),
    )
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200])
    expect((await folder(b.loopId)).checks[0]!.readings).toHaveLength(1)
  })
})

describe('versions', () => {
  const save = (who: Visitor, loopId: string, versionId: string, body: object) =>
    who.call(
      'saveVersion',
      { loopId, versionId },
      {
        parentId: null,
        parentRevision: 'parentId' in body ? 0 : null,
        revision: 0,
        entries: {},
        reason: '',
        seal: false,
        ...body,
      },
    )
  const newLoop = async (tag: string) => {
    const loopId = uuid()
    await ailsa.call('createLoop', { loopId }, { tag, service: 's', area: 'a', kind: 'level-from-above' })
    return loopId
  }
  it('keep a half-entered loop, unreadable text and all', async () => {
    const loopId = await newLoop('LT-811')
    const entries = {
      device: { typed: 'Head' },
      tankDepth: { typed: 'three metres' },
      shunt: { typed: '250', value: 250, unit: 'Ohm' },
    }
    expect((await save(ailsa, loopId, uuid(), { entries })).status).toBe(200)
    const view = await folder(loopId)
    expect(view.versions[0]!.entries).toEqual(entries)
    expect(view.row.state).toBe('half-entered')
  })
  it('refuse a figure that is not what its text says', async () => {
    const loopId = await newLoop('LT-812')
    expect(
      (await save(ailsa, loopId, uuid(), { entries: { shunt: { typed: '250', value: 25, unit: 'Ohm' } } })).problem
        .code,
    ).toBe('entry-mismatch')
    expect(
      (await save(ailsa, loopId, uuid(), { entries: { shunt: { typed: '250 mm', value: 250, unit: 'mm' } } })).problem
        .code,
    ).toBe('entry-mismatch')
  })
  it('are saved in place while open, and followed by a new one when recorded', async () => {
    const loopId = await newLoop('LT-813')
    const [one, two] = [uuid(), uuid()]
    await save(ailsa, loopId, one, {})
    await save(ailsa, loopId, one, { revision: 1, entries: { device: { typed: 'A' } } })
    await save(ailsa, loopId, one, { revision: 2, entries: { device: { typed: 'AB' } }, reason: 'Named', seal: true })
    expect((await save(ailsa, loopId, one, { revision: 3, entries: {} })).problem.code).toBe('version-conflict')
    await save(ailsa, loopId, two, { parentId: one, parentRevision: 2, entries: { device: { typed: 'C' } } })
    const { versions } = await folder(loopId)
    expect(
      versions.map((v) => [v.number, v.entries['device']?.typed, v.reason, v.author.name, v.sealedAt !== null]),
    ).toEqual([
      [1, 'AB', 'Named', 'Ailsa Fenn', true],
      [2, 'C', '', 'Ailsa Fenn', false],
    ])
  })
  it('show the second of two people what the first one saved', async () => {
    const loopId = await newLoop('LT-814')
    const [base, hers, mine] = [uuid(), uuid(), uuid()]
    await save(ailsa, loopId, base, { seal: true, reason: 'Base' })
    await save(rona, loopId, hers, { parentId: base, entries: { device: { typed: 'Rona’s' } } })
    const refused = await save(ailsa, loopId, mine, { parentId: base, entries: { device: { typed: 'Ailsa’s' } } })
    expect(refused.problem).toMatchObject({
      status: 409,
      code: 'version-conflict',
      detail: expect.stringContaining('Rona Teague'),
    })
    expect((refused.problem.current as Version).entries['device']?.typed).toBe('Rona’s')
    expect(
      (await save(ailsa, loopId, mine, { parentId: hers, entries: { device: { typed: 'Ailsa’s' } } })).status,
    ).toBe(200)
  })
  it('do not follow a version that was saved again meanwhile', async () => {
    const loopId = await newLoop('LT-816')
    const id = uuid()
    await save(ailsa, loopId, id, {})
    await save(ailsa, loopId, id, { revision: 1, entries: { device: { typed: 'later' } } })
    const late = await save(rona, loopId, uuid(), { parentId: id, parentRevision: 0, entries: {} })
    expect(late.problem.code).toBe('version-conflict')
    expect((await folder(loopId)).versions).toHaveLength(1)
  })
  it('do not let two tabs of one person overwrite each other', async () => {
    const loopId = await newLoop('LT-815')
    const id = uuid()
    await save(ailsa, loopId, id, {})
    await save(ailsa, loopId, id, { revision: 1, entries: { device: { typed: 'tab one' } } })
    expect(
      (await save(ailsa, loopId, id, { revision: 1, entries: { device: { typed: 'tab two' } } })).problem.code,
    ).toBe('version-conflict')
  })
})

describe('a check', () => {
  it('does not begin on a loop that is not ready, and says why', async () => {
    const cases: [Record<string, string>, string][] = [
      [{ emptyDistance: '500 mm' }, 'full-beyond-empty'],
      [{ urv: '0 mm' }, 'range-zero-span'],
      [{ urv: '3250 mm', tankDepth: '3100 mm' }, 'range-outside-tank'],
      [{ urv: '3350 mm', tankDepth: '3500 mm', fullDistance: '250 mm', blanking: '250 mm' }, ''],
      [{ blanking: '700 mm' }, 'full-inside-blanking'],
      [{ shunt: '' }, 'loop-incomplete'],
    ]
    for (const [i, [changed, code]] of cases.entries()) {
      const begin = checkBegun(ailsa, `LT-82${i}`, changed)
      if (code) await expect(begin, code).rejects.toThrow(code)
      else await begin
    }
  })
  it('refuses what is not a reading of it', async () => {
    const b = await checkBegun(ailsa, 'LT-831')
    const take = async (change: object) =>
      (await ailsa.call('takeReading', { ...b, readingId: uuid() }, { ...readingAt(0), ...change })).problem.code
    expect(await take({ pointIndex: 99 })).toBe('no-such-point')
    expect(await take({ applied: { typed: '3 kg/h', value: 3, unit: 'kg/h' } })).toBe('incommensurable')
    expect(await take({ reads: { current: mm(5) } })).toBe('incommensurable')
    expect(await take({ reads: {} })).toBe('nothing-read')
    expect(await take({ reads: { digital: mm(5) } })).toBe('no-such-place')
    expect(await take({ reads: { current: { typed: '4 mA', value: 5, unit: 'mA' } } })).toBe('entry-mismatch')
    expect(await take({ applied: { typed: '1e30', value: 1e30, unit: 'mm' } })).toBe('invalid-input')
    expect(await take({ supersedes: uuid(), reason: 'because' })).toBe('no-such-reading')
    expect(await take({ supersedes: uuid(), reason: '' })).toBe('invalid-input')
  })
  it('keeps a corrected reading beside its correction, and judges by the correction', async () => {
    const b = await checkBegun(ailsa, 'LT-832')
    const wrong = uuid()
    await ailsa.call(
      'takeReading',
      { ...b, readingId: wrong },
      { ...readingAt(0), reads: { current: mA(8) }, reason: 'It showed that' },
    )
    await ailsa.call(
      'takeReading',
      { ...b, readingId: uuid() },
      { ...readingAt(0), supersedes: wrong, reason: 'Misread the meter' },
    )
    const csv = (await ailsa.call('readingsCsv', b)).text
    expect(csv.split('\r\n').filter(Boolean)).toHaveLength(3)
    expect(csv).toMatch(/corrected/)
    expect((await folder(b.loopId)).checks[0]!.readings.map((r) => r.reason)).toEqual([
      'It showed that',
      'Misread the meter',
    ])
  })
  it('is signed only when all is read and the loop is given back, and countersigned by another', async () => {
    const b = await checkBegun(rona, 'LT-833')
    const sign = (who: Visitor, role: string, password = 'kelp and salt') =>
      who.call('sign', { ...b, signatureId: uuid() }, { role, statement: 'Yes.', password })
    expect((await sign(rona, 'performed')).problem).toMatchObject({
      code: 'points-missing',
      detail: expect.stringContaining('50 % up'),
    })
    for (let i = 0; i < 6; i++) await rona.call('takeReading', { ...b, readingId: uuid() }, readingAt(i))
    expect((await sign(rona, 'performed')).problem.code).toBe('loop-not-released')
    await rona.call('confirmGate', { ...b, gateId: uuid() }, givenBack())
    const magnus = await server.as('magnus')
    expect((await sign(magnus, 'reviewed')).problem.code).toBe('not-yet-signed')
    expect((await sign(magnus, 'performed')).problem.code).toBe('wrong-role')
    expect((await sign(rona, 'performed', 'not my password')).problem.code).toBe('wrong-password')
    expect((await sign(rona, 'performed')).status).toBe(200)
    expect((await folder(b.loopId)).row).toMatchObject({ state: 'awaiting-review' })
    expect((await sign(rona, 'reviewed')).problem).toMatchObject({ status: 403, code: 'own-work' })
    expect((await sign(ailsa, 'reviewed')).problem.code).toBe('wrong-role')
    expect((await sign(magnus, 'reviewed')).status).toBe(200)
    const { row } = await folder(b.loopId)
    expect(row.state).toBe('passed')
    expect(row.nextDue).toBe(monthsLater(new Date().toISOString().slice(0, 10), 12))
    expect((await rona.call('takeReading', { ...b, readingId: uuid() }, readingAt(0))).problem.code).toBe('signed')
  })
  it('says out of tolerance when it is', async () => {
    const b = await checkBegun(ailsa, 'LT-834')
    for (let i = 0; i < 6; i++) await ailsa.call('takeReading', { ...b, readingId: uuid() }, readingAt(i, 0.2))
    await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack())
    await ailsa.call(
      'sign',
      { ...b, signatureId: uuid() },
      { role: 'performed', statement: 'Yes.', password: 'kelp and salt' },
    )
    expect((await folder(b.loopId)).row).toMatchObject({ state: 'failed', lastErrorPct: expect.closeTo(1.25, 6) })
  })
  it('becomes a certificate of a few pages that holds no other site’s address', async () => {
    const { loops } = (await ailsa.raw('GET', '/api/loops?q=LT-112')).body as { loops: { id: string }[] }
    const check = (await folder(loops[0]!.id)).checks.at(-1) as Check
    const answer = await ailsa.call('certificate', { loopId: loops[0]!.id, checkId: check.id })
    expect(answer.headers.get('content-type')).toContain('application/pdf')
    expect(answer.text.startsWith('%PDF-')).toBe(true)
    expect(answer.text).not.toMatch(/\/URI/)
  })
})

it('adds months to a date within the month', () => {
  expect(monthsLater('2027-08-31', 6)).toBe('2028-02-29')
  expect(monthsLater('2026-11-23', 12)).toBe('2027-11-23')
})
