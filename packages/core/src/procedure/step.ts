// What a guided procedure is made of: the procedures, the sort of each step, what it does to the loop.
import type { OwnBuffer } from '../analysis/index.ts'
import type { QuantityName } from '../quantity/index.ts'
import type { CommandPlan } from './command.ts'
import type { ManifoldType, ValveMove } from './manifold.ts'

export const PROCEDURES = [
  'zero-trim',
  'sensor-trim',
  'current-trim',
  'forced-current',
  'range-change',
  'receiver-scale',
  'ph-calibration',
  'redox-offset',
  'flow-zero',
  'damping-change',
  'health-check',
] as const
export type ProcedureId = (typeof PROCEDURES)[number]

export const PROCEDURE_NAMES: Record<ProcedureId, string> = {
  'zero-trim': 'Zero trim',
  'sensor-trim': 'Lower and upper sensor trim',
  'current-trim': 'Current trim at 4 and 20 mA',
  'forced-current': 'Forced-current check',
  'range-change': 'Range change',
  'receiver-scale': 'Receiver re-scale',
  'ph-calibration': 'pH calibration in buffers',
  'redox-offset': 'Redox electrode in its solution',
  'flow-zero': 'Flow zero',
  'damping-change': 'Damping change',
  'health-check': 'Health check',
}

/** What a device says that it holds when it is asked. */
export interface Held {
  readonly lrv: number
  readonly urv: number
  /** Scale at the receiver, in its own unit. */
  readonly receiverLow: number
  readonly receiverHigh: number
  /** Current it is told to drive, mA; null while it measures. */
  readonly fixed_mA: number | null
  /** Whether all it works by would outlast a power failure. */
  readonly stored: boolean
  /** Counts every adjustment it has taken. */
  readonly changes: number
  /** Electrode slope and offset, where it has one. */
  readonly slope_mVperPh?: number
  readonly offset_mV?: number
  /** Damping, s, where it says so. */
  readonly damping_s?: number
  /** What its last self-test found, in words; empty where nothing. Not there before one. */
  readonly health?: string
}

/** Everything a run needs to know; kept in its first event, so that a replay needs nothing else. */
export interface Terms {
  readonly tag: string
  /** Unit and quantity of the digital value. */
  readonly unit: string
  readonly quantity: QuantityName
  readonly decimals: number
  /** Range on record, in that unit. */
  readonly lrv: number
  readonly urv: number
  readonly tolerancePct: number
  /** A correction above this, per cent of span, stops the run. */
  readonly plausiblePct: number
  readonly stability: {
    readonly window_s: number
    readonly driftPct: number
    readonly noisePct: number
    /** Time constant to be expected, s, and what may still be to go of a lag, % of span; absent in older runs. */
    readonly tau_s?: number | undefined
    readonly stillPct?: number | undefined
  }
  readonly sensorLow?: number | undefined
  readonly sensorHigh?: number | undefined
  readonly manifold: ManifoldType
  /** What the loop controls or trips, in the technician's words; '' when nobody said. */
  readonly controls: string
  readonly tell: string
  readonly cautions: readonly string[]
  /** What the true input comes from, e.g. `pressure calibrator`. */
  readonly reference: string
  readonly process: string
  /** Applied values at which the sensor is trimmed. */
  readonly lower?: number | undefined
  readonly upper?: number | undefined
  /** A flow by the root of a differential pressure: that of the upper range value, mbar, as it is applied. */
  readonly rootOf_mbar?: number | undefined
  /** Fault currents, for the forced-current check. */
  readonly faultLow_mA?: number | undefined
  readonly faultHigh_mA?: number | undefined
  readonly shunt_Ohm?: number | undefined
  /** Range wanted, or scale wanted at the receiver. */
  readonly toLow?: number | undefined
  readonly toHigh?: number | undefined
  readonly toUnit?: string | undefined
  /** Damping wanted, s. */
  readonly toDamping_s?: number | undefined
  /** What the receiver's scale is in, and stands at now. */
  readonly receiverUnit?: string | undefined
  readonly receiverDecimals?: number | undefined
  /** Buffers, lowest first, as printed on the bottle. */
  readonly buffers?: readonly string[] | undefined
  /** Which buffer it is, is seen by its signal from the first one on; runs begun before that was so go on without. */
  readonly recognise?: boolean | undefined
  /** Buffers come in any order, and are told apart by their signal; older runs have their own order. */
  readonly anyOrder?: boolean | undefined
  /** Buffers of the site's own, with their tables. */
  readonly ownBuffers?: readonly OwnBuffer[] | undefined
  /** Slope of the electrode until now, % of the ideal: what a calibration in one buffer keeps. */
  readonly slopePercent?: number | undefined
}

export const STEP_KINDS = [
  'words',
  'confirm',
  'as-found',
  'valve',
  'apply',
  'buffer',
  'steady',
  'reading',
  'plausible',
  'command',
  'read-back',
] as const
export type StepKind = (typeof STEP_KINDS)[number]

/** What a step can change in the world of a run. */
export const STEP_EFFECTS = [
  'told',
  'manual',
  'bypassed',
  'input-off-process',
  'input-on-process',
  'bypass-removed',
  'told-back',
  'automatic',
] as const

export interface Step {
  readonly id: string
  readonly kind: StepKind
  readonly title: string
  readonly says: string
  readonly caution?: string
  /** `words`: what is asked for. */
  readonly asks?: string
  /** `valve`: the move. */
  readonly move?: ValveMove
  /** `apply`: the value wanted; absent where none is typed. */
  readonly target?: number
  /** `reading`: what is read, in which unit, against what it should be. */
  readonly reads?: {
    readonly what: 'digital' | 'current' | 'receiver' | 'electrode'
    readonly unit: string
    readonly quantity: QuantityName
    readonly expected?: number
    readonly decimals: number
  }
  /** `reading`: whether it must lie within tolerance for the run to go on. */
  readonly verifies?: boolean
  /** `reading` and `steady`: the witness looked at. */
  readonly of?: 'digital' | 'current' | 'electrode'
  /** `command`: a trim, range or scale is written, as against driven, released or stored. */
  readonly writes?: boolean
  /** `command`: what is sent. */
  readonly sends?: CommandPlan
  /** `reading`: the value taken before that it should equal, where the wanted one was not met exactly. */
  readonly expectedFrom?: string
  /**
   * Where the pH of the buffer goes: of a `buffer` that is named, or of a `reading` that tells which buffer it is;
   * and the gate at which the electrode was put into it.
   */
  readonly gives?: string
  readonly buffer?: string
  /** The reading (or readings) that a `plausible` step judges. */
  readonly judges?: readonly string[]
  /** What the world is once the step is done. */
  readonly makes?: (typeof STEP_EFFECTS)[number]
}
