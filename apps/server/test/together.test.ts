// Writes that waited on a device and come together: each as if it came by itself, in order, up to the first refused.
import { v7 as uuid } from 'uuid'
import { expect, it } from 'vitest'
import { MOST_TOGETHER, type Check, type FolderView, type WaitingAnswer, type WaitingWrite } from '@calm-loop/contract'
import { checkBegun, givenBack, good, readingAt, served, type Visitor } from './harness.ts'

const { server, ailsa, magnus } = await served({ empty: false })
const HOUR = 3_600_000

interface At {
  readonly loopId: string
  readonly checkId: string
}
const reading = ({ loopId, checkId }: At, i: number, readingId = uuid()): WaitingWrite => ({
  ...{ endpoint: 'takeReading', params: { loopId, checkId, readingId } },
  body: readingAt(i),
})
const send = (who: Visitor, writes: readonly WaitingWrite[]) => who.call('sendWaiting', {}, { writes })
const answersOf = (a: { body: unknown }) => (a.body as { answers: WaitingAnswer[] }).answers
const checkOf = async ({ loopId, checkId }: At): Promise<Check> =>
  (good(await ailsa.call('folder', { loopId })).body as FolderView).checks.find((c) => c.id === checkId)!

it('are done in their order, each with the time for which it waited; sent again they change nothing', async () => {
  const at = await checkBegun(ailsa, 'LT-961')
  const gateId = uuid()
  const { loopId, checkId } = at
  const writes: WaitingWrite[] = [
    ...[0, 1, 2, 3, 4, 5].map((i) => reading(at, i)),
    { endpoint: 'confirmGate', params: { loopId, checkId, gateId }, body: givenBack(), waited_ms: HOUR },
  ]
  const first = answersOf(good(await send(ailsa, writes)))
  expect(first.map((a) => a.status)).toEqual(writes.map(() => 200))
  expect(first[2]!.body).toMatchObject({ pointIndex: 2, seq: 3 })
  const once = await checkOf(at)
  expect(answersOf(good(await send(ailsa, writes))).map((a) => a.status)).toEqual(writes.map(() => 200))
  expect(await checkOf(at)).toEqual(once)
  expect(once.readings.map((r) => r.pointIndex)).toEqual([0, 1, 2, 3, 4, 5])
  expect(Math.abs(Date.parse(once.gates.find((g) => g.id === gateId)!.at) - (Date.now() - HOUR))).toBeLessThan(30_000)
})
it('end with the first that is refused: what follows it is neither done nor answered', async () => {
  const at = await checkBegun(ailsa, 'LT-962')
  const answers = answersOf(good(await send(ailsa, [reading(at, 0), reading(at, 0), reading(at, 1)])))
  expect(answers.map((a) => a.status)).toEqual([200, 409])
  expect(answers[1]!.body).toMatchObject({ code: 'already-read', current: { pointIndex: 0 } })
  expect((await checkOf(at)).readings).toHaveLength(1)
})
it('are refused one by one by who may do them, what they hold and where they belong', async () => {
  const at = await checkBegun(ailsa, 'LT-963')
  const refused = async (who: Visitor, write: WaitingWrite) => answersOf(good(await send(who, [write])))[0]
  expect(await refused(magnus, reading(at, 0))).toMatchObject({ status: 403, body: { code: 'wrong-role' } })
  expect(await refused(ailsa, { ...reading(at, 0), body: { pointIndex: 'first' } })).toMatchObject({ status: 400 })
  expect(await refused(ailsa, reading(at, 0, 'x'))).toMatchObject({ status: 400 })
  expect(await refused(ailsa, reading({ ...at, checkId: uuid() }, 0))).toMatchObject({ status: 404 })
  expect((await checkOf(at)).readings).toEqual([])
})
it('are taken as a whole only from a page that is signed in, and of what may come together', async () => {
  const at = await checkBegun(ailsa, 'LT-964')
  expect((await send(server.visitor(), [reading(at, 0)])).problem.code).toBe('not-signed-in')
  const token = ailsa.token
  ailsa.token = 'another'
  expect((await send(ailsa, [reading(at, 0)])).problem.code).toBe('stale-page')
  ailsa.token = token
  const unstorable = { ...readingAt(0), reason: 'a\u0000b' }
  expect((await send(ailsa, [{ ...reading(at, 0), body: unstorable }])).status).toBe(400)
  const other = { ...reading(at, 0), endpoint: 'sign' } as unknown as WaitingWrite
  expect((await send(ailsa, [other])).status).toBe(400)
  expect((await send(ailsa, [])).status).toBe(400)
  const many = Array.from({ length: MOST_TOGETHER + 1 }, (_, i) => reading(at, i))
  expect((await send(ailsa, many)).status).toBe(400)
  expect((await checkOf(at)).readings).toEqual([])
})
