// What a kind of point is: its entries, the thread they make, what can be computed from them and what is wrong with
// them.
import type { MeterModel } from '../device/index.ts'
import type { Finding } from '../findings/index.ts'
import type { PressureReference, QuantityName, Entry } from '../quantity/index.ts'
import type { ProcedureId } from '../procedure/index.ts'
import type { Thing, Work } from '../round/index.ts'
import type { Sheet } from '../sheet/index.ts'
import type { FlowModel } from '../flow/index.ts'
import type { Thread } from '../thread/index.ts'
import type { Wiring, WiringFinding, Conditions } from '../wiring/index.ts'
import type { Working } from '../working/index.ts'
import type { Reader } from './reader.ts'
import type { StageId } from './run-sheets.ts'
import type { SwitchRun } from './switch-run.ts'

/** What another entry must be. */
export interface Condition {
  readonly key: string
  readonly is: readonly string[]
}

/** What every entry has, whatever it holds. */
export interface FieldBase {
  readonly key: string
  readonly stage: StageId
  /** Heading it stands under on its stage's page. */
  readonly group: string
  readonly label: string
  /** One line for the newcomer. */
  readonly help: string
  /** What it is called while another entry is otherwise. */
  readonly named?: { readonly when: Condition; readonly label: string; readonly help: string }
  /** Wanted before the loop can be checked. */
  readonly required?: boolean
  /** Taken, and said to be taken, while nothing is entered. */
  readonly default?: string
  /** Shown, and named as missing, only while this holds of the other entries. */
  readonly when?: Condition | readonly Condition[]
  /** Entries that a device forgets, or that mean something else, once this one is changed. */
  readonly resets?: readonly string[]
  /** The device loses what `resets` names: it is gone from the record too, until it is typed again. */
  readonly forgets?: boolean
  /** Schools of practice differ here, so a site may settle it: why they differ, in a line. */
  readonly practice?: string
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
    /** A strapping table, as its text on record; taken from a file, never typed. */
    | { readonly type: 'table' }
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

/**
 * Keeps a part of an answer under a name, made anew only where its key has changed since the study that this one
 * follows. What is kept
 * lives in the studies themselves; the core remembers nothing.
 */
export type Keep = <T>(part: string, key: string, make: () => T) => T

/** How far and how fast the bench stand-in’s process can be moved, in the process knot’s unit. */
export interface MovableProcess {
  readonly lowest: number
  readonly highest: number
  readonly ratePerSecond: number
  readonly scatter: number
  /** Where it comes to rest exactly, as a flow does behind two closed valves. */
  readonly stopsAt?: number
}

interface Look {
  readonly figures: readonly Figure[]
  readonly findings: readonly Finding[]
}
/** What a kind with a current makes of its entries; the engine adds what all loops have. */
export interface CurrentLook extends Look {
  readonly thread: Thread
  /** Unit in which range findings speak, and that of the receiver where it shows another quantity. */
  readonly rangeUnit: string
  readonly shownUnit?: string | undefined
  /** Unit of the value that the switch points are set in. */
  readonly tripUnit: string
  /** Limits of the sensor itself, in a unit of the digital value. */
  sensorLimits?(unit: string): { readonly low: number | undefined; readonly high: number | undefined }
  /** The receiver takes the square root of the signal. */
  readonly rootAtReceiver?: boolean
  /** Procedures that its sensor can be led through, the least work first. */
  readonly procedures: readonly ProcedureId[]
  /** The range that follows from the mounting as entered, in a unit of the digital value; undefined while unknown. */
  rangeFromMounting?(unit: string): { readonly low: number; readonly high: number } | undefined
  /** Undefined while unknown. */
  process(): MovableProcess | undefined
  /** Run sheets of the work at the point. */
  sheets?(): readonly Sheet[]
  /** How its flow hangs on its entries, at mid range. */
  doubt?(): FlowModel | undefined
  /** What is keyed into the device, in order. */
  setup?(): readonly SetupLine[]
  /**
   * Entries with which its meter measures by itself, without wiring, range and controller: as a portable one is used.
   * Undefined where the kind has no such meter, or what it measures at is missing.
   */
  portable?(): Entries | undefined
  /** The bench’s meter; undefined while entries are missing. */
  meter?(): MeterModel | undefined
}
/** What a kind of switch makes of its entries. */
export interface SwitchLook extends Look {
  readonly run: SwitchRun
  readonly desk: Desk
}

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
  /** What instrument lists call it, small and without signs; the longest that fits a list's words decides. */
  readonly listed: readonly string[]
  readonly fields: readonly Field[]
  /** Raised when entries of before would be read otherwise; 1 where it never was. */
  readonly version?: number
  /** Entries as they stood under an earlier version, for this one: the same meaning, whatever was typed. */
  migrate?(entries: Entries, from: number): Entries
  readonly check: {
    /** Works that it takes, as a round plans them; by the entries where those decide. */
    readonly works: readonly Work[] | ((entries: Entries) => readonly Work[])
    /** What to bring for this loop by its entries, besides or in place of what its works usually need. */
    brings?(r: Reader): readonly Thing[]
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
/** A kind without meter, set-up sheet, doubt or run sheets of its own. */
export const PLAIN = { meter: false, setup: false, doubt: false, sheets: false } as const

export interface CurrentKind extends KindBase {
  readonly family: 'current'
  /** Whether its device is a meter of its own on the bench, or has a set-up sheet, a model of its doubt, run sheets. */
  readonly has: { readonly meter: boolean; readonly setup: boolean; readonly doubt: boolean; readonly sheets: boolean }
  look(r: Reader, keep: Keep): CurrentLook
  /**
   * Entries that stand in place of others, by key: the range of another variable in place of the usual one. Wiring,
   * range findings and both ends read through it; the kind itself reads what it is given.
   */
  instead?(r: Reader): Readonly<Record<string, string>>
}
export interface SwitchKind extends KindBase {
  readonly family: 'switch'
  look(r: Reader, keep: Keep): SwitchLook
}
export type PointKind = CurrentKind | SwitchKind
