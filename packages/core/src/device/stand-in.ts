// The bench stand-in: a simulated process, transmitter, meter and input card for any loop that has a thread.
import { Refusal } from '../refusal/index.ts'
import { knotScales, spread, type Thread } from '../thread/index.ts'
import { normal, uniform, type RandomState } from './random.ts'
import { sure } from '../sure/index.ts'

/** What the stand-in hides: errors in per cent of span. */
export interface HiddenFaults {
  readonly sensorZeroPct: number
  readonly sensorSpanPct: number
  readonly outputZeroPct: number
}

export interface StandInSetup {
  readonly thread: Thread
  readonly faults: HiddenFaults
  /** Standard deviation of the transmitter's measurement, % of span. */
  readonly noisePct: number
  /** Time constant of the transmitter's damping, s. */
  readonly damping_s: number
  /** Process limits and how fast it can be moved, in the process knot's unit. */
  readonly process: {
    readonly lowest: number
    readonly highest: number
    readonly ratePerSecond: number
    readonly scatter: number
    /** Where it comes to rest exactly, as a flow does behind two closed valves. */
    readonly stopsAt?: number
  }
  /** Current while the transmitter cannot measure, mA. */
  readonly fault_mA?: number | undefined
}

export interface StandInState {
  readonly t_s: number
  /** True process value. */
  readonly process: number
  /** Where the process will come to rest: the wanted value, missed a little as by hand. */
  readonly restsAt: number
  /** The value asked for. */
  readonly wanted: number
  /** Transmitter's damped measurement, % of span. */
  readonly damped: number
  /** The transmitter says that it cannot measure. */
  readonly failed?: boolean
  readonly random: RandomState
}

/** What can be read at one moment, by knot id, each in its knot's unit. */
export interface Observation {
  readonly t_s: number
  /** The reference standard's reading of the process (dip gauge, dry-block display). */
  readonly reference: number
  readonly wanted: number
  readonly moving: boolean
  readonly knots: Readonly<Record<string, number>>
}

/** A transmitter holds its current between these while it measures, mA (NAMUR NE 43). */
const SATURATION = { low: 3.8, high: 20.5 }
const METER_NOISE_mA = 0.0008

interface Prepared {
  readonly digital: number
  readonly current: number
  readonly low: number
  readonly high: number
}

function prepare(thread: Thread): Prepared {
  const digital = thread.knots.findIndex((k) => k.role === 'digital')
  const current = thread.knots.findIndex((k) => k.role === 'current')
  const scale = knotScales(thread)[digital]
  if (thread.stages.some((stage) => !stage.ready) || scale?.low === undefined || scale.high === undefined)
    throw new Refusal('loop-incomplete', 'The stand-in needs the whole loop: finish Point and Range first.')
  return { digital, current, low: scale.low, high: scale.high }
}

function sensedPercent(setup: StandInSetup, at: Prepared, process: number): number {
  const digital = spread(setup.thread, sure(setup.thread.knots[0]).id, process)[at.digital]!
  // Beyond what the sensor can follow it keeps showing the end it ran into.
  if (!digital.known) return process > (setup.process.lowest + setup.process.highest) / 2 ? 110 : -10
  const percent = (100 * (digital.value - at.low)) / (at.high - at.low)
  return percent + setup.faults.sensorZeroPct + (setup.faults.sensorSpanPct * percent) / 100
}

/** The stand-in at rest at `process`. @throws Refusal `loop-incomplete` */
export function startStandIn(setup: StandInSetup, process: number, seed: RandomState): StandInState {
  const at = prepare(setup.thread)
  return { t_s: 0, process, restsAt: process, wanted: process, damped: sensedPercent(setup, at, process), random: seed }
}

/** Asks for another process value; it comes to rest near it, not on it. @throws Refusal `outside-process` */
export function moveProcess(setup: StandInSetup, state: StandInState, wanted: number): StandInState {
  const { lowest, highest, scatter } = setup.process
  if (!(wanted >= lowest && wanted <= highest))
    throw new Refusal('outside-process', `The stand-in can be set from ${lowest} to ${highest}.`)
  const [u, random] = uniform(state.random)
  const missed = wanted === setup.process.stopsAt ? 0 : (2 * u - 1) * scatter
  const restsAt = Math.min(highest, Math.max(lowest, wanted + missed))
  return { ...state, wanted, restsAt, random }
}

