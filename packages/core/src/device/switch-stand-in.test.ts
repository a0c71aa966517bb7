import { describe, expect, it } from 'vitest'
import {
  moveTarget,
  observeSwitch,
  runMachine,
  startSwitchStandIn,
  stepSwitchStandIn,
  type SwitchStandInSetup,
  type SwitchStandInState,
} from './index.ts'

const setup: SwitchStandInSetup = {
  present: { sensorLamp: true, inputLamp: true, controller: false, signalV: 22 },
  absent: { sensorLamp: false, inputLamp: false, controller: true, signalV: 0.5 },
  operate_mm: 8,
  release_mm: 8.6,
  furthest_mm: 24,
  rate_mmps: 60,
  hand_mmps: 4,
  cycle_s: 2,
}
/** Every change of what it sees, with where the target was. */
function run(state: SwitchStandInState, seconds: number) {
  const turns: { sees: boolean; at_mm: number; t_s: number }[] = []
  let now = state
  for (let i = 0; i < seconds * 100; i++) {
    const next = stepSwitchStandIn(setup, now, 0.01)
    if (next.sees !== now.sees) turns.push({ sees: next.sees, at_mm: next.at_mm, t_s: next.t_s })
    now = next
  }
  return { now, turns }
}
const start = startSwitchStandIn(setup, 7)

describe('the stand-in of a discrete point', () => {
  it('turns on at its operate distance and off at its release distance, a little scattered', () => {
    const near = run(moveTarget(setup, start, 0), 8)
    const away = run(moveTarget(setup, near.now, 24), 8)
    expect([...near.turns, ...away.turns].map((t) => t.sees)).toEqual([true, false])
    expect(Math.abs(near.turns[0]!.at_mm - 8)).toBeLessThan(0.15)
    expect(Math.abs(away.turns[0]!.at_mm - 8.6)).toBeLessThan(0.15)
  })
  it('does not flicker while the target rests anywhere', () => {
    for (const at of [0, 7.99, 8.01, 8.3, 8.59, 8.61, 20])
      expect(run(run(moveTarget(setup, start, at), 12).now, 5).turns.length).toBeLessThanOrEqual(1)
  })
  it('shows the witnesses of the state it is in, and the signal wire with the meter’s own noise', () => {
    expect(observeSwitch(setup, start).knots).toMatchObject({ sensorLamp: 0, inputLamp: 0, controller: 1 })
    const there = observeSwitch(setup, run(moveTarget(setup, start, 0), 8).now)
    expect(there.knots).toMatchObject({ sensorLamp: 1, inputLamp: 1, controller: 0 })
    expect(there.knots['signal']).toBeCloseTo(22, 0)
    const dark = { ...setup, absent: { ...setup.absent, inputLamp: undefined } }
    expect(observeSwitch(dark, start).knots).not.toHaveProperty('inputLamp')
  })
  it('runs by itself about once in its cycle, stands when told, and replays', () => {
    const { turns, now } = run(runMachine(start, true), 40)
    const rises = turns.filter((t) => t.sees).length
    expect(Math.abs(rises - 20)).toBeLessThanOrEqual(3)
    expect(run(runMachine(now, false), 5).turns).toEqual([])
    expect(run(runMachine(start, true), 40).turns).toEqual(turns)
  })
  it('refuses a place the target cannot be brought to', () => {
    for (const at of [-1, 25, Number.NaN])
      expect(() => moveTarget(setup, start, at)).toThrowError(expect.objectContaining({ code: 'outside-process' }))
  })
})
