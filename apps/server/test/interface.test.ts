import { CALCULATORS } from '@calm-loop/core/calculators'
import { endpoints, LiveReading, type LoopPage } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { hiddenFaults } from '@calm-loop/core/device'
import { listenTo, served } from './harness.ts'

const { server, ailsa } = await served()
const listen = (path: string, enough: Parameters<typeof listenTo>[3], meanwhile?: () => Promise<unknown>) =>
  listenTo(server, ailsa, path, enough, meanwhile)
const idOf = async (tag: string) => ((await ailsa.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!.id

describe('calculators over HTTP', () => {
  const calc = (name: string, body: string | Buffer, type = 'application/json') =>
    server.visitor().raw('POST', `/api/calc/${name}`, body, { 'content-type': type })
  it('answer one input with one result, to anyone', async () => {
    expect((await calc('rtd', '{"temp_C": 100}')).body).toEqual({ temp_C: 100, ohm: expect.closeTo(138.5055, 4) })
  })
  it.each([
    ['rtd', '{"temp_C": "hot"}', 422, 'invalid-input'],
    ['rtd', '{"temp_C": 5000}', 422, 'out-of-range'],
    ['rtd', '{"temp_C": ', 400, 'invalid-input'],
    ['rtd', '', 422, 'invalid-input'],
    ['zork', '{}', 404, 'unknown-calculator'],
    ['tank-volume', '{"tank":{"shape":"sphere","diameter_m":1},"level_m":2}', 422, 'level-outside-tank'],
  ])('%s refuses %s', async (name, body, status, code) => {
    const answer = await calc(name, body)
    expect([answer.status, answer.problem.code]).toEqual([status, code])
    expect(answer.headers.get('content-type')).toContain('application/problem+json')
  })
})

describe('the description', () => {
  it('names every address and every calculator in OpenAPI 3.1', async () => {
    const file = (await server.visitor().raw('GET', '/api/openapi.json')).body as {
      openapi: string
      paths: Record<string, Record<string, unknown>>
    }
    expect(file.openapi).toMatch(/^3\.1\./)
    for (const [name, e] of Object.entries(endpoints))
      if (name !== 'calc') expect(file.paths[e.path.replace(/:(\w+)/g, '{$1}')]?.[e.method], name).toBeDefined()
    for (const c of CALCULATORS) expect(file.paths[`/api/calc/${c.name}`]?.['post']).toBeDefined()
  })
  it('publishes the bundle’s JSON Schema', async () => {
    expect((await server.visitor().raw('GET', '/api/schemas/folder.json')).body).toMatchObject({
      type: 'object',
      required: ['format', 'version', 'folder'],
    })
  })
})

it('answers an unknown address and garbage with problem details', async () => {
  expect((await ailsa.raw('GET', '/api/nothing')).problem).toMatchObject({ status: 404, code: 'not-found' })
  expect((await ailsa.raw('GET', '/api/loops/not-an-id')).problem).toMatchObject({
    status: 400,
    fields: [{ path: 'loopId' }],
  })
  expect((await ailsa.raw('GET', `/api/loops/${uuid()}`)).problem.code).toBe('not-found')
  expect((await ailsa.raw('GET', '/api/loops?limit=9999')).problem.fields).toMatchObject([{ path: 'limit' }])
  expect((await server.visitor().raw('GET', '/readyz')).body).toEqual({ ok: true })
})

describe('the link', () => {
  it('streams live readings of the stand-in and moves its process', async () => {
    const loopId = await idOf('LT-112')
    await ailsa.connectBench(loopId)
    const wait = 400
    const events = await listen(
      `/api/loops/${loopId}/link/stream`,
      (all) => all.length > 8,
      async () => {
        await new Promise((r) => setTimeout(r, wait))
        await ailsa.call('moveProcess', { loopId }, { wanted: 1500 })
      },
    )
    const readings = events.map((e) => LiveReading.parse(e.data))
    expect(readings[0]!.reference).toBe(0)
    expect(readings.at(-1)!.wanted).toBe(1500)
    expect(readings.at(-1)!.reference).toBeGreaterThan(50)
    expect(Object.keys(readings[0]!.knots)).toEqual(['digital', 'current', 'volts', 'counts', 'controller'])
  })
  it('refuses a level the tank cannot have, and a loop that is not finished', async () => {
    expect((await ailsa.call('moveProcess', { loopId: await idOf('LT-112') }, { wanted: 99_999 })).problem.code).toBe(
      'outside-process',
    )
    await ailsa.connectBench(await idOf('LT-133'))
    expect((await ailsa.call('link', { loopId: await idOf('LT-133') })).problem.code).toBe('loop-incomplete')
  })
  it('hides a slightly wrong zero, the same for a loop each time', () => {
    for (const id of ['a', 'b', 'c', 'd']) {
      const { sensorZeroPct } = hiddenFaults(id)
      expect(Math.abs(sensorZeroPct)).toBeGreaterThan(0.05)
      expect(Math.abs(sensorZeroPct)).toBeLessThan(0.3)
      expect(hiddenFaults(id)).toEqual(hiddenFaults(id))
    }
  })
})

it('tells other pages of a change as it happens', async () => {
  const loopId = await idOf('LT-133')
  const rona = await server.as('rona')
  const { versions } = (await ailsa.call('folder', { loopId })).body as {
    versions: { id: string; entries: object; revision: number }[]
  }
  const versionId = uuid()
  const events = await listen(
    `/api/loops/${loopId}/events`,
    (all) => all.length > 0,
    async () => {
      await new Promise((r) => setTimeout(r, 200))
      await rona.call(
        'saveVersion',
        { loopId, versionId },
        {
          parentId: versions.at(-1)!.id,
          parentRevision: versions.at(-1)!.revision,
          revision: 0,
          entries: { ...versions.at(-1)!.entries, tell: { typed: 'Brine operator' } },
          reason: '',
          seal: false,
        },
      )
    },
  )
  expect(events[0]).toMatchObject({
    event: 'change',
    data: { loopId, what: 'version', id: versionId, by: 'Rona Teague' },
  })
})
