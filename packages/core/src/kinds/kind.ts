// What a kind of point is: its entries, the thread they make, what can be computed from them and what is wrong with them.
import type { MeterModel } from '../device/index.ts'
import type { Finding } from '../findings/index.ts'
import type { PressureReference, QuantityName, Entry } from '../quantity/index.ts'
import type { Sheet } from '../sheet/index.ts'
import type { FlowModel } from '../flow/index.ts'
import type { Thread } from '../thread/index.ts'
import type { Wiring, WiringFinding, Conditions } from '../wiring/index.ts'
import type { Working } from '../working/index.ts'
import type { SwitchRun } from './switch-run.ts'

export type StageId =
  'identify' | 'wire' | 'point' | 'range' | 'switch-point' | 'trim' | 'check' | 'count' | 'hand-over'
/** How a point tells what it sees: by a current in proportion, or by one of two states. */
export type Family = 'current' | 'switch'

interface Stage {
  readonly id: StageId
  readonly name: string
}
/** Stages of the run sheet that exist so far, in the order of work. */
export const RUN_SHEETS: Readonly<Record<Family, readonly Stage[]>> = {
  current: [
    { id: 'identify', name: 'Identify' },
    { id: 'wire', name: 'Wire' },
    { id: 'point', name: 'Point' },
    { id: 'range', name: 'Range' },
    { id: 'switch-point', name: 'Switch points' },
    { id: 'trim', name: 'Trim' },
    { id: 'check', name: 'Check' },
    { id: 'hand-over', name: 'Hand over' },
  ],
  switch: [
    { id: 'identify', name: 'Identify' },
    { id: 'wire', name: 'Wire' },
    { id: 'switch-point', name: 'Switch point' },
    { id: 'check', name: 'Check' },
    { id: 'count', name: 'Count' },
    { id: 'hand-over', name: 'Hand over' },
  ],
}

interface FieldBase {
  readonly key: string
  readonly stage: StageId
  /** Heading it stands under on its stage's page. */
  readonly group: string
  readonly label: string
  /** One line for the newcomer. */
  readonly help: string
  /** Wanted before the loop can be checked. */
  readonly required?: boolean
  /** Taken, and said to be taken, while nothing is entered. */
  readonly default?: string
  /** Shown, and named as missing, only while this holds of the other entries. */
  readonly when?: { readonly key: string; readonly is: readonly string[] }
  /** Entries that a device forgets, or that mean something else, once this one is changed. */
  readonly resets?: readonly string[]
}

export type Field = FieldBase &
  (
    | {
        readonly type: 'quantity'
        readonly quantity: QuantityName
        readonly unit: string
        /** Of a pressure: what it is counted from. */
        readonly reference?: PressureReference
      }
    | { readonly type: 'choice'; readonly options: readonly { readonly value: string; readonly label: string }[] }
    | {
        readonly type: 'text'
        /** What could stand there, given the other entries; anything else may be typed all the same. */
        readonly suggest?: (entries: Entries) => readonly string[]
      }
    /** The wiring as drawn, as its text on record; changed at the wiring desk, never typed. */
    | { readonly type: 'wiring' }
  )

/** Everything entered about a point, by field key. Choices and texts have only what was typed. */
export type Entries = Readonly<Record<string, Entry>>

/** A computed figure: its value, or what it still needs. */
export interface Figure {
  readonly id: string
  readonly stage: StageId
  readonly label: string
  readonly unit: string
  readonly decimals?: number
  readonly value?: number
  /** Labels of the entries still missing. */
  readonly needs?: readonly string[]
  /** Why there is no value although nothing is missing. */
  readonly says?: string
  readonly working?: () => Working
}

interface StudyBase {
  readonly figures: readonly Figure[]
  readonly findings: readonly Finding[]
  /** Required entries still missing, by stage. */
  readonly missing: Readonly<Record<StageId, readonly string[]>>
}
/** All that is known of a point with a current from what has been entered so far. */
export interface CurrentStudy extends StudyBase {
  readonly thread: Thread
}
/** All that is known of a switch from what has been entered so far. */
export interface SwitchStudy extends StudyBase {
  readonly run: SwitchRun
}
export type Study = CurrentStudy | SwitchStudy

/** The wiring of a loop as the desk shows it. */
export interface Desk {
  readonly wiring: Wiring
  /** Drawn and recorded, or proposed from the arrangement. */
  readonly own: boolean
  readonly conditions: Omit<Conditions, 'mA' | 'target'>
  readonly findings: readonly WiringFinding[]
  /** What volts and milliamps still need, in the words of the entries. */
  readonly needs: readonly string[]
}

interface KindBase {
  readonly id: string
  readonly name: string
  /** One line that helps to choose it. */
  readonly summary: string
  readonly fields: readonly Field[]
  desk(entries: Entries): Desk
  readonly check: {
    /** What the true input is called, e.g. `True level reached`. */
    readonly trueInput: string
    /** What shows it, e.g. `dip gauge`. */
    readonly reference: string
    /** How the process is moved, e.g. `Tank level`. */
    readonly process: string
    /** Cautions that belong to checking this kind. */
    readonly cautions: readonly string[]
  }
}
/** A line of what is keyed into the device, in the order of keying. */
export interface SetupLine {
  /** Entry it comes from, or a name of its own where it is computed. */
  readonly key: string
  readonly group: string
  readonly label: string
  /** As it is keyed, with its unit; empty while it is missing. */
  readonly text: string
}
export interface CurrentKind extends KindBase {
  readonly family: 'current'
  study(entries: Entries): CurrentStudy
  /** Run sheets of the work at the point. */
  sheets?(entries: Entries): readonly Sheet[]
  /** How its flow hangs on its entries, at mid range. */
  model?(entries: Entries): FlowModel | undefined
  /** What is keyed into the device, in order. */
  setup?(entries: Entries): readonly SetupLine[]
  /** The bench's meter; undefined while entries are missing. */
  meter?(entries: Entries): MeterModel | undefined
  /** How far and how fast the bench stand-in's process can be moved, in the process knot's unit; undefined while unknown. */
  standIn(
    entries: Entries,
  ): { lowest: number; highest: number; ratePerSecond: number; scatter: number; stopsAt?: number } | undefined
}
export interface SwitchKind extends KindBase {
  readonly family: 'switch'
  study(entries: Entries): SwitchStudy
}
export type PointKind = CurrentKind | SwitchKind
