// The recorder and the guided work need nothing of a device but the driver's interface: a driver that is no simulation
// shows it.
import type { LiveReading } from '@calm-loop/contract'
import type { Machine } from '@calm-loop/core/device'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Driver, Listener } from '../src/link/driver.ts'
import { recorderOf } from '../src/link/recorder.ts'
import { runStandIn } from '../src/link/stand-in.ts'

const READING = { t_s: 0, reference: 1, wanted: 1, moving: false, knots: { digital: 1 } } satisfies LiveReading

/** A real device's driver, as far as those who use it can tell. */
function wire() {
  const listeners = new Set<Listener>()
  const driver: Driver = {
    description: { driver: 'stand-in', family: 'current', unit: 'mm', lowest: 0, highest: 1 },
    units: { digital: 'mm' },
    ready: () => Promise.resolve(),
    patience_ms: 100,
    witnesses: new Set(['digital']),
    read: () => Promise.resolve({ log: [] }),
    command: () => Promise.resolve({ taken: false, says: 'This device takes nothing.' }),
    subscribe(listener) {
      listeners.add(listener)
      return () => void listeners.delete(listener)
    },
    latest: () => READING,
    close: () => undefined,
  }
  return { driver, tell: (say: (to: Listener) => void) => listeners.forEach(say) }
}

describe('a recorder', () => {
  const point = (t_s: number, digital: number | null = 50) => ({ t_s, digital, current: 40, electrode: null })
  it('keeps each witness that shows something, about a minute long', () => {
    const { driver, tell } = wire()
    const { samples } = recorderOf(driver)
    for (let t = 0; t <= 200; t += 0.5) tell((to) => to.trend?.(point(t, t < 100 ? null : t)))
    expect(samples('electrode')).toEqual([])
    expect(samples('digital').at(-1)).toEqual({ t_s: 200, value: 200 })
    const length_s = 200 - samples('current')[0]!.t_s
    expect(length_s).toBeGreaterThanOrEqual(70)
    expect(length_s).toBeLessThanOrEqual(80)
  })
  it('forgets what was shown before the device worked by something else', () => {
    const { driver, tell } = wire()
    const { samples } = recorderOf(driver)
    tell((to) => to.trend?.(point(1)))
    tell((to) => to.changed?.())
    expect(samples('digital')).toEqual([])
    tell((to) => to.trend?.(point(2)))
    expect(samples('digital')).toHaveLength(1)
  })
})

/** A machine that counts its time and forgets when it is told to. */
const clockwork: Machine<{ t_s: number; since: number; kept: string }> = {
  family: 'current',
  start: { t_s: 0, since: 0, kept: '' },
  longestStep_s: 0.25,
  units: {},
  process: { unit: 'mm', lowest: 0, highest: 1 },
  step: (s, dt_s) => ({ ...s, t_s: s.t_s + dt_s }),
  command: (s, command) => ({
    state: { ...s, since: s.t_s, kept: command.do },
    taken: true,
    says: '',
    arrives: command.do !== 'store',
  }),
  act: (s) => ({ ...s, kept: 'act' }),
  readings: (s) => ({ ...READING, t_s: s.t_s }),
  trendPoint: (s) => ({ t_s: s.t_s, digital: 0, current: null, electrode: null }),
  since_s: (s) => s.since,
  edges: () => [],
  held: () => undefined,
  log: () => [],
  meterHeld: () => undefined,
  practice: () => ({}),
  processAt: () => 0.5,
  kept: (s) => s.kept,
}

describe('the driver of a simulated device', () => {
  afterEach(() => void vi.useRealTimers())
  const start = (pace = 1) => {
    vi.useFakeTimers()
    const kept: unknown[] = []
    const { driver, bench } = runStandIn(clockwork, { pace, keep: async (k) => void kept.push(k) })
    return { driver, bench, kept }
  }
  it('goes on by the clock, as many times faster as it is told, and tells it', async () => {
    const { driver } = start(3)
    const told: number[] = []
    driver.subscribe({ reading: (r) => told.push(r.t_s) })
    await vi.advanceTimersByTimeAsync(2000)
    expect(driver.latest().t_s).toBeCloseTo(6, 1)
    expect(told.length).toBeGreaterThan(8)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
    driver.close()
  })
  it('keeps what outlasts a restart, and tells that the device works by something else', async () => {
    const { driver, bench, kept } = start()
    let changes = 0
    driver.subscribe({ changed: () => changes++ })
    await vi.advanceTimersByTimeAsync(500)
    const answer = driver.command({ do: 'release' })
    await vi.advanceTimersByTimeAsync(200)
    expect(await answer).toEqual({ taken: true, says: '' })
    await bench.act({ do: 'keep' })
    expect({ changes, kept }).toEqual({ changes: 1, kept: ['release', 'act'] })
    driver.close()
  })
  it('never settles when the answer gets lost, though the device has taken the command', async () => {
    const { driver, kept } = start()
    let settled = false
    void driver.command({ do: 'store' }).then(() => (settled = true))
    await vi.advanceTimersByTimeAsync(60_000)
    expect({ settled, kept }).toEqual({ settled: false, kept: ['store'] })
    driver.close()
  })
  it('tells its listeners when it ends, once, and nothing after', async () => {
    const { driver } = start()
    const heard: string[] = []
    driver.subscribe({ reading: () => heard.push('reading'), closed: () => heard.push('closed') })
    const stop = driver.subscribe({ closed: () => heard.push('left before') })
    stop()
    driver.close()
    await vi.advanceTimersByTimeAsync(1000)
    expect(heard).toEqual(['reading', 'closed'])
  })
})
