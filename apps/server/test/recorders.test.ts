// Changes of a discrete point recorded by the server, while no page is open and over a server that is lost.
import { coreTrain, type FolderView, type Recorded, type WatchedPoint } from '@calm-loop/contract'
import { edgesOf } from '@calm-loop/core/discrete'
import { afterAll, expect, it } from 'vitest'
import { good, startServer, until, type TestServer } from './harness.ts'
import { wholeTrains } from '../src/services/folder.ts'

const server = await startServer({ benchPace: 10 })
const ailsa = await server.as('ailsa')
afterAll(() => server.stop())
const { loopId } = (good(await ailsa.call('watchPoints')).body as WatchedPoint[])[0]!

const recorded = async (from: TestServer = server) => {
  const who = from === server ? ailsa : await from.as('ailsa')
  return (good(await who.call('recorded', { loopId })).body as Recorded).recorded
}
const trains = () => wholeTrains(server.db, loopId)
const run = (running: boolean) => ailsa.call('moveProcess', { loopId }, { running })

it('is only begun where something can be seen', async () => {
  const answer = await ailsa.call('recordPoint', { loopId }, { on: true })
  expect(answer.problem.code).toBe('bench-not-connected')
  expect(await recorded()).toBe(null)
})
it('goes on without a page, kept in trains that never overlap, marked as practice', async () => {
  const before = (await trains()).length
  good(await ailsa.connectBench(loopId))
  good(await ailsa.call('recordPoint', { loopId }, { on: true }))
  good(await run(true))
  await until(async () => ((await recorded())?.changes ?? 0) > 3)
  const again = good(await ailsa.call('recordPoint', { loopId }, { on: true })).body as Recorded
  expect(again.recorded).toMatchObject({ by: { name: 'Ailsa Fenn' }, problem: '' })
  const { changes } = (await recorded())!
  good(await ailsa.call('recordPoint', { loopId }, { on: false }))
  expect(await recorded()).toBe(null)
  const mine = (await trains()).slice(before)
  expect(mine.reduce((n, t) => n + t.changes, 0)).toBeGreaterThanOrEqual(changes)
  expect(mine.every((t) => t.practice && t.origin === 'live' && t.by.name === 'Ailsa Fenn')).toBe(true)
  const at = mine.flatMap((t) => [...edgesOf([coreTrain(t)])].map((e) => e.t_ms))
  expect(at).toEqual(at.toSorted((a, b) => a - b))
})
it('is taken up by another server where the one that recorded is lost', async () => {
  const other = await startServer({ on: server, benchPace: 10 })
  const rona = await other.as('rona')
  good(await rona.call('recordPoint', { loopId }, { on: true }))
  const before = (await trains()).length
  await other.die()
  good(await run(true))
  await until(async () => ((await recorded())?.changes ?? 0) > 2)
  good(await ailsa.call('recordPoint', { loopId }, { on: false }))
  expect((await trains()).length).toBeGreaterThan(before)
  expect((await trains()).at(-1)!.by.name).toBe('Rona Teague')
})
it('ends with the bench, and with what was seen till then', async () => {
  good(await ailsa.call('recordPoint', { loopId }, { on: true }))
  const before = (await trains()).length
  await until(async () => ((await recorded())?.changes ?? 0) > 1)
  good(await ailsa.connectBench(loopId, false))
  await until(async () => (await recorded()) === null)
  expect((await trains()).length).toBeGreaterThan(before)
})
it('is of discrete points, and a technician’s', async () => {
  const { id } = ((await ailsa.raw('GET', '/api/loops?q=LT-112')).body as { loops: FolderView['loop'][] }).loops[0]!
  expect((await ailsa.call('recordPoint', { loopId: id }, { on: true })).status).toBeGreaterThanOrEqual(400)
  const magnus = await server.as('magnus')
  expect((await magnus.call('recordPoint', { loopId }, { on: true })).status).toBe(403)
})
