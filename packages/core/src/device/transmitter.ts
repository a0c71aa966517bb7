// A simulated transmitter on the bench: what it holds and works by, what is hidden in it, and what it does when it is
// told something.
import { idealSlope_mV } from '../analysis/index.ts'
import type { Command, Held, Manifold, ManifoldType, ValveMove } from '../procedure/index.ts'
import { inService } from '../procedure/index.ts'
import { Refusal } from '../refusal/index.ts'

/** What it works by. A range or scale not set here is that of the record. Digital values in the thread's unit. */
export interface Tuning {
  readonly lrv?: number | undefined
  readonly urv?: number | undefined
  /** digital = offset + gain · measured. */
  readonly sensorOffset: number
  readonly sensorGain: number
  /** Driven current = offset + gain · called for, mA. */
  readonly outputOffset_mA: number
  readonly outputGain: number
  readonly slope_mVperPh?: number
  readonly offset_mV?: number
}

export interface TransmitterSetup {
  /** Range and receiver scale on record. */
  readonly lrv: number
  readonly urv: number
  readonly receiverLow: number
  readonly receiverHigh: number
  readonly manifold: ManifoldType
  /** It measures pH with an electrode. */
  readonly electrode: boolean
  /** A meter of its own measures: only output and receiver hang on what is here. */
  readonly meter: boolean
  /** It has a current output. */
  readonly current: boolean
}

export interface Change {
  readonly at: string
  readonly what: string
}

export interface TransmitterState {
  readonly practice: string
  readonly active: Tuning
  /** What it comes back with after a power failure. */
  readonly stored: Tuning
  readonly receiver?: { readonly low: number; readonly high: number } | undefined
  readonly protected: boolean
  readonly fixed_mA: number | null
  readonly changes: number
  readonly log: readonly Change[]
  readonly manifold: Manifold
  /** Applied on the bench, where the process does not feed it: as it stands and as wanted. */
  readonly bench: { readonly value: number; readonly wanted: number } | null
  /** The next answer will not arrive; whether the command does. */
  readonly losing: 'answer' | 'command' | null
}

/** What a practice case hides. Sizes in per cent of span. */
interface Hidden {
  readonly zeroPct?: number
  readonly spanPct?: number
  readonly bowPct?: number
  readonly noisePct?: number
  readonly slow_s?: number
  readonly leaks?: boolean
  readonly outputZero_mA?: number
  readonly outputSpan_mA?: number
  readonly slopeShare?: number
  readonly offset_mV?: number
  readonly keeps?: false
}
export interface TransmitterCase {
  readonly id: string
  readonly reveals: string
  readonly hides: Hidden
  readonly for: 'any' | 'manifold' | 'electrode' | 'sensor' | 'current'
}

export const TRANSMITTER_CASES: readonly TransmitterCase[] = [
  { id: 'as-it-is', for: 'any', hides: {}, reveals: 'Nothing is wrong beyond what any transmitter has.' },
  {
    id: 'mounting-shift',
    for: 'sensor',
    hides: { zeroPct: 1.2 },
    reveals: 'The mounting position has shifted the zero by 1.2 % of span at every point alike. A zero trim mends it.',
  },
  {
    id: 'sensor-span',
    for: 'sensor',
    hides: { zeroPct: 0.2, spanPct: -1.4 },
    reveals: 'Zero and span of the sensor have drifted. Lower and upper sensor trim mend it.',
  },
  {
    id: 'output-error',
    for: 'current',
    hides: { outputZero_mA: 0.09, outputSpan_mA: -0.02 },
    reveals:
      'The output circuit drives 0.09 mA too much at 4 mA and 0.07 mA at 20 mA. A current trim mends it; the ' +
      'sensor is right.',
  },
  {
    id: 'receiver-scale',
    for: 'any',
    hides: {},
    reveals: 'The receiver’s scale ends a quarter of the span too high. Re-scale it; the transmitter is right.',
  },
  {
    id: 'range-differs',
    for: 'current',
    hides: {},
    reveals:
      'The device holds a range that ends at 80 % of that on record. Setting the range mends it; nothing needs a trim.',
  },
  {
    id: 'non-linear',
    for: 'sensor',
    hides: { bowPct: 1.6 },
    reveals: 'The sensor is bent by 1.6 % of span in the middle. No trim can mend it.',
  },
  {
    id: 'noisy',
    for: 'any',
    hides: { noisePct: 0.5 },
    reveals: 'The measurement scatters by half a per cent of span: it is never steady enough to trim by.',
  },
  {
    id: 'slow',
    for: 'sensor',
    hides: { slow_s: 6 },
    reveals: 'The sensor answers with a time constant of 6 s, as with a plugged line. Wait longer, or clear it.',
  },
  {
    id: 'leaking-valve',
    for: 'manifold',
    hides: { leaks: true },
    reveals: 'The equalizing valve and a block valve leak: true zero never stands, and in service the reading is low.',
  },
  {
    id: 'forgets',
    for: 'any',
    hides: { zeroPct: 0.9, keeps: false },
    reveals: 'The device keeps nothing through a power failure unless it is told to store.',
  },
  {
    id: 'protected',
    for: 'any',
    hides: { zeroPct: 0.9 },
    reveals: 'The protection switch inside the cover is on: the device refuses every write.',
  },
  {
    id: 'answer-lost',
    for: 'any',
    hides: { zeroPct: 0.9 },
    reveals: 'The first write arrives, its answer does not. Read back first: the device holds it.',
  },
  {
    id: 'command-lost',
    for: 'any',
    hides: { zeroPct: 0.9 },
    reveals: 'The first write never arrives. Read back first: the device does not hold it.',
  },
  {
    id: 'worn-electrode',
    for: 'electrode',
    hides: { slopeShare: 0.915, offset_mV: 21 },
    reveals:
      'The electrode is worn: 91.5 % of the ideal slope, 21 mV off at pH 7. It can be calibrated once more; ' +
      'order a spare.',
  },
  {
    id: 'dead-electrode',
    for: 'electrode',
    hides: { slopeShare: 0.72, offset_mV: 34 },
    reveals: 'The electrode is worn out: 72 % of the ideal slope. No calibration can mend it.',
  },
]

