// What waits counts as done on this device, in order and once; and is sent after what waits before it.
import 'fake-indexeddb/auto'
import type { AddWorkEntry } from '@calm-loop/contract'
import { describe, expect, it, vi } from 'vitest'
import { useFolder } from './folder.ts'
import { useOutbox, type Pending } from './outbox.ts'
import { AILSA, answering, folderOf, LOOP_ID, noNetwork, refusal, sessionOf } from './server.fixture.ts'
import { useSession } from './session.ts'
import { inEmptyRoom } from './room.fixture.ts'
import { withWaiting } from './with-waiting.ts'
import { useWork } from './work.ts'

const step = (id: string, words = ''): AddWorkEntry => ({
  ...{ what: 'step', sheet: 'zero', run: '01890000-0000-7000-8000-0000000000aa' },
  ...{ step: id, title: id, value: null, words },
})
const pending = (id: string, more: Partial<Pending> = {}): Pending => ({
  ...{ id, endpoint: 'addWork', params: { loopId: LOOP_ID, entryId: id }, body: step(id), tag: 'LT-1' },
  ...{ by: AILSA.id, byName: AILSA.name, at: Date.UTC(2027, 0, 1, 9) },
  ...more,
})

describe('a folder with what waits', () => {
  const view = folderOf('coriolis', {})
  it('is the very same where nothing waits for it', () => {
    expect(withWaiting(view, [])).toBe(view)
    expect(withWaiting(view, [pending('a', { params: { loopId: 'other' } })])).toBe(view)
    expect(withWaiting(view, [pending('a', { endpoint: 'takeReading' })])).toBe(view)
  })
  it('has it at its end, in order, by its person and time, and never as practice', () => {
    const { workLog } = withWaiting(view, [pending('a'), pending('b')])
    expect(workLog).toMatchObject([
      { id: 'a', step: 'a', by: AILSA, at: '2027-01-01T09:00:00.000Z', practice: false },
      { id: 'b', step: 'b' },
    ])
  })
  it('has what is on record once', () => {
    const told = { ...view, workLog: withWaiting(view, [pending('a')]).workLog }
    expect(withWaiting(told, [pending('a'), pending('b')]).workLog.map((e) => e.id)).toEqual(['a', 'b'])
  })
})

describe('work out of coverage', () => {
  inEmptyRoom()
  const ENTRY = `PUT /api/loops/${LOOP_ID}/work/*`
  async function away(answers: Parameters<typeof answering>[0] = {}) {
    const asked = answering({
      'GET /api/session': () => sessionOf(['technician']),
      [`GET /api/loops/${LOOP_ID}`]: () => folderOf('coriolis', {}),
      [ENTRY]: noNetwork,
      ...answers,
    })
    await useSession().load()
    await useFolder().open(LOOP_ID)
    return asked
  }
  const onPage = () => useFolder().view!.workLog.map((e) => (e as { step?: string }).step)
  it('goes on: a step waits, and the next after it, and both arrive in order with how long they waited', async () => {
    await away()
    expect(await useWork().add(step('alerts'))).toMatchObject({ step: 'alerts', by: AILSA })
    expect(await useWork().add(step('told', 'Bree'))).toMatchObject({ step: 'told' })
    expect(onPage()).toEqual(['alerts', 'told'])
    expect(useWork().problem).toBe('')
    const log: unknown[] = []
    const asked = answering({
      [`GET /api/loops/${LOOP_ID}`]: () => folderOf('coriolis', {}, { workLog: [...log] as never }),
      [ENTRY]: ({ path, body }) => {
        const entry = { ...(body as object), id: path.split('/').at(-1), by: AILSA, at: '2027-01-01T18:00:00.000Z' }
        log.push(entry)
        return entry
      },
    })
    await useOutbox().flush()
    await vi.waitFor(() => expect(log).toHaveLength(2))
    expect(log).toMatchObject([{ step: 'alerts' }, { step: 'told' }])
    const sent = asked.filter((a) => a.method === 'PUT')
    expect(sent.every((a) => Number(a.headers['x-waited-ms']) >= 0)).toBe(true)
    await vi.waitFor(() => expect(useFolder().view!.workLog).toHaveLength(2))
    expect(onPage()).toEqual(['alerts', 'told'])
  })
  it('that the record does not take any more goes into the tray, and counts no longer', async () => {
    await away()
    await useWork().add(step('alerts'))
    answering({
      [`GET /api/loops/${LOOP_ID}`]: () => folderOf('coriolis', {}),
      [ENTRY]: () => refusal(422, 'step-out-of-order', 'Somebody went on elsewhere.'),
    })
    await useOutbox().flush()
    await vi.waitFor(() => expect(useOutbox().refused).toHaveLength(1))
    expect(onPage()).toEqual([])
  })
  it('at the bench needs the server: nothing simulated waits here', async () => {
    await away()
    useFolder().view = { ...useFolder().view!, bench: { by: AILSA, at: '2027-01-01T09:00:00.000Z' } }
    expect(await useWork().add(step('alerts'))).toBeUndefined()
    expect(useWork().problem).toContain('cannot be reached')
    expect(useOutbox().waiting).toEqual([])
  })
})
