import { runsOf } from '@calm-loop/contract'
import { toUndo } from '@calm-loop/core/procedure'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { at, technicianAt } from './guided.ts'
import { listenTo, startServer } from './harness.ts'

// The bench goes on eight times as fast as a clock: what is tested is that it is waited for.
const server = await startServer({ benchPace: 8 })
const ailsa = await server.as('ailsa')
const second = await server.as('ailsa')
const magnus = await server.as('magnus')
// A short window: what is tested is that it is waited for, not how long.
const limits = { adjustAbovePct: 70, plausiblePct: 3, window_s: 2, driftPct: 0.1, noisePct: 0.07 }
await magnus.call('saveTrimLimits', {}, limits)
const { idOf, folder, bench, view, act, stateOf, live, point, found, passOne, runTo, begin, putBack, applied } =
  technicianAt(server, ailsa)
afterAll(() => server.stop())

describe('a zero trim at PDT-118, whose mounting has shifted its zero', () => {
  let loopId: string
  let runId: string
  beforeAll(async () => {
    loopId = await idOf('PDT-118')
    await found(loopId, 'mbar', ['0'])
    ;({ runId } = await begin(loopId, 'zero-trim'))
  })
  it('is found with the shift that the demo planted', async () => {
    expect((await view(loopId)).practice).toBe('mounting-shift')
    const { knots } = await live(loopId)
    expect(knots['digital']! / 6).toBeGreaterThan(0.8)
  })
  it('lets no second procedure begin beside it', async () => {
    expect((await begin(loopId, 'current-trim')).answer.problem.code).toBe('run-open')
  })
  it('passes a gate once, however many ask at the same moment', async () => {
    const both = await Promise.all(
      [ailsa, second].map((who) => act(loopId, runId, { do: 'pass', step: 'told', words: 'Rolf' }, who)),
    )
    expect(both.map((b) => b.status).sort()).toEqual([200, 422])
    expect(both.find((b) => b.status === 422)!.problem.code).toBe('step-out-of-order')
  })
  it('takes the same event twice as one', async () => {
    const eventId = uuid()
    const body = { do: 'pass', step: 'manual' }
    const [a, b] = [await act(loopId, runId, body, ailsa, eventId), await act(loopId, runId, body, ailsa, eventId)]
    expect([a.status, b.status]).toEqual([200, 200])
    expect(b.body).toEqual(a.body)
  })
  it('is seen by the other tablet within a second', async () => {
    const began = Date.now()
    const events = await listenTo(
      server,
      second,
      `/api/loops/${loopId}/events`,
      (e) => e.length > 0,
      () => passOne(loopId, runId),
    )
    expect(events.length).toBeGreaterThan(0)
    expect(Date.now() - began).toBeLessThan(1000)
  })
  it('refuses a write before its gates, the wrong valve, and a reviewer’s hand', async () => {
    expect((await act(loopId, runId, { do: 'send', step: 'write' })).problem.code).toMatch(
      /step-out-of-order|wrong-event/,
    )
    await runTo(loopId, runId, at('out-1-low'))
    const wrong = await act(loopId, runId, { do: 'valve', step: 'out-1-low', move: { valve: 'equalize', to: 'open' } })
    expect(wrong.problem).toMatchObject({ code: 'manifold-danger' })
    expect((await act(loopId, runId, { do: 'pass', step: 'out-1-low' }, magnus)).status).toBe(403)
  })
  it('is led to its end, and the device then reads true', async () => {
    const state = await runTo(loopId, runId, () => false)
    expect(state.status).toBe('done')
    expect(state.world.device).toBe('stored')
    expect(Math.abs(state.values['zero-found']!)).toBeGreaterThan(4)
    expect(Math.abs(state.values['zero-left']!)).toBeLessThan(1)
    expect((await view(loopId)).log.map((l) => l.what).join()).toContain('Zero trim: offset')
    expect((await live(loopId)).transmitter).toMatchObject({
      bench: null,
      manifold: { high: 'open', low: 'open', equalize: 'shut' },
    })
  })
})

describe('a current trim at TT-405, whose output errs', () => {
  it('is refused while as found is missing, then mends the current at both ends', async () => {
    const loopId = await idOf('TT-405')
    const { runId } = await begin(loopId, 'current-trim')
    await runTo(loopId, runId, at('as-found'))
    expect((await passOne(loopId, runId)).problem.code).toBe('as-found-missing')
    const set = uuid()
    for (const v of ['0', '150']) expect((await point(loopId, v, 'degC', v, set)).status).toBe(200)
    expect((await point(loopId, '2000', 'degC', '150', set)).problem.code).toBe('outside-sensor')
    const state = await runTo(loopId, runId, () => false)
    expect(state.status).toBe('done')
    expect(state.values['meter-4']! - 4).toBeGreaterThan(0.08)
    for (const mA of [4, 20]) expect(Math.abs(state.values[`verify-${mA}`]! - mA)).toBeLessThan(0.01)
    expect((await live(loopId)).transmitter!.fixed_mA).toBeNull()
  })
})

