// A simulated transmitter on the bench: what it holds and works by, what is hidden in it, and what it does when it is
// told something.
import { idealSlope_mV } from '../analysis/index.ts'
import type { Held, ValveMove } from '../procedure/index.ts'
import { inService } from '../procedure/index.ts'
import { Refusal } from '../refusal/index.ts'
import {
  type Hidden,
  TRANSMITTER_CASES,
  type TransmitterSetup,
  type TransmitterState,
  type Tuning,
  casesFor,
} from './transmitter-cases.ts'
import { sure } from '../sure/index.ts'

const UNTRIMMED: Tuning = { sensorOffset: 0, sensorGain: 1, outputOffset_mA: 0, outputGain: 1 }
const HEALTHY_ELECTRODE = { slopeShare: 0.985, offset_mV: 4 }
/** Temperature of the bench's buffers, and of a process whose own is not said, °C. */
const BUFFER_C = 25
const ZERO_K = 273.15
/** How fast an electrode takes the temperature of what it stands in, s. */
const WARMS_s = 2.5

/** Temperature of the electrode, °C: it has that of what it stands in after a while. */
export const electrodeTemp_C = (setup: TransmitterSetup, state: TransmitterState): number =>
  state.electrode_C ?? setup.liquid_C ?? BUFFER_C

/** The electrode a moment later, nearer to the temperature of what it stands in. */
function warmed(setup: TransmitterSetup, state: TransmitterState, dt_s: number): TransmitterState {
  if (!setup.electrode) return state
  const [now, around] = [electrodeTemp_C(setup, state), state.bench ? BUFFER_C : (setup.liquid_C ?? BUFFER_C)]
  if (now === around) return state
  const next = around + (now - around) * Math.exp(-dt_s / WARMS_s)
  return { ...state, electrode_C: Math.abs(next - around) < 0.005 ? around : next }
}

export function startTransmitter(setup: TransmitterSetup): TransmitterState {
  const ideal = setup.electrode ? { slope_mVperPh: idealSlope_mV(BUFFER_C), offset_mV: 0 } : {}
  const tuning = { ...UNTRIMMED, ...ideal }
  return {
    practice: 'as-it-is',
    active: tuning,
    stored: tuning,
    protected: false,
    fixed_mA: null,
    changes: 0,
    log: [],
    manifold: inService(setup.manifold),
    bench: null,
    losing: null,
  }
}

export const hidden = (state: TransmitterState): Hidden =>
  TRANSMITTER_CASES.find((c) => c.id === state.practice)?.hides ?? {}

/** Begins a practice case: the device as new, with something wrong in it. @throws Refusal `unknown-practice` */
export function beginCase(setup: TransmitterSetup, state: TransmitterState, id: string): TransmitterState {
  if (!casesFor(setup).some((c) => c.id === id))
    throw new Refusal('unknown-practice', 'There is no such practice case for this point.')
  const fresh = startTransmitter(setup)
  const span = setup.urv - setup.lrv
  const scale = setup.receiverHigh - setup.receiverLow
  const held = id === 'range-differs' ? { lrv: setup.lrv, urv: setup.lrv + 0.8 * span } : {}
  return {
    ...fresh,
    practice: id,
    changes: state.changes,
    active: { ...fresh.active, ...held },
    stored: { ...fresh.stored, ...held },
    ...(id === 'receiver-scale'
      ? { receiver: { low: setup.receiverLow, high: setup.receiverLow + 1.25 * scale } }
      : {}),
    protected: id === 'protected',
    losing: id === 'answer-lost' ? 'answer' : id === 'command-lost' ? 'command' : null,
  }
}

/** What feeds the sensor, in the digital value's unit: the process, nothing, or the bench. */
export function inputOf(setup: TransmitterSetup, state: TransmitterState, process: number, t_s: number): number {
  const { manifold } = state
  const span = setup.urv - setup.lrv
  const leaks = hidden(state).leaks
  if (state.bench && manifold.equalize !== 'open') return state.bench.value
  if (manifold.equalize === 'open') {
    // A leak lets line pressure in and out again: true zero wanders.
    return leaks ? (span * (0.9 * Math.sin(t_s / 4) + 1.2 * Math.sin(t_s / 0.35) + 0.8)) / 100 : 0
  }
  return leaks ? process - 0.02 * (process - setup.lrv) : process
}

/** Moves what is applied on the bench towards what is wanted, as fast as a hand pump or a simulator goes. */
export function stepTransmitter(setup: TransmitterSetup, was: TransmitterState, dt_s: number): TransmitterState {
  const state = warmed(setup, was, dt_s)
  const { bench } = state
  if (!bench || bench.value === bench.wanted) return state
  const most = (Math.abs(setup.urv - setup.lrv) / 2.5) * dt_s
  const way = bench.wanted - bench.value
  return { ...state, bench: { ...bench, value: bench.value + Math.max(-most, Math.min(most, way)) } }
}

/** Extra time constant of the sensor, s. */
export const slowness = (state: TransmitterState): number => hidden(state).slow_s ?? 0

