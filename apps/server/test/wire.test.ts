// Guided work over a line: the loop’s own device behind a gateway, whose figures go on record, and a stand-in of the
// bench, whose figures are practice.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { LinkState, LiveReading, LoopDevice, LoopPage, Port, TransmitterView } from '@calm-loop/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { standIn, stopAll, type Running } from '../../stand-in/test/processes.ts'
import { at, technicianAt } from './guided.ts'
import { good, listenTo, startServer, type TestServer, type Visitor } from './harness.ts'

let server: TestServer
let ailsa: Visitor
let magnus: Visitor
let pressure: Running
let simulated: Running
let guided: ReturnType<typeof technicianAt>
let loopId: string
let portId: string

beforeAll(async () => {
  ;[pressure, simulated] = await Promise.all([
    standIn('pressure', '--tcp', '0', '--tag', 'PDT-118'),
    standIn('pressure', '--tcp', '0', '--id', '4711'),
  ])
  const standIns = [{ name: 'bench', protocol: 'hart' as const, reached: simulated.reached, control: 0 }]
  server = await startServer({ standIns })
  ailsa = await server.as('ailsa')
  magnus = await server.as('magnus')
  good(
    await magnus.call(
      'saveTrimLimits',
      {},
      { adjustAbovePct: 70, plausiblePct: 3, window_s: 2, driftPct: 0.1, noisePct: 0.07 },
    ),
  )
  guided = technicianAt(server, ailsa)
  loopId = ((await ailsa.raw('GET', '/api/loops?q=PDT-118')).body as LoopPage).loops[0]!.id
  const rona = await server.as('rona')
  const gateway = {
    label: 'Rack',
    host: '127.0.0.1',
    port: Number(pressure.reached.split(':').at(-1)),
    protocol: 'hart',
  }
  good(await rona.call('addGateway', {}, gateway))
  portId = await portNamed('Rack')
})
afterAll(async () => {
  await server.stop()
  stopAll()
})

const portNamed = async (label: string) =>
  (good(await ailsa.call('ports')).body as Port[]).find((p) => p.label === label)!.id
const tie = (device: { portId: string; serial: string } | null, who = ailsa) =>
  who.call('tieDevice', { loopId }, { device })
async function serialAt(port: string): Promise<string> {
  const state = good(await ailsa.call('connectDevice', { portId: port }, { address: 0 })).body as {
    device: { serial: string }
  }
  return state.device.serial
}
async function heard(): Promise<LiveReading> {
  const [event] = await listenTo(server, ailsa, `/api/loops/${loopId}/link/stream`, (e) => e.length > 0)
  return event!.data
}
const begin = (procedure: string, choices: object = {}) => guided.begin(loopId, procedure, choices)
/** Whether what came on record of a run is practice. */
const isPractice = async (runId: string) =>
  (await guided.folder(loopId)).workLog.some((e) => e.what === 'procedure' && e.run === runId && e.practice)

describe('a device on a port', () => {
  it('is tied to a loop by who has it at hand, and only as it was seen', async () => {
    expect((await ailsa.call('link', { loopId })).problem.code).toBe('bench-not-connected')
    const serial = await serialAt(portId)
    expect((await tie({ portId, serial: '0000000000' })).problem.code).toBe('other-device')
    expect((await tie({ portId, serial }, magnus)).status).toBe(403)
    const [discrete] = ((await ailsa.raw('GET', '/api/loops?q=ZS-501')).body as LoopPage).loops
    const there = { device: { portId, serial } }
    expect((await ailsa.call('tieDevice', { loopId: discrete!.id }, there)).problem.code).toBe('no-transmitter')
    const { device } = good(await tie({ portId, serial })).body as { device: LoopDevice }
    expect(device).toMatchObject({ serial, port: 'Rack', simulated: false, by: { name: 'Ailsa Fenn' } })
    expect((await guided.folder(loopId)).device).toEqual(device)
    const another = ((await ailsa.raw('GET', '/api/loops?q=LT-205')).body as LoopPage).loops[0]!.id
    const twice = await ailsa.call('tieDevice', { loopId: another }, there)
    expect(twice.problem).toMatchObject({ code: 'other-device', detail: expect.stringContaining('PDT-118’s') })
  })
  it('tells its value in the unit of the plan, the current it believes in, and nothing it cannot know', async () => {
    await pressure.say('input 24 kPa')
    // The device tells what it measured last: the next reading is the new one.
    await expect.poll(async () => Math.abs((await heard()).knots['digital']! - 240) < 8).toBe(true)
    const reading = await heard()
    expect(Object.keys(reading.knots)).toEqual(['digital'])
    expect(reading.believes?.mA).toBeGreaterThan(4)
    expect(reading).not.toHaveProperty('reference')
    const view = good(await ailsa.call('transmitter', { loopId })).body as TransmitterView
    expect(view.held).toMatchObject({ lrv: 0, urv: 6000, fixed_mA: null, stored: true })
    expect((await ailsa.call('commandBench', { loopId }, { do: 'apply', value: 1 })).problem.code).toBe('no-bench')
  })
  it('that has fallen silent shows nothing: what it told last is not what it tells now', async () => {
    const knots: string[][] = []
    const stream = `/api/loops/${loopId}/link/stream`
    await listenTo(server, ailsa, stream, (events) => {
      knots.push(Object.keys((events.at(-1)?.data as unknown as LiveReading | undefined)?.knots ?? {}))
      if (knots.length === 1) void pressure.say('silent')
      return knots.length > 1 && !knots.at(-1)!.length
    })
    expect(knots[0]).toEqual(['digital'])
    await pressure.say('normal')
    await expect.poll(async () => Object.keys((await heard()).knots)).toEqual(['digital'])
  })
})