describe('faults on the link', () => {
  let loopId: string
  beforeAll(async () => {
    loopId = await idOf('PDT-118')
  })
  const upTo = async (practice: string, step: string) => {
    expect((await bench(loopId, { do: 'practice', case: practice })).status).toBe(200)
    await found(loopId, 'mbar', ['0'])
    const { runId, answer } = await begin(loopId, 'zero-trim')
    expect(answer.status).toBe(200)
    await runTo(loopId, runId, at(step))
    return runId
  }
  it.each([
    ['answer-lost', 'read-back', 'changed'],
    ['command-lost', 'write', 'untouched'],
  ] as const)(
    '%s between write and read-back: unknown until the device is read',
    async (practice, goesTo, device) => {
      const runId = await upTo(practice, 'write')
      expect((await act(loopId, runId, { do: 'send', step: 'write' })).status).toBe(200)
      const unknown = await stateOf(loopId, runId)
      expect(unknown.pending).toBeDefined()
      expect((await act(loopId, runId, { do: 'send', step: 'write' })).problem).toMatchObject({ code: 'unknown-held' })
      expect((await act(loopId, runId, { do: 'read', step: 'read-back' })).status).toBe(200)
      const known = await stateOf(loopId, runId)
      expect([known.steps[known.at]!.id, known.world.device]).toEqual([goesTo, device])
      expect((await putBack(loopId, runId)).status).toBe('ended')
    },
    60_000,
  )
  it('a device that is write-protected refuses, and takes it once it is not', async () => {
    const runId = await upTo('protected', 'write')
    await act(loopId, runId, { do: 'send', step: 'write' })
    const refused = await stateOf(loopId, runId)
    expect([refused.steps[refused.at]!.id, refused.note]).toEqual(['write', expect.stringContaining('write-protected')])
    await bench(loopId, { do: 'protect', on: false })
    await act(loopId, runId, { do: 'send', step: 'write' })
    expect((await stateOf(loopId, runId)).steps[(await stateOf(loopId, runId)).at]!.id).toBe('read-back')
    await putBack(loopId, runId)
  })
  it('a leaking equalizing valve never lets the zero settle', async () => {
    const runId = await upTo('leaking-valve', 'stable')
    for (let i = 0; i < 24; i++) {
      const answer = await act(loopId, runId, { do: 'pass', step: 'stable' })
      expect(answer.problem.code).toBe('not-steady')
      await new Promise((resolve) => setTimeout(resolve, 250))
    }
    await putBack(loopId, runId)
  })
  it('a device that forgets loses its trim to a power failure unless it was stored', async () => {
    const runId = await upTo('forgets', 'store')
    expect((await view(loopId)).held.stored).toBe(false)
    const before = (await live(loopId)).knots['digital']!
    await bench(loopId, { do: 'power-cycle' })
    await new Promise((resolve) => setTimeout(resolve, 1500))
    expect(Math.abs((await live(loopId)).knots['digital']!)).toBeGreaterThan(Math.abs(before) + 2)
    const cancelled = await act(loopId, runId, { do: 'cancel', reason: 'lost its trim' })
    expect(cancelled.status).toBe(200)
    expect(toUndo(await stateOf(loopId, runId)).map((u) => u.id)).toContain('device-changed')
  })
})

describe('pH at AT-221, whose electrode is worn', () => {
  it('is calibrated in two buffers that the bench holds ready', async () => {
    const loopId = await idOf('AT-221')
    expect((await view(loopId)).practice).toBe('worn-electrode')
    await point(loopId, '7', 'pH', '7.4')
    expect((await begin(loopId, 'ph-calibration', { buffers: ['4.00', '4.00'] })).answer.problem.code).toBe(
      'same-buffer',
    )
    const { runId } = await begin(loopId, 'ph-calibration', { buffers: ['4.00', '7.00'] })
    const state = await runTo(
      loopId,
      runId,
      () => false,
      (value) => bench(loopId, { do: 'apply', value }),
    )
    expect(state.status).toBe('done')
    expect(state.values['slopePercent']).toBeCloseTo(91.5, 0)
    expect((await view(loopId)).held.slope_mVperPh).toBeCloseTo(-0.915 * 59.16, 0)
  })
})