/** Voltage of the electrode, mV, in a liquid of a pH and a temperature, °C. */
export function electrode_mV(state: TransmitterState, ph: number, noise = 0, temp_C = BUFFER_C): number {
  const h = hidden(state)
  const share = h.slopeShare ?? HEALTHY_ELECTRODE.slopeShare
  return share * idealSlope_mV(temp_C) * (ph - 7) + (h.offset_mV ?? HEALTHY_ELECTRODE.offset_mV) + noise * 0.08
}

/** Errors that any transmitter of this make has, per cent of span. */
export interface BaseFaults {
  readonly sensorZeroPct: number
  readonly sensorSpanPct: number
  readonly noisePct: number
}

/** The transmitter's digital value for what feeds its sensor. `noise` is a standard normal number. */
export function digitalOf({
  setup,
  state,
  input,
  noise,
  base,
}: {
  readonly setup: TransmitterSetup
  readonly state: TransmitterState
  readonly input: number
  readonly noise: number
  readonly base: BaseFaults
}): number {
  const h = hidden(state)
  const { active } = state
  const span = setup.urv - setup.lrv
  const x = (input - setup.lrv) / span
  const scatter = noise * Math.max(base.noisePct, h.noisePct ?? 0)
  if (setup.electrode) {
    const temp_C = electrodeTemp_C(setup, state)
    // It measures the temperature itself, and reckons with the slope there.
    const slope = (sure(active.slope_mVperPh) * (temp_C + ZERO_K)) / ((active.slopeAt_C ?? BUFFER_C) + ZERO_K)
    const ph = 7 + (electrode_mV(state, input, 0, temp_C) - sure(active.offset_mV)) / slope
    return active.sensorOffset + active.sensorGain * ph + (span * scatter) / 100
  }
  const errorPct =
    base.sensorZeroPct +
    (h.zeroPct ?? 0) +
    (base.sensorSpanPct + (h.spanPct ?? 0)) * x +
    (h.bowPct ?? 0) * 4 * x * (1 - x) +
    scatter
  return active.sensorOffset + active.sensorGain * (input + (span * errorPct) / 100)
}

/** Range it works by. */
export const rangeOf = (setup: TransmitterSetup, state: TransmitterState): { lrv: number; urv: number } => ({
  lrv: state.active.lrv ?? setup.lrv,
  urv: state.active.urv ?? setup.urv,
})

/** Current that it drives for a digital value, before it saturates, mA. */
export function drivenCurrent(setup: TransmitterSetup, state: TransmitterState, digital: number): number {
  const h = hidden(state)
  const { lrv, urv } = rangeOf(setup, state)
  const called = state.fixed_mA ?? 4 + (16 * (digital - lrv)) / (urv - lrv)
  const circuit = called + (h.outputZero_mA ?? 0) + ((h.outputSpan_mA ?? 0) * (called - 4)) / 16
  return state.active.outputOffset_mA + state.active.outputGain * circuit
}

/** What the receiver shows where the scale on record would show `value`. */
export function shownOf(setup: TransmitterSetup, state: TransmitterState, value: number): number {
  const { receiver } = state
  if (!receiver) return value
  return (
    receiver.low +
    ((value - setup.receiverLow) / (setup.receiverHigh - setup.receiverLow)) * (receiver.high - receiver.low)
  )
}

/** The range and the scale it works by become its own, whatever the record says from now on. */
export function keepRange(setup: TransmitterSetup, state: TransmitterState): TransmitterState {
  const range = rangeOf(setup, state)
  const receiver = state.receiver ?? { low: setup.receiverLow, high: setup.receiverHigh }
  return { ...state, active: { ...state.active, ...range }, stored: { ...state.stored, ...range }, receiver }
}

export function heldBy(setup: TransmitterSetup, state: TransmitterState): Held {
  const { active, stored } = state
  return {
    ...rangeOf(setup, state),
    receiverLow: state.receiver?.low ?? setup.receiverLow,
    receiverHigh: state.receiver?.high ?? setup.receiverHigh,
    fixed_mA: state.fixed_mA,
    changes: state.changes,
    stored: JSON.stringify(active) === JSON.stringify(stored),
    ...(active.damping_s === undefined ? {} : { damping_s: active.damping_s }),
    // What is wrong with it is hidden; of itself it knows nothing.
    ...(state.tested ? { health: '' } : {}),
    ...(setup.electrode ? { slope_mVperPh: active.slope_mVperPh, offset_mV: active.offset_mV } : {}),
  }
}

/** The supply fails for a moment: what was not stored is gone, a fixed current too. */
export function powerCycle(state: TransmitterState, at: string): TransmitterState {
  const lost = JSON.stringify(state.active) !== JSON.stringify(state.stored)
  return {
    ...state,
    active: state.stored,
    fixed_mA: null,
    log: [
      ...state.log,
      { at, what: lost ? 'Power failed: what was not stored is gone.' : 'Power failed and came back.' },
    ].slice(-200),
  }
}

export const setValve = (state: TransmitterState, { valve, to }: ValveMove): TransmitterState => ({
  ...state,
  manifold: { ...state.manifold, [valve]: to },
})