describe('guided work over the line', () => {
  it('writes the plan’s range through its gates, reads it back, and is record', async () => {
    await guided.found(loopId, 'mbar', ['0', '600'])
    const { runId, answer } = await begin('range-change', { low: '0 mbar', high: '600 mbar' })
    good(answer)
    expect((await guided.act(loopId, runId, { do: 'send', step: 'write' })).problem.code).toBe('step-out-of-order')
    const end = await guided.runTo(loopId, runId, () => false)
    expect(end.status).toBe('done')
    expect(end.held).toMatchObject({ lrv: 0, urv: 600 })
    expect(await isPractice(runId)).toBe(false)
  })
  it('takes the zero of the device, steady by its own samples; the meter is read by eye', async () => {
    await pressure.say('input 0.4 kPa')
    await guided.found(loopId, 'mbar', ['0'])
    const { runId, answer } = await begin('zero-trim')
    good(answer)
    const found = await guided.runTo(loopId, runId, at('plausible'))
    // What feeds it, and an error of its own sensor.
    expect(found.values['zero-found']).toBeGreaterThan(3)
    expect(found.values['zero-found']).toBeLessThan(9)
    const end = await guided.runTo(loopId, runId, () => false)
    expect(end.status).toBe('done')
    expect(Math.abs(end.values['zero-left']!)).toBeLessThan(0.3)
    const run = (await guided.folder(loopId)).workLog.filter((e) => e.what === 'procedure' && e.run === runId)
    const steadied = run.flatMap((e) => (e.what === 'procedure' && e.event.do === 'pass' ? [e.event.steady] : []))
    expect(steadied.some((s) => s && s.samples > 5)).toBe(true)
  })
  it('drives a current, waits for words where a meter is read, and lets it go again', async () => {
    const { runId } = await begin('forced-current')
    await guided.runTo(loopId, runId, at('stable-4'))
    expect(Number(await pressure.say('meter'))).toBeCloseTo(4, 1)
    const silent = await guided.act(loopId, runId, { do: 'pass', step: 'stable-4' })
    expect(silent.problem.code).toBe('words-missing')
    good(await guided.act(loopId, runId, { do: 'pass', step: 'stable-4', words: '4.00 mA for ten seconds' }))
    expect((await guided.putBack(loopId, runId)).status).toBe('ended')
    expect((await guided.view(loopId)).held.fixed_mA).toBe(null)
  })
  it('whose answer is lost is unknown until it is read back', async () => {
    await guided.found(loopId, 'mbar', ['0'])
    const { runId } = await begin('damping-change', { damping: '3 s' })
    await guided.runTo(loopId, runId, at('write'))
    await pressure.say('lose')
    good(await guided.act(loopId, runId, { do: 'send', step: 'write' }))
    expect((await guided.stateOf(loopId, runId)).pending).toMatchObject({ command: { do: 'damping', seconds: 3 } })
    expect((await guided.act(loopId, runId, { do: 'send', step: 'write' })).status).toBe(504)
    expect((await guided.act(loopId, runId, { do: 'read', step: 'write' })).problem.code).toBe('device-silent')
    await pressure.say('normal')
    good(await guided.act(loopId, runId, { do: 'read', step: 'write' }))
    expect((await guided.stateOf(loopId, runId)).held?.damping_s).toBe(3)
    expect((await guided.runTo(loopId, runId, () => false)).status).toBe('done')
  })
  it('is refused by a protected device, in its own words', async () => {
    await guided.found(loopId, 'mbar', ['0'])
    const { runId } = await begin('damping-change', { damping: '1 s' })
    await guided.runTo(loopId, runId, at('write'))
    await pressure.say('protect')
    good(await guided.act(loopId, runId, { do: 'send', step: 'write' }))
    expect((await guided.stateOf(loopId, runId)).note).toMatch(/write-protected/)
    await pressure.say('unprotect')
    expect((await guided.putBack(loopId, runId)).status).toBe('ended')
  })
  it('a health check says what the output does meanwhile, and what the device found', async () => {
    const { runId } = await begin('health-check')
    const state = await guided.runTo(loopId, runId, at('output'))
    expect((await guided.act(loopId, runId, { do: 'pass', step: 'output' })).problem.code).toBe('words-missing')
    expect(state.steps.map((s) => s.id)).toContain('self-test')
    const end = await guided.runTo(loopId, runId, () => false)
    expect(end.held?.health).toBe('')
  })
  it('what was read before is no file of what the device holds after', async () => {
    good(await ailsa.call('uploadDevice', { portId }, { anew: true }))
    const values = async () => (good(await ailsa.call('linkState', { portId })).body as LinkState).values
    await expect.poll(async () => (await values())['damping']).toBeTypeOf('number')
    await guided.found(loopId, 'mbar', ['0'])
    const { runId } = await begin('damping-change', { damping: '4 s' })
    await guided.runTo(loopId, runId, at('read-back'))
    expect(await values()).toEqual({})
    expect((await guided.runTo(loopId, runId, () => false)).held?.damping_s).toBe(4)
  })
  it('re-scales the receiver by hand: the device knows nothing of it', async () => {
    await guided.found(loopId, 'mbar', ['0'])
    const { runId } = await begin('receiver-scale')
    await guided.runTo(loopId, runId, at('scale-found'))
    const unread = await guided.act(loopId, runId, { do: 'read', step: 'scale-found' })
    expect(unread.problem.code).toBe('words-missing')
    expect((await guided.putBack(loopId, runId)).status).toBe('ended')
  })
  it('a port gone in the middle leaves the gate shut, and goes on when it is there again', async () => {
    await guided.found(loopId, 'mbar', ['0'])
    const { runId } = await begin('damping-change', { damping: '2 s' })
    await guided.runTo(loopId, runId, at('damping-found'))
    const told = listenTo(server, ailsa, `/api/loops/${loopId}/link/stream`, (events) =>
      events.some((e) => Object.keys((e.data as LiveReading).knots).length === 0),
    )
    await expect.poll(async () => (await heard()).knots['digital']).toBeTypeOf('number')
    good(await ailsa.call('leaveDevice', { portId }))
    // What it told last is not shown as what it tells now.
    await told
    await pressure.say('silent')
    const away = await guided.act(loopId, runId, { do: 'read', step: 'damping-found' })
    expect([away.status, away.problem.code]).toEqual([504, 'device-silent'])
    await pressure.say('normal')
    good(await guided.act(loopId, runId, { do: 'read', step: 'damping-found' }))
    expect((await guided.putBack(loopId, runId)).status).toBe('ended')
  })
})

