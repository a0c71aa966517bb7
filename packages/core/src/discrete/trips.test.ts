import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  bandTooSmall,
  chattering,
  contactCloses,
  runsWhen,
  startTrips,
  stepTrips,
  TRIP_KINDS,
  tripAfter,
  tripPoint,
  turnedRound,
  type RelayUse,
  type TripScene,
} from './index.ts'

const show = (v: number) => `${v} m`
const readings = fc.array(fc.double({ min: -50, max: 150, noNaN: true }), { maxLength: 60 })

describe('a trip', () => {
  it('changes only where it may', () => {
    fc.assert(
      fc.property(fc.constantFrom(...TRIP_KINDS), readings, (kind, list) => {
        const { states } = tripPoint({ kind, set: 20, band: 10, readings: list })
        states.forEach((on, i) => {
          const r = list[i]!
          if (kind === 'inside') expect(on).toBe(r >= 20 && r <= 30)
          else if (kind === 'outside') expect(on).toBe(r < 20 || r > 30)
          else if (on !== (states[i - 1] ?? false)) expect(on === (kind === 'near') ? r <= 20 : r >= 30).toBe(true)
        })
      }),
    )
  })
  it('is turned round by the opposite trip on the other contact: the same but for a loss of power', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...TRIP_KINDS),
        fc.constantFrom('NO' as const, 'NC' as const),
        readings,
        (kind, contact, list) => {
          const use: RelayUse = { kind, set: 20, band: 10, contact }
          const other = turnedRound(use)
          let [a, b] = [false, true]
          // Both begin below the set point, where either kind knows its state.
          for (const r of [10, ...list]) {
            a = tripAfter(use, a, r)
            b = tripAfter(other, b, r)
            expect(contactCloses(other.contact, b)).toBe(contactCloses(use.contact, a))
          }
          expect(contactCloses(other.contact, false)).toBe(!contactCloses(use.contact, false))
        },
      ),
    )
  })
})

describe('the fail-safe question', () => {
  const rows = (use: RelayUse, lost?: number) =>
    Object.fromEntries(runsWhen(use, lost, show).map((r) => [r.when, r.runs]))
  it('a pump that empties runs when high, and stands without power on NO', () =>
    expect(rows({ kind: 'far', set: 1, band: 0.5, contact: 'NO' }, 0)).toEqual({
      low: false,
      'band-rising': false,
      'band-falling': true,
      high: true,
      'power-lost': false,
      'sensor-lost': false,
    }))
  it('turned round, the same pump runs without power', () =>
    expect(rows(turnedRound({ kind: 'far', set: 1, band: 0.5, contact: 'NO' }))).toMatchObject({
      low: false,
      high: true,
      'power-lost': true,
      'sensor-lost': null,
    }))
})

describe('what a controller is set to do on a loss', () => {
  const pump: RelayUse = { kind: 'far', set: 1, band: 0.5, contact: 'NO' }
  const of = (use: RelayUse) => Object.fromEntries(runsWhen(use, 2, show).map((r) => [r.when, r.runs]))
  it('counts before the value that a lost sensor leaves', () => {
    expect(of(pump)['sensor-lost']).toBe(true)
    expect(of({ ...pump, onSensor: 'dropped' })['sensor-lost']).toBe(false)
    expect(of({ ...pump, onSensor: 'holds' })['sensor-lost']).toBe(null)
    expect(of(pump)).not.toHaveProperty('echo-lost')
    expect(of({ ...pump, onEcho: 'energised' })['echo-lost']).toBe(true)
    expect(of({ ...pump, latching: true })['power-lost']).toBe(null)
  })
  it.each(['energised', 'dropped'] as const)('keeps what runs when the relay is turned round and it is %s', (set) => {
    const use: RelayUse = { ...pump, onSensor: set, onEcho: set }
    for (const when of ['sensor-lost', 'echo-lost']) expect(of(turnedRound(use))[when]).toBe(of(use)[when])
  })
  it('is what the simulation does', () => {
    const scene = (more: Partial<RelayUse>): TripScene => ({
      ...{ drift: 0, least: 0, most: 3, noise: 0, lostAt: 0 },
      relays: [{ ...pump, effect: 0, ...more }],
    })
    const after = (more: Partial<RelayUse>, lost: 'sensor' | 'echo' | 'power') => {
      const begun = startTrips(scene(more), 2, 7)
      expect(begun.energised).toEqual([true])
      return stepTrips(scene(more), { ...begun, [lost]: false }, 0.1).energised[0]
    }
    expect(after({}, 'sensor')).toBe(false)
    expect(after({ onSensor: 'energised' }, 'sensor')).toBe(true)
    expect(after({ onSensor: 'holds' }, 'sensor')).toBe(true)
    expect(after({ onSensor: 'dropped' }, 'sensor')).toBe(false)
    // Without an echo the last reading stands, unless the controller is set otherwise.
    expect(after({}, 'echo')).toBe(true)
    expect(after({ onEcho: 'dropped' }, 'echo')).toBe(false)
    expect(after({}, 'power')).toBe(false)
    expect(after({ latching: true }, 'power')).toBe(true)
  })
})

