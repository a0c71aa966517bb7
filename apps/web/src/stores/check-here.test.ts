// A check out of coverage: begun, read, given back and signed on this device; sent in order, and sealed with a password
// that is kept nowhere.
import 'fake-indexeddb/auto'
import type { Check, FolderView, TakeReading } from '@calm-loop/contract'
import { planOfCheck } from '@calm-loop/contract/judging'
import { USUAL_JUDGING } from '@calm-loop/contract'
import { kindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { describe, expect, it, vi } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { checkBegun } from '../places/folder/check-begun.ts'
import { useFolder } from './folder.ts'
import { keeperFor } from './kept.ts'
import { useLater } from './later.ts'
import { useOutbox } from './outbox.ts'
import { AILSA, answering, folderOf, LOOP_ID, noNetwork, refusal, sessionOf } from './server.fixture.ts'
import { useSession } from './session.ts'
import { inEmptyRoom } from './room.fixture.ts'

const KIND = kindOf('level-from-above')
const ENTRIES = demoEntries('level-from-above')
const view = (more = {}) => folderOf('level-from-above', ENTRIES, more)
const [CHECK, GATE, READING, RELEASE, NAME] = ['c', 'd', 'e', 'f', '1'].map(
  (n) => `01890000-0000-7000-8000-0000000000${n}${n}`,
) as [string, string, string, string, string]
const start = {
  ...{ phase: 'as-found' as const, percents: [0, 100], gearIds: [], ambient: '', told: 'Bree', gateId: GATE },
  ...{ words: 'Loop in manual.', expiredReason: '' },
}
const reading: Omit<TakeReading, 'sample'> = {
  ...{ pointIndex: 0, source: 'typed', supersedes: null, reason: '', takenAt: '2027-01-01T10:05:00.000Z' },
  applied: { typed: '0 mm', value: 0, unit: 'mm' },
  reads: { current: { typed: '4.01 mA', value: 4.01, unit: 'mA' } },
}
const SECRET = 'kelp and salt'

async function open(answers: Parameters<typeof answering>[0] = {}) {
  // Those given are looked at first.
  const asked = answering({
    ...answers,
    'GET /api/session': () => sessionOf(['technician']),
    [`GET /api/loops/${LOOP_ID}`]: () => view(),
    'PUT /api/loops/*/checks/*': noNetwork,
    'PUT /api/loops/*/checks/*/*/*': noNetwork,
    ...answers,
  })
  await useSession().load()
  await useFolder().open(LOOP_ID)
  return asked
}
async function checkOutOfCoverage(): Promise<void> {
  const plan = planOfCheck({ kind: KIND, study: study(KIND, ENTRIES) }, start, {
    ...{ site: USUAL_JUDGING, kit: [], today: '2027-01-01' },
  })
  const of = { id: CHECK, versionId: view().versions[0]!.id, by: AILSA, at: '2027-01-01T10:00:00.000Z' }
  const shown = checkBegun(of, start, plan)
  const params = { loopId: LOOP_ID, checkId: CHECK }
  const { write } = useLater()
  await write({ endpoint: 'startCheck', id: CHECK, params, body: start, shown })
  useOutbox().put({ id: READING, endpoint: 'takeReading', params: { ...params, readingId: READING }, body: reading })
  const gate = { gate: 'loop-released' as const, words: 'Given back.', told: 'Bree' }
  await write({ endpoint: 'confirmGate', id: RELEASE, params: { ...params, gateId: RELEASE }, body: gate })
  const said = { role: 'performed' as const, statement: 'I took these readings.' }
  await write({
    ...{ endpoint: 'sign', id: NAME, params: { ...params, signatureId: NAME } },
    ...{ body: { ...said, password: SECRET }, waits: { ...said, password: '' } },
  })
  await useOutbox().settled()
}
const here = (): Check => useFolder().view!.checks.at(-1)!
const sentTo = (asked: ReturnType<typeof answering>) =>
  asked.filter((a) => a.method === 'PUT').map((a) => a.path.split('/').slice(6).join('/') || 'check')

inEmptyRoom()

describe('a check that waits', () => {
  it('stands in the folder as it will on record, with readings and gates, and is the one that is open', async () => {
    await open()
    await checkOutOfCoverage()
    expect(here()).toMatchObject({
      ...{ id: CHECK, phase: 'as-found', practice: false, startedBy: AILSA, signatures: [] },
      gates: [{ gate: 'loop-in-manual', told: 'Bree' }, { gate: 'loop-released' }],
      readings: [{ id: READING, seq: 1, percent: 0, direction: 'up', by: AILSA }],
    })
    expect(useFolder().openCheck?.id).toBe(CHECK)
    expect(useFolder().judged(here())).not.toBeNull()
  })
  it('keeps no password anywhere on this device', async () => {
    await open()
    await checkOutOfCoverage()
    const kept = JSON.stringify([useOutbox().pending, { ...localStorage }])
    expect(kept).toContain('I took these readings.')
    expect(kept).not.toContain(SECRET)
  })
  it('is sent in its order; the signature waits for its password, and is sent once with it', async () => {
    await open()
    await checkOutOfCoverage()
    const good = ({ body }: { body: unknown }) => ({ ...(body as object), id: 'x' })
    const answers = { 'PUT /api/loops/*/checks/*': good, 'PUT /api/loops/*/checks/*/*/*': good }
    const asked = await open(answers)
    await useOutbox().flush()
    await vi.waitFor(() => expect(useOutbox().waiting).toHaveLength(1))
    expect(sentTo(asked)).toEqual(['check', `readings/${READING}`, `gates/${RELEASE}`])
    expect(useOutbox().toSeal.map((w) => w.id)).toEqual([NAME])
    await useOutbox().seal(SECRET)
    await vi.waitFor(() => expect(useOutbox().waiting).toEqual([]))
    expect(asked.at(-1)!.path.startsWith('/api/loops') ? sentTo(asked).at(-1) : '').toContain('signatures')
    const signed = asked.find((a) => a.path.includes('signatures'))!
    expect(signed.body).toMatchObject({ password: SECRET })
    expect(Number(signed.headers['x-waited-ms'])).toBeGreaterThan(0)
  })
  it('asks again after a wrong password, and what waits for another loop goes on', async () => {
    await open()
    await checkOutOfCoverage()
    const good = ({ body }: { body: unknown }) => ({ ...(body as object), id: 'x' })
    const asked = await open({
      'PUT /api/loops/*/checks/*': good,
      'PUT /api/loops/*/checks/*/signatures/*': () => refusal(401, 'wrong-password', 'That is not your password.'),
      'PUT /api/loops/*/checks/*/*/*': good,
      'PUT /api/loops/*/work/*': good,
    })
    const other = '01890000-0000-7000-8000-0000000000ff'
    useOutbox().put({ id: 'w', endpoint: 'addWork', params: { loopId: other, entryId: 'w' }, body: {} })
    await useOutbox().settled()
    await useOutbox().seal('wrong')
    await vi.waitFor(() => expect(useOutbox().notSealed).toBe('That is not your password.'))
    await vi.waitFor(() => expect(asked.some((a) => a.path.includes(`${other}/work`))).toBe(true))
    expect(useOutbox().toSeal).toHaveLength(1)
    expect(useOutbox().refused).toEqual([])
    expect(useSession().ended).toBe(false)
  })
})

describe('a signature in coverage', () => {
  it('given while a reading is on its way is sealed after it at once, and not asked for again', async () => {
    const good = ({ body }: { body: unknown }) => ({ ...(body as object), id: 'x' })
    let arrives: (() => void) | undefined
    const slow = async (a: { body: unknown }) => {
      await new Promise<void>((go) => (arrives = go))
      return good(a)
    }
    const asked = await open({
      'PUT /api/loops/*/checks/*/readings/*': slow,
      'PUT /api/loops/*/checks/*/signatures/*': good,
    })
    const params = { loopId: LOOP_ID, checkId: CHECK }
    useOutbox().put({ id: READING, endpoint: 'takeReading', params: { ...params, readingId: READING }, body: reading })
    await vi.waitFor(() => expect(arrives).toBeDefined())
    const said = { role: 'performed' as const, statement: 'I took these readings.' }
    const signing = useLater().write({
      ...{ endpoint: 'sign', id: NAME, params: { ...params, signatureId: NAME } },
      ...{ body: { ...said, password: SECRET }, waits: { ...said, password: '' } },
    })
    arrives!()
    expect(await signing).toMatchObject({ role: 'performed' })
    expect(sentTo(asked)).toEqual([`readings/${READING}`, `signatures/${NAME}`])
    expect(useOutbox().toSeal).toEqual([])
  })
})

describe('entries typed after a check was begun here', () => {
  it('wait until it has been sent, so that it is judged by what stood there', async () => {
    const saves: unknown[] = []
    const save = ({ body, path }: { body: unknown; path: string }) => {
      saves.push(body)
      const id = path.split('/').at(-1)!
      return { ...view().versions[0], ...(body as object), id, number: 2, sealedAt: null }
    }
    const versions = { 'PUT /api/loops/*/versions/*': save }
    await open(versions)
    await checkOutOfCoverage()
    useFolder().set('service', { typed: 'typed later' })
    expect(await useFolder().save()).toBe(false)
    expect(useFolder().status).toBe('offline')
    expect(saves).toEqual([])
    const good = ({ body }: { body: unknown }) => ({ ...(body as object), ...here(), id: CHECK })
    answering({
      [`GET /api/loops/${LOOP_ID}`]: () => view(),
      ...versions,
      'PUT /api/loops/*/checks/*': good,
      'PUT /api/loops/*/checks/*/*/*': good,
    })
    await useOutbox().flush()
    await vi.waitFor(() => expect(saves).toHaveLength(1))
  })
})

describe('what was saved since a folder was opened', () => {
  it('is kept with it, for a reload out of coverage', async () => {
    const save = ({ body, path }: { body: unknown; path: string }) => ({
      ...{ ...view().versions[0], ...(body as object), id: path.split('/').at(-1)!, number: 2, sealedAt: null },
    })
    await open({ 'PUT /api/loops/*/versions/*': save })
    useFolder().set('service', { typed: 'typed just now' })
    expect(await useFolder().save()).toBe(true)
    const keeper = keeperFor(
      () => AILSA.id,
      () => undefined,
    )
    const kept = async () => (await keeper.kept('folder', `/api/loops/${LOOP_ID}`)) as FolderView
    await vi.waitFor(async () =>
      expect((await kept()).versions.at(-1)?.entries['service']?.typed).toBe('typed just now'),
    )
  })
})