describe('another device on the same port', () => {
  it('is never shown as the loop’s own, and is told nothing', async () => {
    const was = await standIn('pressure', '--tcp', '0', '--id', '100')
    const rona = await server.as('rona')
    good(await rona.call('addGateway', {}, { label: 'Swap', host: '127.0.0.1', port: was.port, protocol: 'hart' }))
    const port = await portNamed('Swap')
    const id = ((await ailsa.raw('GET', '/api/loops?q=PDT-118')).body as LoopPage).loops[0]!.id
    const before = (await guided.folder(id)).device!
    good(await tie({ portId: port, serial: await serialAt(port) }))
    await expect.poll(async () => (await heard()).knots['digital']).toBeTypeOf('number')
    const readings: LiveReading[] = []
    let swapped = false
    const listening = listenTo(server, ailsa, `/api/loops/${id}/link/stream`, (events) => {
      const last = events.at(-1)
      if (last) readings.push(last.data)
      return swapped
    })
    await was.stop()
    await standIn('pressure', '--tcp', String(was.port), '--id', '200')
    await expect
      .poll(async () => (await ailsa.call('connectDevice', { portId: port }, { address: 0 })).status)
      .toBe(200)
    const from = readings.length
    await new Promise((resolve) => setTimeout(resolve, 1500))
    expect(readings.slice(from).every((r) => Object.keys(r.knots).length === 0)).toBe(true)
    const { runId, answer } = await begin('forced-current')
    expect([answer.status, answer.problem?.code]).toEqual([504, 'device-silent'])
    expect((await guided.folder(id)).workLog.some((e) => e.what === 'procedure' && e.run === runId)).toBe(false)
    swapped = true
    good(await tie({ portId: before.portId, serial: await serialAt(before.portId) }))
    await listening
  })
})

