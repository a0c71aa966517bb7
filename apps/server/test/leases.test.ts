// Two servers on one database: a loop has one device, whichever of them is asked.
import { endpoints, type LiveReading, type LoopPage } from '@calm-loop/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LEASE_s } from '../src/link/leases.ts'
import { listenTo, startServer, type TestServer, type Visitor } from './harness.ts'

let [a, b]: TestServer[] = []
let [onA, onB]: Visitor[] = []
let loopId = ''

beforeAll(async () => {
  a = await startServer()
  b = await startServer({ on: a })
  ;[onA, onB] = [await a.as('ailsa'), await b.as('ailsa')]
  const page = (await onA.call('loops')).body as LoopPage
  loopId = page.loops.find((i) => i.tag === 'LT-112')!.id
  await onA.connectBench(loopId)
})
afterAll(async () => {
  await b!.stop()
})

const readingsOf = async (server: TestServer, who: Visitor, enough: number) => {
  const path = endpoints.linkStream.path.replace(':loopId', loopId)
  return (await listenTo(server, who, path, (e) => e.length >= enough)).map((e) => e.data as LiveReading)
}
const viewOf = async (who: Visitor) => (await who.call('transmitter', { loopId })).body as { log: { what: string }[] }

describe('a device link', () => {
  it('is one, held by the server that was asked first', async () => {
    const [first] = await readingsOf(a!, onA!, 1)
    const [there] = await readingsOf(b!, onB!, 1)
    // A machine of its own would have begun its time anew.
    expect(there!.t_s).toBeGreaterThanOrEqual(first!.t_s)
    expect((await b!.pool.query('select holder from link_leases')).rows).toEqual([
      { holder: expect.stringContaining(a!.base) },
    ])
  })
  it('takes what the other server is told, and shows it to both', async () => {
    expect((await onB!.call('moveProcess', { loopId }, { wanted: 900 })).status).toBe(204)
    expect((await onB!.call('commandBench', { loopId }, { do: 'power-cycle' })).status).toBe(200)
    const { log } = await viewOf(onA!)
    expect(log.at(-1)!.what).toMatch(/^Power failed/)
    expect(await viewOf(onB!)).toEqual(await viewOf(onA!))
    const [now] = await readingsOf(a!, onA!, 1)
    expect(now!.wanted).toBe(900)
  })
  it('asks the other server’s guards: nobody gets round them', async () => {
    const stranger = b!.visitor()
    expect((await stranger.call('transmitter', { loopId })).status).toBe(401)
    const answer = await onB!.raw('GET', `/api/loops/${loopId}/link`, undefined, { 'x-calm-loop-handed-on': '1' })
    expect(answer.problem.code).toBe('device-elsewhere')
  })
  it('tells of a loop that there is not, and of a name that is none', async () => {
    expect((await onB!.call('link', { loopId: '0190aaaa-0000-7000-8000-000000000000' })).status).toBe(404)
    expect((await onB!.call('link', { loopId: 'nonsense' })).status).toBe(400)
  })
  it('is taken over when its server dies, with what the device was told', async () => {
    const before = await viewOf(onB!)
    await a!.die()
    let answer = await onB!.call('transmitter', { loopId })
    expect(answer.problem.code).toBe('device-elsewhere')
    expect(answer.problem.detail).toContain(`${LEASE_s} s`)
    await expect.poll(async () => (answer = await onB!.call('transmitter', { loopId })).status).toBe(200)
    expect(answer.body).toEqual(before)
    expect((await b!.pool.query('select holder from link_leases')).rows).toEqual([
      { holder: expect.stringContaining(b!.base) },
    ])
  })
  it('is given back when its server stops', async () => {
    const c = await startServer({ on: b! })
    const onC = await c.as('ailsa')
    const other = ((await onC.call('loops')).body as LoopPage).loops.find((i) => i.tag === 'PDT-118')!.id
    await onC.connectBench(other)
    expect((await onC.call('link', { loopId: other })).status).toBe(200)
    await c.stop()
    expect((await onB!.call('link', { loopId: other })).status).toBe(200)
  })
})