describe('the other procedures, each led to its end against the bench', () => {
  it('lower and upper sensor trim, through the manifold with the hand pump', async () => {
    const loopId = await idOf('PDT-118')
    // What an earlier test left open is broken off first.
    const open = runsOf((await folder(loopId)).workLog).at(-1)!.run
    for (let i = 0; i < 30 && (await stateOf(loopId, open)).status === 'cancelled'; i++) {
      const state = await stateOf(loopId, open)
      const first = toUndo(state)[0]!
      if (first.kind === 'valve') await act(loopId, open, { do: 'valve', step: first.id, move: first.move })
      else await act(loopId, open, { do: 'undone', undo: first.id, words: 'done' })
    }
    await bench(loopId, { do: 'practice', case: 'sensor-span' })
    await found(loopId, 'mbar', ['0', '600'])
    const { runId, answer } = await begin(loopId, 'sensor-trim')
    expect(answer.status).toBe(200)
    const state = await runTo(loopId, runId, () => false, applied(loopId))
    expect(state.status).toBe('done')
    expect(Math.abs(state.values['found-upper']! - 600)).toBeGreaterThan(4)
    expect(Math.abs(state.values['left-upper']! - 600)).toBeLessThan(1.5)
  })
  it('forced-current check: seven currents, and the transmitter measures again', async () => {
    const loopId = await idOf('TT-405')
    const { runId } = await begin(loopId, 'forced-current')
    const state = await runTo(loopId, runId, () => false)
    expect(state.status).toBe('done')
    for (const [id, mA] of [
      ['4', 4],
      ['12', 12],
      ['20', 20],
      ['fault-low', 3.5],
      ['fault-high', 21.5],
    ] as const)
      expect(Math.abs(state.values[`meter-${id}`]! - mA)).toBeLessThan(0.15)
    expect((await live(loopId)).transmitter!.fixed_mA).toBeNull()
    expect(state.world.device).toBe('untouched')
  })
  it('range change and receiver re-scale, each read back', async () => {
    const loopId = await idOf('LY-133')
    const left = runsOf((await folder(loopId)).workLog).at(-1)
    if (left) await act(loopId, left.run, { do: 'cancel', reason: 'test over' })
    await found(loopId, 'm', ['0', '2'])
    const ranged = await begin(loopId, 'range-change', { high: '2500 mm' })
    expect((await runTo(loopId, ranged.runId, () => false)).status).toBe('done')
    const scaled = await begin(loopId, 'receiver-scale', { high: '2.2 m' })
    expect((await runTo(loopId, scaled.runId, () => false)).status).toBe('done')
    expect((await view(loopId)).held).toMatchObject({ urv: 2.5, receiverHigh: 2.2, stored: true })
    expect((await begin(loopId, 'range-change', { high: '0 m' })).answer.status).toBe(200)
  })
  it('flow zero: the meter averages its zero at no flow', async () => {
    const loopId = await idOf('FT-210')
    await found(loopId, 'kg/h', ['0', '9000'])
    const { runId, answer } = await begin(loopId, 'flow-zero')
    expect(answer.status).toBe(200)
    const state = await runTo(loopId, runId, () => false)
    expect(state.status).toBe('done')
    expect(Math.abs(state.values['zero-left']!)).toBeLessThan(45)
    // The process came back only after the average was taken, not in the middle of it.
    const after = await live(loopId)
    expect(after.transmitter!.bench).toBeNull()
    expect(after.meter!.zeroed).toBeDefined()
    expect(after.meter!.phase).toBe('running')
  })
})

describe('the site’s limits', () => {
  it('are set by a reviewer and stand in the next run', async () => {
    const limits = { adjustAbovePct: 50, plausiblePct: 1.5, window_s: 3, driftPct: 0.1, noisePct: 0.07 }
    expect((await ailsa.call('saveTrimLimits', {}, limits)).status).toBe(403)
    expect((await magnus.call('saveTrimLimits', {}, { ...limits, plausiblePct: 0 })).status).toBe(400)
    expect((await magnus.call('saveTrimLimits', {}, limits)).body).toEqual(limits)
    const loopId = await idOf('LT-205')
    const { runId, answer } = await begin(loopId, 'receiver-scale')
    expect(answer.status).toBe(200)
    expect((await stateOf(loopId, runId)).terms).toMatchObject({ plausiblePct: 1.5, stability: { window_s: 3 } })
  })
})

it('sends twenty samples a second to a trend', async () => {
  const loopId = await idOf('TT-405')
  const events = await listenTo(
    server,
    ailsa,
    `/api/loops/${loopId}/link/stream?trend=1`,
    (all) => all.filter((e) => e.event === 'trend').length >= 40,
  )
  const times = events.filter((e) => e.event === 'trend').map((e) => (e.data as { t_s: number }).t_s)
  expect((times.at(-1)! - times[0]!) / (times.length - 1)).toBeLessThan(0.07)
})
