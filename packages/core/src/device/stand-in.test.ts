import { study } from '../loop/index.ts'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf } from '../kinds/index.ts'
import { moveProcess, normal, observeStandIn, seedFrom, startStandIn, stepStandIn, type StandInSetup } from './index.ts'

const kind = currentKindOf('level-from-above')
const entries = demoEntries('level-from-above')
const setup: StandInSetup = {
  thread: study(kind, entries).thread,
  faults: { sensorZeroPct: 0.2, sensorSpanPct: 0, outputZeroPct: 0 },
  noisePct: 0.02,
  damping_s: 2,
  process: study(kind, entries).process()!,
}
const run = (seconds: number, wanted: number, seed = 7) => {
  let state = moveProcess(setup, startStandIn(setup, 0, seed), wanted)
  for (let t = 0; t < seconds; t += 0.1) state = stepStandIn({ setup, state, dt_s: 0.1 })
  return state
}

describe('the stand-in', () => {
  it('replays: the same seed and steps give the same readings', () => {
    expect(observeStandIn(setup, run(20, 1500))).toEqual(observeStandIn(setup, run(20, 1500)))
    expect(observeStandIn(setup, run(20, 1500, 8))).not.toEqual(observeStandIn(setup, run(20, 1500)))
  })
  it('comes to rest near the wanted level, not on it', () => {
    const state = run(20, 1500)
    expect(state.process).not.toBe(1500)
    expect(Math.abs(state.process - 1500)).toBeLessThan(0.005 * 3200)
  })
  it('shows its wrong zero at the meter', () => {
    const o = observeStandIn(setup, run(40, 1500))
    const expected = 4 + (16 * o.reference) / 3000
    expect(((o.knots['current']! - expected) / 16) * 100).toBeCloseTo(0.2, 1)
  })
  it('lags by its damping', () => {
    const soon = observeStandIn(setup, run(3, 3000))
    const level = soon.knots['digital']!
    expect(level).toBeLessThan(soon.reference - 100)
  })
  it('holds its current at the limits of NAMUR NE 43', () => {
    expect(observeStandIn(setup, run(60, 3200)).knots['current']).toBeCloseTo(20.5, 2)
  })
  it('refuses a process that the tank cannot have', () => {
    expect(() => moveProcess(setup, startStandIn(setup, 0, 1), 9000)).toThrowError(
      expect.objectContaining({ code: 'outside-process' }),
    )
  })
})

it('makes normal numbers with the right mean and spread', () => {
  let seed = seedFrom('spread')
  const values = Array.from({ length: 20_000 }, () => {
    const [n, next] = normal(seed)
    seed = next
    return n
  })
  const mean = values.reduce((s, v) => s + v, 0) / values.length
  expect(mean).toBeCloseTo(0, 1)
  expect(Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length)).toBeCloseTo(1, 1)
})
