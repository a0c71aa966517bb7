// What can be wrong with a simulated transmitter, for practice, and what one is set up with.
import type { Manifold, ManifoldType } from '../procedure/index.ts'

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
  /** Temperature at which that slope holds, °C; 25 where it is not said. */
  readonly slopeAt_C?: number
  readonly damping_s?: number
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
  /** Temperature of the liquid in the process, °C; 25 where it is not said. */
  readonly liquid_C?: number | undefined
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
  /** Temperature of the electrode, °C; that of the process where it was never elsewhere. */
  readonly electrode_C?: number | undefined
  /** It has looked into itself. */
  readonly tested?: boolean | undefined
}

/** What a practice case hides. Sizes in per cent of span. */
export interface Hidden {
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