describe('the simulation', () => {
  const staging: TripScene = {
    relays: [
      { kind: 'far', set: 0.8, band: 0.6, contact: 'NO', effect: -0.03 },
      { kind: 'far', set: 1.2, band: 0.5, contact: 'NO', effect: -0.03 },
    ],
    drift: 0.04,
    least: 0,
    most: 2,
    noise: 0.01,
  }
  const run = (scene: TripScene, seconds: number, from = 0.5) => {
    const states = [startTrips(scene, from, 7)]
    for (let i = 0; i < seconds * 10; i++) states.push(stepTrips(scene, states.at(-1)!, 0.1))
    return states
  }
  it('stages two pumps: the second helps only while the first cannot cope', () => {
    const states = run(staging, 600)
    expect(states.some((s) => s.runs[0] && !s.runs[1])).toBe(true)
    expect(states.some((s) => s.runs[0] && s.runs[1])).toBe(true)
    expect(states.every((s) => s.value < 1.75)).toBe(true)
    expect(states.some((s) => chattering(s).some(Boolean))).toBe(false)
  })
  it('drives a thing to and fro with two trips of the same numbers and opposite types', () => {
    const states = run(
      {
        relays: [
          { kind: 'near', set: 20, band: 60, contact: 'NO', effect: 10 },
          { kind: 'far', set: 20, band: 60, contact: 'NO', effect: -10 },
        ],
        drift: 0,
        least: 0,
        most: 100,
        noise: 0,
      },
      60,
      10,
    )
    const turns = states.filter((s, i) => i > 0 && s.runs[0] !== states[i - 1]!.runs[0]).length
    expect(turns).toBeGreaterThan(5)
    expect(Math.min(...states.slice(100).map((s) => s.value))).toBeGreaterThan(18)
    expect(Math.max(...states.map((s) => s.value))).toBeLessThan(82)
  })
  it('chatters when the band is smaller than the noise, and does not when it is not', () => {
    const scene = (band: number): TripScene => ({
      relays: [{ kind: 'far', set: 1, band, contact: 'NO', effect: 0 }],
      drift: 0,
      least: 0,
      most: 2,
      noise: 0.1,
    })
    expect(run(scene(0.005), 60, 1).some((s) => chattering(s)[0])).toBe(true)
    expect(run(scene(0.2), 60, 1.1).some((s) => chattering(s)[0])).toBe(false)
    expect([bandTooSmall(0.005, 0.1), bandTooSmall(0.2, 0.1), bandTooSmall(0, 0)]).toEqual([true, false, false])
  })
  it('drops every relay without power and replays the same', () => {
    const on = run(staging, 60).at(-1)!
    const off = stepTrips(staging, { ...on, power: false }, 0.1)
    expect(off.energised).toEqual([false, false])
    expect(run(staging, 60).at(-1)).toEqual(on)
  })
})
