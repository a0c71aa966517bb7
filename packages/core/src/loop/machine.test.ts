// Every kind's simulated device as a step function: same seed, same story; what it is told stays apart from what
// happens around it.
import { describe, expect, it } from 'vitest'
import type { Machine, PracticeAct } from '../device/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { kindOf, KINDS } from '../kinds/index.ts'
import { machineOf, study } from './index.ts'

const AT = '2026-11-27T10:00:00.000Z'
const machineFor = (id: string, seed = 'one', changed: Record<string, string> = {}, practice?: string) =>
  machineOf(study(kindOf(id), demoEntries(id, changed)), { name: `loop of ${id}`, seed, practice })
/** The machine some seconds later, in steps of 50 ms. */
function later(machine: Machine<unknown>, state: unknown, seconds: number): unknown {
  for (let t = 0; t < seconds; t += 0.05) state = machine.step(state, 0.05)
  return state
}
const middleOf = ({ process: { lowest, highest } }: Machine<unknown>) => lowest + 0.4 * (highest - lowest)

describe.each(KINDS.map((k) => k.id))('the machine of %s', (id) => {
  it('replays: same seed, same acts, same readings; and no state is written into', () => {
    const story = (seed: string) => {
      const machine = machineFor(id, seed)
      const begun = machine.act(Object.freeze(machine.start), { do: 'move', wanted: middleOf(machine) }, AT)
      const state = later(machine, Object.freeze(begun), 8)
      return { state, readings: machine.readings(state) }
    }
    expect(story('one')).toEqual(story('one'))
    expect(story('two')).not.toEqual(story('one'))
  })
  it('shows figures with a unit at every knot, before and after it is moved', () => {
    const machine = machineFor(id)
    let state = machine.start
    for (const wanted of [machine.process.lowest, middleOf(machine), machine.process.highest]) {
      state = later(machine, machine.act(state, { do: 'move', wanted }, AT), 15)
      const { knots, reference } = machine.readings(state)
      expect(Number.isFinite(reference)).toBe(true)
      for (const [knot, value] of Object.entries(knots)) {
        expect(Number.isFinite(value), knot).toBe(true)
        expect(machine.units[knot], knot).toBeTypeOf('string')
      }
    }
  })
  it('refuses a place that the process cannot have', () => {
    const machine = machineFor(id)
    const beyond: PracticeAct = { do: 'move', wanted: machine.process.highest * 2 + 1e6 }
    expect(() => machine.act(machine.start, beyond, AT)).toThrowError(
      expect.objectContaining({ code: 'outside-process' }),
    )
  })
})