describe('a pH transmitter over its line', () => {
  it('is calibrated in buffers by what its electrode gives, written as its description says', async () => {
    const ph = await standIn('ph', '--tcp', '0')
    const rona = await server.as('rona')
    const label = 'Shed'
    const at = { label, host: '127.0.0.1', port: ph.port, protocol: 'hart' }
    good(await rona.call('addGateway', {}, at))
    const port = await portNamed(label)
    const serial = await serialAt(port)
    const id = ((await ailsa.raw('GET', '/api/loops?q=AT-221')).body as LoopPage).loops[0]!.id
    good(await ailsa.call('tieDevice', { loopId: id }, { device: { portId: port, serial } }))
    await guided.found(id, 'pH', ['4', '7'])
    const buffers = { buffers: ['4.00', '7.00'] }
    const feed = (value: number) => ph.say(`input ${value} pH`)

    // Without its description nobody knows how it is written.
    const blind = await guided.begin(id, 'ph-calibration', buffers)
    good(blind.answer)
    await guided.runTo(id, blind.runId, (s) => s.steps[s.at]?.id === 'write', feed)
    good(await guided.act(id, blind.runId, { do: 'send', step: 'write' }))
    expect((await guided.stateOf(id, blind.runId)).note).toMatch(/Import it/)
    await guided.putBack(id, blind.runId)

    const file = JSON.parse(
      readFileSync(join(import.meta.dirname, '../../../demo/descriptions/ph.json'), 'utf8'),
    ) as object
    good(await ailsa.call('importDescription', {}, file))
    good(await ailsa.call('leaveDevice', { portId: port }))
    const { runId } = await guided.begin(id, 'ph-calibration', buffers)
    const end = await guided.runTo(id, runId, () => false, feed)
    expect(end.status).toBe('done')
    expect(end.held?.slope_mVperPh).toBeCloseTo(end.values['slope']!, 3)
    expect(end.held?.offset_mV).toBeCloseTo(end.values['offset']!, 3)
  })
})

describe('a port that is gone', () => {
  it('comes back by itself, with the same device and no other', async () => {
    const level = await standIn('level', '--tcp', '0')
    const rona = await server.as('rona')
    const at = { label: 'Yard', host: '127.0.0.1', port: level.port, protocol: 'hart' }
    good(await rona.call('addGateway', {}, at))
    const port = await portNamed('Yard')
    await serialAt(port)
    const seen: string[] = []
    const heard = listenTo(server, ailsa, `/api/ports/${port}/stream`, (events) => {
      const { doing, says } = events.at(-1)!.data as { doing: string; says: string }
      seen.push(`${doing} ${says}`)
      return seen.some((s) => s.startsWith('lost')) && doing === 'idle'
    })
    await level.stop()
    await expect.poll(() => seen.some((s) => s.includes('Tried again in 1 s'))).toBe(true)
    await standIn('level', '--tcp', String(level.port))
    await heard
    const state = good(await ailsa.call('linkState', { portId: port })).body as LinkState
    expect(state).toMatchObject({ doing: 'idle', device: { tag: 'LT-112' } })
  })
})

describe('a stand-in of the bench', () => {
  it('answers only while the bench is connected, and all that is done over it is practice', async () => {
    const port = await portNamed('bench')
    const { device } = good(await tie({ portId: port, serial: await serialAt(port) })).body as { device: LoopDevice }
    expect(device.simulated).toBe(true)
    expect((await ailsa.call('link', { loopId })).problem.code).toBe('bench-not-connected')
    await ailsa.connectBench(loopId)
    expect(good(await ailsa.call('link', { loopId })).body).toMatchObject({ driver: 'hart' })
    const { runId, answer } = await begin('health-check')
    good(answer)
    expect((await guided.runTo(loopId, runId, () => false)).status).toBe('done')
    expect(await isPractice(runId)).toBe(true)
  })
  it('goes into no record through a gateway at its own address', async () => {
    const rona = await server.as('rona')
    const same = {
      label: 'Plant',
      host: '127.0.0.1',
      port: Number(simulated.reached.split(':').at(-1)),
      protocol: 'hart',
    }
    for (const host of ['127.0.0.1', 'localhost', '127.1', '0.0.0.0'])
      expect((await rona.call('addGateway', {}, { ...same, host })).problem.code).toBe('simulated')
  })
  it('taken off the loop, the bench’s own simulated process answers again', async () => {
    good(await tie(null))
    expect((await guided.folder(loopId)).device).toBe(null)
    expect(good(await ailsa.call('link', { loopId })).body).toMatchObject({ driver: 'stand-in' })
  })
})
