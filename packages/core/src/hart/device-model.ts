// What a simulated HART device is, holds and measures: its make, its memory, the truth behind it.
import { convertUnit } from '../quantity/index.ts'
import type { Master } from './frame.ts'
import type { HistoryEvent, HistoryInfo, HistoryRow } from './historian.ts'

/** A parameter of the device’s own, read and written by number. */
export interface OwnParameter {
  readonly id: number
  readonly name: string
  readonly type: 'float' | 'integer' | 'text'
  readonly unit?: string | undefined
  readonly least?: number | undefined
  readonly most?: number | undefined
  readonly readOnly?: boolean | undefined
  readonly initial: number | string
}

export interface DeviceMake {
  readonly expandedType: number
  readonly deviceId: number
  readonly deviceRevision: number
  readonly softwareRevision: number
  readonly hardwareRevision: number
  readonly profile: number
  /** Unit of all figures of the make, and of the primary variable when new. */
  readonly unit: string
  readonly upperLimit: number
  readonly lowerLimit: number
  readonly minimumSpan: number
  readonly serialNumber: number
  /** Unit of the second to fourth variable. */
  readonly others: readonly { readonly name: string; readonly unit: string }[]
  readonly parameters: readonly OwnParameter[]
  /** Keeps its own past. */
  readonly historian?: boolean | undefined
}

export interface DeviceMemory {
  readonly pollingAddress: number
  /** Loop current follows the measurement; off, it rests at 4 mA. */
  readonly currentOn: boolean
  readonly tag: string
  readonly longTag: string
  readonly descriptor: string
  readonly date: string | null
  readonly message: string
  readonly unit: string
  readonly range: { readonly unit: string; readonly lrv: number; readonly urv: number }
  readonly damping_s: number
  readonly transferFunction: number
  readonly responsePreambles: number
  /** Added to what the sensor gives, and what it is multiplied with before; in the make’s unit. */
  readonly sensorOffset: number
  readonly sensorGain: number
  readonly outputOffset_mA: number
  readonly outputGain: number
  readonly parameters: Readonly<Record<number, number | string>>
}

/** What belongs to the bench and not to the wire; errors in the make’s unit and in mA. */
export interface HiddenTruth {
  readonly sensorError: number
  readonly outputError_mA: number
}

export interface HartDevice {
  readonly make: DeviceMake
  readonly working: DeviceMemory
  readonly stored: DeviceMemory
  /** Holds writes in working memory until it is told to store. */
  readonly forgetful: boolean
  readonly protected: boolean
  readonly busy: boolean
  readonly fixed_mA: number | null
  readonly counter: number
  readonly changed: Readonly<Record<Master, boolean>>
  readonly coldStart: Readonly<Record<Master, boolean>>
  /** Command that it sends unasked; null when it does not. */
  readonly burst: number | null
  /** Master that holds the lock; null where there is none. */
  readonly lock: Master | null
  readonly hidden: HiddenTruth
}

/** What feeds the sensors at one instant: the primary in the make’s unit, damped; the others as their units say. */
/** A device’s own past, as whoever serves the device keeps it. */
export interface Past {
  info(): HistoryInfo
  row(row: number): HistoryRow
  event(i: number): HistoryEvent
}
export interface Instant {
  /** Of a device that keeps it. */
  readonly past?: Past | undefined
  readonly sensed: number
  readonly others: readonly number[]
}

export const OUTPUT = { lowest: 3.8, highest: 20.5, drivesFrom: 3.5, drivesTo: 23 } as const
/** Largest correction that a current trim takes, mA. */
export const MOST_TRIM_mA = 1
/** Damping, s. */
export const MOST_DAMPING_s = 100

export function newDevice(
  make: DeviceMake,
  memory: Pick<DeviceMemory, 'tag' | 'range'> & Partial<DeviceMemory>,
): HartDevice {
  const first: DeviceMemory = {
    pollingAddress: 0,
    currentOn: true,
    longTag: memory.tag,
    descriptor: '',
    date: null,
    message: '',
    unit: make.unit,
    damping_s: 0.4,
    transferFunction: 0,
    responsePreambles: 5,
    sensorOffset: 0,
    sensorGain: 1,
    outputOffset_mA: 0,
    outputGain: 1,
    parameters: Object.fromEntries(make.parameters.map((p) => [p.id, p.initial])),
    ...memory,
  }
  return {
    make,
    working: first,
    stored: first,
    forgetful: false,
    protected: false,
    busy: false,
    fixed_mA: null,
    counter: 0,
    changed: { primary: false, secondary: false },
    coldStart: { primary: true, secondary: true },
    burst: null,
    lock: null,
    hidden: { sensorError: 0, outputError_mA: 0 },
  }
}

/** What a restart leaves: what was stored, no fixed current, cold start for each master. */
export const restarted = (device: HartDevice): HartDevice => ({
  ...device,
  working: device.stored,
  fixed_mA: null,
  coldStart: { primary: true, secondary: true },
  lock: null,
})

export interface Live {
  /** In the unit of the primary variable. */
  readonly value: number
  /** Of the range; not held. */
  readonly percent: number
  /** Loop current as the device believes it. */
  readonly mA: number
  readonly fixed: boolean
  readonly saturated: boolean
  readonly outOfLimits: boolean
}

/** Primary value as the device has it, in the make’s unit. */
export const measured = ({ working, hidden }: HartDevice, { sensed }: Instant): number =>
  (sensed + hidden.sensorError) * working.sensorGain + working.sensorOffset

/** Everything live at one instant, from one value. */
export function liveOf(device: HartDevice, instant: Instant): Live {
  const { make, working } = device
  const own = measured(device, instant)
  const inRange = convertUnit(own, make.unit, working.range.unit)
  const { lrv, urv } = working.range
  const linear = (inRange - lrv) / (urv - lrv)
  const percent = 100 * (working.transferFunction === 1 ? Math.sqrt(Math.max(0, linear)) : linear)
  const wanted = 4 + 0.16 * percent
  const held = Math.min(OUTPUT.highest, Math.max(OUTPUT.lowest, wanted))
  const fixed = device.fixed_mA ?? (working.currentOn ? null : 4)
  return {
    value: convertUnit(own, make.unit, working.unit),
    percent,
    mA: fixed ?? held,
    fixed: fixed !== null,
    saturated: fixed === null && held !== wanted,
    outOfLimits: own > make.upperLimit || own < make.lowerLimit,
  }
}

/** What a meter in the loop reads. */
export function realCurrent(device: HartDevice, instant: Instant): number {
  const { working, hidden } = device
  return working.outputOffset_mA + working.outputGain * (liveOf(device, instant).mA + hidden.outputError_mA)
}