describe('a transmitter', () => {
  const machine = machineFor('level-from-above')
  it('does not mix what it is told with what happens around it', () => {
    const driven = machine.command(machine.start, { do: 'drive', mA: 12 }, AT)
    expect(driven).toMatchObject({ taken: true, arrives: true })
    expect(machine.readings(driven.state).knots['current']).toBeCloseTo(12, 1)
    expect(machine.held(driven.state)!.fixed_mA).toBe(12)
    // The process goes on beneath.
    const moved = later(machine, machine.act(driven.state, { do: 'move', wanted: 1500 }, AT), 60)
    expect(machine.readings(moved).knots['current']).toBeCloseTo(12, 1)
    expect(machine.readings(moved).reference).toBeGreaterThan(1400)
    expect(machine.held(machine.start)!.fixed_mA).toBeNull()
  })
  it('forgets how steady it was when it works by something else, and not when it is asked', () => {
    const quiet = later(machine, machine.start, 3)
    const trimmed = machine.command(quiet, { do: 'zero-trim' }, AT).state
    expect(machine.since_s(trimmed)).toBeGreaterThan(machine.since_s(quiet))
    expect(machine.since_s(machine.act(quiet, { do: 'protect', on: true }, AT))).toBe(machine.since_s(quiet))
  })
  it('refuses what a protected device refuses, and writes no log of it', () => {
    const shut = machine.act(machine.start, { do: 'protect', on: true }, AT)
    const answer = machine.command(shut, { do: 'set-range', lrv: 0, urv: 1 }, AT)
    expect(answer).toMatchObject({ taken: false, says: expect.stringContaining('write-protected') })
    expect(machine.log(answer.state)).toEqual(machine.log(machine.start))
  })
  it('has nothing applied at the bench while the process feeds it', () => {
    expect(() => machine.act(machine.start, { do: 'apply', value: 3 }, AT)).toThrowError(
      expect.objectContaining({ code: 'on-process' }),
    )
    const off = machine.act(machine.start, { do: 'feed', input: 'bench' }, AT)
    const fed = later(machine, machine.act(off, { do: 'apply', value: 1200 }, AT), 30)
    expect(machine.readings(fed)).toMatchObject({ reference: 1200, wanted: 1200, moving: false })
    expect(machine.readings(machine.act(fed, { do: 'feed', input: 'process' }, AT)).reference).not.toBe(1200)
  })
  it('begins with the practice case on record, unless it was told anything since', () => {
    const hidden = machineFor('level-from-above', 'one', {}, 'receiver-scale')
    expect(hidden.practice(hidden.start).transmitter).toMatchObject({
      case: 'receiver-scale',
      reveals: expect.stringContaining('Re-scale it'),
    })
    const known = study(kindOf('level-from-above'), demoEntries('level-from-above'))
    const kept = machine.kept(machine.start) as never
    const again = machineOf(known, { name: 'x', seed: 'x', kept, practice: 'receiver-scale' })
    expect(again.practice(again.start).transmitter!.case).toBe('as-it-is')
    expect(machineFor('level-from-above', 'one', {}, 'no such').practice(machine.start).transmitter!.case).toBe(
      'as-it-is',
    )
  })
})

describe('a meter', () => {
  const machine = machineFor('coriolis')
  const phase = (state: unknown) => machine.readings(state).meter!.phase
  it('shows nothing steady while it takes its zero, and its transmitter is not shifted', () => {
    let state = later(machine, machine.act(machine.start, { do: 'move', wanted: 0 }, AT), 60)
    expect(phase(state)).toBe('running')
    const answer = machine.command(state, { do: 'flow-zero' }, AT)
    expect(phase((state = answer.state))).toBe('zeroing')
    expect(machine.trendPoint(state)).toBeUndefined()
    expect(machine.since_s(later(machine, state, 3))).toBeGreaterThan(machine.since_s(state))
    state = later(machine, state, 8)
    expect(phase(state)).toBe('running')
    expect(machine.trendPoint(state)).toBeDefined()
    expect(machine.kept(state)).toMatchObject({ active: { sensorOffset: 0, sensorGain: 1 } })
  })
  it('is no meter where the kind has none', () => {
    const plain = machineFor('level-from-above')
    expect(plain.meterHeld(plain.start)).toBeUndefined()
    expect(() => plain.command(plain.start, { do: 'start' }, AT)).toThrowError(
      expect.objectContaining({ code: 'no-meter' }),
    )
  })
})

describe('a discrete point', () => {
  const machine = machineFor('discrete-sensor')
  it('tells each change once, with its own time, while its machine runs', () => {
    let state = machine.act(machine.start, { do: 'run', running: true }, AT)
    const seen = new Map<number, boolean>()
    for (let t = 0; t < 90; t += 0.01) {
      state = machine.step(state, 0.01)
      for (const edge of machine.edges(state)) seen.set(edge.t_s, edge.state)
    }
    const states = [...seen.values()]
    expect(states.length).toBeGreaterThan(4)
    states.forEach((s, i) => expect(s).toBe(i % 2 === 0 ? states[0] : !states[0]))
    expect(machine.edges(state).every((e) => e.t_s > machine.readings(state).t_s - 1.02)).toBe(true)
  })
  it('has no transmitter to be told anything', () => {
    expect(() => machine.command(machine.start, { do: 'store' }, AT)).toThrowError(
      expect.objectContaining({ code: 'no-transmitter' }),
    )
  })
})
