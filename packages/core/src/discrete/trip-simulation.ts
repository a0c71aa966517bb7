// A moving value with relays on it, stepped by hand or by the clock: what each trip does before anything is wired.
import { normal, type RandomState } from '../device/random.ts'
import { afterLoss, contactCloses, type RelayUse } from './fail-safe.ts'
import { tripAfter } from './trip-point.ts'

export interface SimulatedRelay extends RelayUse {
  /** What the value does for each second that the driven thing runs, in the unit of the value. */
  readonly effect: number
}
export interface TripScene {
  readonly relays: readonly SimulatedRelay[]
  /** What the value does by itself, per second. */
  readonly drift: number
  /** Ends of the tank or the way: the value stands there. */
  readonly least: number
  readonly most: number
  /** Largest noise of the reading, peak to peak. */
  readonly noise: number
  /** What a lost sensor leaves standing; undefined keeps the last reading. */
  readonly lostAt?: number | undefined
}
export interface TripState {
  readonly t_s: number
  readonly value: number
  /** What the controller reads: the value with its noise, or what a lost sensor leaves. */
  readonly reading: number
  readonly trips: readonly boolean[]
  readonly energised: readonly boolean[]
  readonly runs: readonly boolean[]
  /** Changes of each relay in the last minute, as times. */
  readonly changes: readonly (readonly number[])[]
  readonly power: boolean
  readonly sensor: boolean
  /** The device hears its echo; without it the last reading stands. */
  readonly echo: boolean
  readonly random: RandomState
}

const MINUTE_s = 60
/** More changes than this in a minute are chatter: contacts weld, motors burn. */
export const CHATTER_PER_MINUTE = 6

export function startTrips(scene: TripScene, value: number, seed: RandomState): TripState {
  const still: TripState = {
    t_s: 0,
    value,
    reading: value,
    power: true,
    sensor: true,
    echo: true,
    random: seed,
    trips: scene.relays.map(() => false),
    energised: scene.relays.map(() => false),
    runs: scene.relays.map(() => false),
    changes: scene.relays.map(() => []),
  }
  const first = stepTrips(scene, still, 0)
  return { ...first, changes: scene.relays.map(() => []) }
}

/** The scene `dt_s` seconds later, read once. Steps above 0.5 s make coarse switching. */
export function stepTrips(scene: TripScene, state: TripState, dt_s: number): TripState {
  const pushed = scene.relays.reduce((sum, r, i) => sum + (state.runs[i] ? r.effect : 0), scene.drift)
  const value = Math.min(scene.most, Math.max(scene.least, state.value + pushed * dt_s))
  const [n, random] = normal(state.random)
  // Three standard deviations reach the stated noise; what lies beyond is cut off.
  const noise = Math.max(-1, Math.min(1, n / 3)) * (scene.noise / 2)
  const heard = state.sensor && state.echo
  const reading = heard ? value + noise : state.sensor ? state.reading : (scene.lostAt ?? state.reading)
  const t_s = state.t_s + dt_s
  const trips = scene.relays.map((r, i) => tripAfter(r, state.trips[i] ?? false, reading))
  const energised = scene.relays.map((r, i) => {
    const was = state.energised[i] ?? false
    const on = trips[i] ?? false
    if (!state.power) return r.latching ? was : false
    if (!state.sensor) return afterLoss(r.onSensor, on, was)
    return state.echo ? on : afterLoss(r.onEcho, on, was)
  })
  return {
    ...state,
    t_s,
    value,
    reading,
    trips,
    energised,
    // What is driven has power of its own: a contact decides for it also when the controller is dead.
    runs: scene.relays.map((r, i) => contactCloses(r.contact, energised[i]!)),
    changes: state.changes.map((times, i) => {
      const kept = times.filter((t) => t > t_s - MINUTE_s)
      return energised[i] === state.energised[i] ? kept : [...kept, t_s]
    }),
    random,
  }
}

/** Relays that change more than `CHATTER_PER_MINUTE` times in a minute. */
export const chattering = (state: TripState): boolean[] =>
  state.changes.map((times) => times.length > CHATTER_PER_MINUTE)

/** Whether noise alone can make a trip change to and fro: its band is not larger than the noise, peak to peak. */
export const bandTooSmall = (band: number, noise: number): boolean => noise > 0 && band <= noise