/** What a simulated meter reports in place of a plain sensor: its digital value, or that it cannot measure. */
export type Reported = { readonly digital: number | undefined }

/**
 * The stand-in `dt_s` seconds later; `reported` is asked at the new process value where a meter of its own measures.
 */
export function stepStandIn({
  setup,
  state,
  dt_s,
  reported,
  damping_s = setup.damping_s,
}: {
  readonly setup: StandInSetup
  readonly state: StandInState
  readonly dt_s: number
  readonly reported?: (process: number) => Reported | undefined
  readonly damping_s?: number
}): StandInState {
  const at = prepare(setup.thread)
  const way = state.restsAt - state.process
  const most = setup.process.ratePerSecond * dt_s
  const process = state.process + Math.max(-most, Math.min(most, way))
  const follow = damping_s > 0 ? 1 - Math.exp(-dt_s / damping_s) : 1
  const [noise, random] = normal(state.random)
  const own = reported?.(process)
  if (own && own.digital === undefined) return { ...state, t_s: state.t_s + dt_s, process, random, failed: true }
  const measured = own
    ? (100 * (sure(own.digital) - at.low)) / (at.high - at.low)
    : sensedPercent(setup, at, process) + noise * setup.noisePct
  // After a failure the value does not creep up from where it stood.
  const damped = state.failed ? measured : state.damped + follow * (measured - state.damped)
  return { ...state, t_s: state.t_s + dt_s, process, damped, random, failed: false }
}

/** How a transmitter with trims and a receiver with a scale of its own turn values into others. */
export interface Shape {
  current(digital: number, called_mA: number): number
  shown(value: number): number
  /** It is told to drive a current: neither its measurement nor its limits count. */
  readonly fixed: boolean
}

/** What every witness on the loop shows now. */
export function observeStandIn(setup: StandInSetup, state: StandInState, shape?: Shape): Observation {
  const at = prepare(setup.thread)
  const { thread, faults } = setup
  const [meterNoise] = normal(state.random ^ 0x5bd1e995)
  const digital = at.low + (state.damped / 100) * (at.high - at.low)
  const plain = 4 + 0.16 * (state.damped + faults.outputZeroPct)
  const called = shape ? shape.current(digital, plain) : plain
  const held =
    state.failed && !shape?.fixed
      ? (setup.fault_mA ?? 3.5)
      : shape?.fixed
        ? called
        : Math.min(SATURATION.high, Math.max(SATURATION.low, called))
  const mA = held + meterNoise * METER_NOISE_mA
  const read: Record<string, number> = {
    ...(state.failed ? {} : { [thread.knots[at.digital]!.id]: digital }),
    ...(at.current < 0 ? {} : { [thread.knots[at.current]!.id]: Math.round(mA * 1000) / 1000 }),
  }
  // Without a current the bus carries the digital value itself; a device that fails sends none.
  const from = at.current < 0 ? at.digital : at.current
  const after =
    state.failed && at.current < 0 ? [] : spread(thread, thread.knots[from]!.id, at.current < 0 ? digital : mA)
  let counts: number | undefined
  thread.knots.forEach((knot, i) => {
    const value = after[i]!
    if (i <= from || !value?.known) return
    read[knot.id] = knot.role === 'counts' ? (counts = Math.round(value.value)) : value.value
  })
  if (counts !== undefined) {
    const i = thread.knots.findIndex((k) => k.role === 'counts')
    const shown = spread(thread, thread.knots[i]!.id, counts).at(-1)
    if (shown?.known) read[sure(thread.knots.at(-1)).id] = shown.value
  }
  const last = sure(thread.knots.at(-1)).id
  if (shape && read[last] !== undefined) read[last] = shape.shown(read[last])
  const moving = Math.abs(state.restsAt - state.process) > 1e-9
  return { t_s: state.t_s, reference: state.process, wanted: state.wanted, moving, knots: read }
}
