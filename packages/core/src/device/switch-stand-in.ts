// The bench stand-in of a discrete point: a target that comes and goes, a sensor with its own distances, and what
// every witness shows.
import { Refusal } from '../refusal/index.ts'
import { normal, uniform, type RandomState } from './random.ts'

/** What the witnesses show while the sensor sees its target, or does not. */
export interface Witnessed {
  readonly sensorLamp: boolean | undefined
  readonly inputLamp: boolean | undefined
  readonly controller: boolean | undefined
  /** Signal wire to the negative pole, V. */
  readonly signalV: number
}

export interface SwitchStandInSetup {
  readonly present: Witnessed
  readonly absent: Witnessed
  /** Distances at which this sensor really turns on and off, mm; release beyond operate. */
  readonly operate_mm: number
  readonly release_mm: number
  /** How far away the target can be, mm. */
  readonly furthest_mm: number
  /** How fast the machine moves the target, and how fast a hand does, mm/s. */
  readonly rate_mmps: number
  readonly hand_mmps: number
  /** Time of a whole cycle while the machine runs by itself, s. */
  readonly cycle_s: number
}

export interface SwitchStandInState {
  readonly t_s: number
  readonly at_mm: number
  readonly wanted_mm: number
  readonly sees: boolean
  /** The machine moves the target by itself. */
  readonly running: boolean
  readonly turns_s: number
  readonly random: RandomState
}

/** Scatter of the distance from one approach to the next, share of it. */
const REPEAT = 0.004
const METER_NOISE_V = 0.015

export function startSwitchStandIn(setup: SwitchStandInSetup, random: RandomState): SwitchStandInState {
  return {
    t_s: 0,
    at_mm: setup.furthest_mm,
    wanted_mm: setup.furthest_mm,
    sees: false,
    running: false,
    turns_s: 0,
    random,
  }
}

/** Moves the target by hand; the machine stands then. @throws Refusal `outside-process` */
export function moveTarget(
  setup: SwitchStandInSetup,
  state: SwitchStandInState,
  wanted_mm: number,
): SwitchStandInState {
  if (!(wanted_mm >= 0 && wanted_mm <= setup.furthest_mm))
    throw new Refusal('outside-process', `The target can be brought from 0 to ${setup.furthest_mm} mm.`)
  return { ...state, wanted_mm, running: false }
}

/** Lets the machine run by itself, or stops it where it is. */
export function runMachine(state: SwitchStandInState, running: boolean): SwitchStandInState {
  return running ? { ...state, running, turns_s: state.t_s } : { ...state, running, wanted_mm: state.at_mm }
}

/** The stand-in `dt_s` seconds later; steps of 0.02 s or less keep the edges sharp. */
export function stepSwitchStandIn(
  setup: SwitchStandInSetup,
  state: SwitchStandInState,
  dt_s: number,
): SwitchStandInState {
  const t_s = state.t_s + dt_s
  let { wanted_mm, turns_s, random } = state
  if (state.running && t_s >= turns_s) {
    const [u, next] = uniform(random)
    random = next
    wanted_mm = wanted_mm > setup.operate_mm ? 0 : setup.furthest_mm
    turns_s = t_s + (setup.cycle_s / 2) * (0.92 + 0.16 * u)
  }
  const way = wanted_mm - state.at_mm
  const most = (state.running ? setup.rate_mmps : setup.hand_mmps) * dt_s
  const at_mm = state.at_mm + Math.max(-most, Math.min(most, way))
  const [n, after] = normal(random)
  const scatter = 1 + REPEAT * Math.max(-2, Math.min(2, n))
  // Only the side that is crossed scatters: a target at rest does not flicker.
  const sees = state.sees
    ? at_mm <= setup.release_mm * (way > 0 ? scatter : 1)
    : way <= 0 && at_mm <= setup.operate_mm * scatter
  return { ...state, t_s, at_mm, wanted_mm, turns_s, sees, random: after }
}

export interface SwitchObservation {
  readonly t_s: number
  readonly reference: number
  readonly wanted: number
  readonly moving: boolean
  /**
   * By witness: 1 for lit or true, 0 for dark or false; the signal wire in V. A witness that is not sure is not there.
   */
  readonly knots: Readonly<Record<string, number>>
}

export function observeSwitch(setup: SwitchStandInSetup, state: SwitchStandInState): SwitchObservation {
  const now = state.sees ? setup.present : setup.absent
  const [n] = normal(state.random ^ 0x2545f491)
  const knots: Record<string, number> = { signal: Math.round((now.signalV + n * METER_NOISE_V) * 100) / 100 }
  for (const key of ['sensorLamp', 'inputLamp', 'controller'] as const)
    if (now[key] !== undefined) knots[key] = now[key] ? 1 : 0
  return {
    t_s: state.t_s,
    reference: state.at_mm,
    wanted: state.wanted_mm,
    moving: Math.abs(state.wanted_mm - state.at_mm) > 1e-9,
    knots,
  }
}