/** Cases that make sense for a point. */
export const casesFor = (setup: TransmitterSetup): readonly TransmitterCase[] =>
  TRANSMITTER_CASES.filter(
    (c) =>
      c.for === 'any' ||
      (c.for === 'manifold' && setup.manifold !== 'none') ||
      (c.for === 'electrode' && setup.electrode) ||
      (c.for === 'sensor' && !setup.meter && !setup.electrode) ||
      (c.for === 'current' && setup.current),
  )

const UNTRIMMED: Tuning = { sensorOffset: 0, sensorGain: 1, outputOffset_mA: 0, outputGain: 1 }
const HEALTHY_ELECTRODE = { slopeShare: 0.985, offset_mV: 4 }
const ELECTRODE_TEMP_C = 25

export function startTransmitter(setup: TransmitterSetup): TransmitterState {
  const ideal = setup.electrode ? { slope_mVperPh: idealSlope_mV(ELECTRODE_TEMP_C), offset_mV: 0 } : {}
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

const hidden = (state: TransmitterState): Hidden => TRANSMITTER_CASES.find((c) => c.id === state.practice)?.hides ?? {}

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
export function stepTransmitter(setup: TransmitterSetup, state: TransmitterState, dt_s: number): TransmitterState {
  const { bench } = state
  if (!bench || bench.value === bench.wanted) return state
  const most = (Math.abs(setup.urv - setup.lrv) / 2.5) * dt_s
  const way = bench.wanted - bench.value
  return { ...state, bench: { ...bench, value: bench.value + Math.max(-most, Math.min(most, way)) } }
}

/** Extra time constant of the sensor, s. */
export const slowness = (state: TransmitterState): number => hidden(state).slow_s ?? 0

/** Voltage of the electrode, mV, in a liquid of a pH. */
export function electrode_mV(state: TransmitterState, ph: number, noise = 0): number {
  const h = hidden(state)
  const share = h.slopeShare ?? HEALTHY_ELECTRODE.slopeShare
  return (
    share * idealSlope_mV(ELECTRODE_TEMP_C) * (ph - 7) + (h.offset_mV ?? HEALTHY_ELECTRODE.offset_mV) + noise * 0.08
  )
}

/** Errors that any transmitter of this make has, per cent of span. */
export interface BaseFaults {
  readonly sensorZeroPct: number
  readonly sensorSpanPct: number
  readonly noisePct: number
}

/** The transmitter's digital value for what feeds its sensor. `noise` is a standard normal number. */
export function digitalOf(
  setup: TransmitterSetup,
  state: TransmitterState,
  input: number,
  noise: number,
  base: BaseFaults,
): number {
  const h = hidden(state)
  const { active } = state
  const span = setup.urv - setup.lrv
  const x = (input - setup.lrv) / span
  const scatter = noise * Math.max(base.noisePct, h.noisePct ?? 0)
  if (setup.electrode) {
    const mV = electrode_mV(state, input)
    const ph = 7 + (mV - active.offset_mV!) / active.slope_mVperPh!
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
    ...(setup.electrode ? { slope_mVperPh: active.slope_mVperPh, offset_mV: active.offset_mV } : {}),
  }
}

export interface Answer {
  readonly state: TransmitterState
  readonly taken: boolean
  readonly says: string
  /** Whether the answer arrives. */
  readonly arrives: boolean
}

const shown = (v: number) => Number(v.toPrecision(6)).toString()

/**
 * Tells the device something. `seen` is its digital value now, undamped by noise as far as it can tell.
 * A device may refuse (write-protected), or its answer may get lost.
 */
export function commandTransmitter(
  setup: TransmitterSetup,
  state: TransmitterState,
  command: Command,
  seen: number,
  at: string,
): Answer {
  const writes =
    command.do !== 'drive' && command.do !== 'release' && command.do !== 'store' && command.do !== 'receiver'
  if (state.protected && (writes || command.do === 'store'))
    return {
      state,
      taken: false,
      says:
        'The device refuses: it is write-protected. Move the protection switch under its cover, then send it ' +
        'again.',
      arrives: true,
    }
  const losing = writes ? state.losing : null
  const from: TransmitterState = losing ? { ...state, losing: null } : state
  if (losing === 'command') return { state: from, taken: false, says: '', arrives: false }
  const keeps = hidden(state).keeps !== false
  const wrote = (tuning: Partial<Tuning>, what: string): TransmitterState => {
    const active = { ...from.active, ...tuning }
    return {
      ...from,
      active,
      stored: keeps ? active : from.stored,
      changes: from.changes + 1,
      log: [...from.log, { at, what }].slice(-200),
    }
  }
  const { active } = from
  const after = ((): TransmitterState => {
    switch (command.do) {
      case 'drive':
        return { ...from, fixed_mA: command.mA }
      case 'release':
        return { ...from, fixed_mA: null }
      case 'store':
        return { ...from, stored: active, log: [...from.log, { at, what: 'Stored.' }].slice(-200) }
      case 'zero-trim':
      case 'flow-zero':
        return wrote(
          { sensorOffset: active.sensorOffset - seen },
          `${command.do === 'flow-zero' ? 'Flow zero' : 'Zero trim'}: offset ${shown(active.sensorOffset)} to ` +
            `${shown(active.sensorOffset - seen)}.`,
        )
      case 'sensor-trim': {
        if (command.end === 'lower') {
          const sensorOffset = active.sensorOffset + command.value - seen
          return wrote(
            { sensorOffset },
            `Lower sensor trim at ${shown(command.value)}: offset ${shown(active.sensorOffset)} to ` +
              `${shown(sensorOffset)}.`,
          )
        }
        // The upper trim turns the line about the lower range value.
        const about = rangeOf(setup, from).lrv
        const turn = seen === about ? 1 : (command.value - about) / (seen - about)
        const sensorGain = active.sensorGain * turn
        const sensorOffset = about + (active.sensorOffset - about) * turn
        return wrote(
          { sensorGain, sensorOffset },
          `Upper sensor trim at ${shown(command.value)}: gain ${shown(active.sensorGain)} to ${shown(sensorGain)}.`,
        )
      }
      case 'current-trim': {
        if (command.at === 4) {
          const outputOffset_mA = active.outputOffset_mA + 4 - command.reading
          return wrote(
            { outputOffset_mA },
            `Current trim at 4 mA: offset ${shown(active.outputOffset_mA)} to ${shown(outputOffset_mA)} mA.`,
          )
        }
        const turn = 16 / (command.reading - 4)
        const outputGain = active.outputGain * turn
        return wrote(
          { outputGain, outputOffset_mA: 4 + (active.outputOffset_mA - 4) * turn },
          `Current trim at 20 mA: gain ${shown(active.outputGain)} to ${shown(outputGain)}.`,
        )
      }
      case 'set-range': {
        const was = rangeOf(setup, from)
        return wrote(
          { lrv: command.lrv, urv: command.urv },
          `Range ${shown(was.lrv)} … ${shown(was.urv)} to ${shown(command.lrv)} … ${shown(command.urv)}.`,
        )
      }
      case 'receiver':
        return {
          ...from,
          receiver: { low: command.low, high: command.high },
          changes: from.changes + 1,
          log: [...from.log, { at, what: `Receiver scale to ${shown(command.low)} … ${shown(command.high)}.` }].slice(
            -200,
          ),
        }
      case 'ph-calibrate':
        return wrote(
          { slope_mVperPh: command.slope_mVperPh, offset_mV: command.offset_mV, sensorOffset: 0, sensorGain: 1 },
          `pH calibration: slope ${shown(active.slope_mVperPh ?? 0)} to ${shown(command.slope_mVperPh)} mV ` +
            `per pH, offset ${shown(active.offset_mV ?? 0)} to ${shown(command.offset_mV)} mV.`,
        )
    }
  })()
  return { state: after, taken: true, says: '', arrives: losing !== 'answer' }
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
