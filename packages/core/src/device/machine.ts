// A simulated device as a machine: a state, what becomes of it in a moment or by a command, and what can be read from
// it. No clock, no chance of its own.
import type { Command, Held, ValveMove } from '../procedure/index.ts'
import type { MeterCommand, MeterPhase, Tell } from './meter.ts'

/** What a device can be told over its link. */
export type DeviceCommand = Command | Extract<MeterCommand, { do: 'start' | 'zero' | 'write' | 'health' }>

/** What a person does to the simulated world around the device; nothing of it could be done over a real link. */
export type PracticeAct =
  | { readonly do: 'move'; readonly wanted: number }
  | { readonly do: 'run'; readonly running: boolean }
  | { readonly do: 'valve'; readonly move: ValveMove }
  | { readonly do: 'feed'; readonly input: 'process' | 'bench' }
  | { readonly do: 'apply'; readonly value: number }
  | { readonly do: 'keep' }
  | { readonly do: 'power-cycle' }
  | { readonly do: 'protect'; readonly on: boolean }
  | { readonly do: 'transmitter-case'; readonly case: string }
  | { readonly do: 'meter'; readonly act: Extract<MeterCommand, { do: 'practice' | 'mount' | 'gas' | 'process' }> }

/** A simulated meter as a page shows it. */
export interface MeterReadings {
  readonly phase: MeterPhase
  readonly phase_s: number
  /** How long the phase lasts; 0 when it has no end of its own. */
  readonly lasts_s: number
  readonly practice: string
  readonly tells: readonly Tell[]
  readonly zero: number
  readonly zeroed?: { readonly before: number; readonly after: number; readonly spread: number }
  readonly mount: { readonly spacing_mm: number | null; readonly swapped: boolean }
  readonly gas?: { readonly pressure_kPa: number; readonly temp_C: number }
  /** Reported value; null while it cannot measure. */
  readonly digital: number | null
}

/** The transmitter at the bench as a page shows it. */
export interface TransmitterReadings {
  readonly practice: string
  readonly manifold: Readonly<Record<string, 'open' | 'shut'>>
  /** Applied at the bench; null while the process feeds the sensor. */
  readonly bench: { readonly value: number; readonly wanted: number } | null
  readonly fixed_mA: number | null
  readonly protected: boolean
  readonly changes: number
  readonly electrode_mV?: number
  readonly electrode_C?: number
}

/** What can be read from a device and the witnesses around it at one moment. */
export interface Readings {
  readonly t_s: number
  /** The reference standard's reading of the process, and where it is to come to rest. */
  readonly reference: number
  readonly wanted: number
  readonly moving: boolean
  /** By knot id, each in its knot's unit; a witness that is not sure is not there. */
  readonly knots: Readonly<Record<string, number>>
  /** A discrete point: the machine moves by itself. */
  readonly running?: boolean
  /** Where no current carries the value: what it would be on 4–20 mA. */
  readonly signal_mA?: number
  readonly meter?: MeterReadings
  readonly transmitter?: TransmitterReadings
}

/** The witnesses of a trend at one moment, % of span; the electrode in mV and °C. */
export interface TrendPoint {
  readonly t_s: number
  readonly digital: number | null
  readonly current: number | null
  readonly electrode: number | null
  readonly temperature?: number
}

/** A change of a discrete point's controller, in the machine's own time, and where the process was. */
export interface MachineEdge {
  readonly t_s: number
  readonly state: boolean
  readonly at: number
}

export interface MachineAnswer<State> {
  readonly state: State
  readonly taken: boolean
  readonly says: string
  /** Whether the answer arrives. */
  readonly arrives: boolean
}

/** A practice case under way and the others that there are. */
export interface Practice {
  readonly case: string
  readonly cases: readonly string[]
  /** What the case has hidden; told when asked for. */
  readonly reveals: string
}

export interface Machine<State> {
  readonly family: 'current' | 'switch'
  readonly start: State
  /** Longest step that keeps its figures right, s. */
  readonly longestStep_s: number
  /** Unit of each knot that can be read, by the knot's id. */
  readonly units: Readonly<Record<string, string>>
  /** How far the process can be moved, and its unit. */
  readonly process: { readonly unit: string; readonly lowest: number; readonly highest: number }
  /** The machine `dt_s` later. */
  step(state: State, dt_s: number): State
  /** Tells the device something, at a time (ISO 8601) for its change log. @throws Refusal */
  command(state: State, command: DeviceCommand, at: string): MachineAnswer<State>
  /** @throws Refusal */
  act(state: State, act: PracticeAct, at: string): State
  readings(state: State): Readings
  /** Undefined while nothing that it shows can be steady. */
  trendPoint(state: State): TrendPoint | undefined
  /** Since when what the witnesses show belongs together, s: before it the device worked by something else. */
  since_s(state: State): number
  /** Changes of the controller that are not older than a second. */
  edges(state: State): readonly MachineEdge[]
  /** What a transmitter holds, and what its change log says; undefined where there is none. */
  held(state: State): Held | undefined
  log(state: State): readonly { readonly at: string; readonly what: string }[]
  /** What a meter holds, by setup key; undefined where there is none. */
  meterHeld(state: State): Readonly<Record<string, string>> | undefined
  practice(state: State): { readonly transmitter?: Practice; readonly meter?: Practice }
  /** Where the process stands, so that a machine made anew can go on from there. */
  processAt(state: State): number
  /** What outlasts a restart. */
  kept(state: State): unknown
}
