// A simulated flow meter: what it holds, what is hidden from it, and what it shows. Each kind of flow point has its
// own model of it.
import type { RandomState } from './random.ts'

/** A practice case: something is wrong, and it is to be found. `reveals` is shown only when asked for. */
export interface PracticeCase {
  readonly id: string
  readonly reveals: string
}

export type MeterPhase = 'off' | 'searching' | 'running' | 'no-signal' | 'zeroing' | 'health'

export interface MeterState {
  readonly t_s: number
  readonly phase: MeterPhase
  /** Seconds since the phase began. */
  readonly phase_s: number
  readonly practice: string
  /** What the meter holds, by setup key, as keyed in. A key that is not there was lost. */
  readonly held: Readonly<Record<string, string>>
  /** Zero that the meter takes off, in its own measure (ns, µs). */
  readonly zero: number
  /** Sum and count of a zeroing under way; its wanted length. */
  readonly zeroing: {
    readonly sum: number
    readonly squares: number
    readonly count: number
    readonly length_s: number
  }
  /** The last zeroing: as found before, as left, spread of the readings. */
  readonly zeroed?: { readonly before: number; readonly after: number; readonly spread: number }
  /** How a clamp-on pair is mounted. */
  readonly mount: { readonly spacing_mm: number | undefined; readonly swapped: boolean }
  /** Output while a health check runs, and its end. */
  readonly health: { readonly output: 'hold' | 'fault'; readonly last: number }
  /** Test gas at a nozzle, kPa absolute and °C; undefined while the process is measured. */
  readonly gas?: { readonly pressure_kPa: number; readonly temp_C: number }
  readonly random: RandomState
}

export type MeterCommand =
  | { readonly do: 'start' }
  | { readonly do: 'practice'; readonly case: string }
  | { readonly do: 'mount'; readonly spacing_mm: number; readonly swapped: boolean }
  | { readonly do: 'zero'; readonly length_s: number }
  | { readonly do: 'write'; readonly values: Readonly<Record<string, string>> }
  | { readonly do: 'health'; readonly output: 'hold' | 'fault' }
  | { readonly do: 'gas'; readonly pressure_kPa: number; readonly temp_C: number }
  | { readonly do: 'process' }

/** One thing that the meter shows besides its flow. */
export interface Tell {
  readonly id: string
  readonly label: string
  readonly value: number
  readonly unit: string
  readonly decimals: number
}
export interface MeterShown {
  /**
   * Reported value in the loop's unit; undefined while it cannot measure (the output then goes to its fault current).
   */
  readonly digital: number | undefined
  readonly tells: readonly Tell[]
}
export interface MeterModel {
  readonly cases: readonly PracticeCase[]
  /** What the meter holds when it is as it should be, by setup key. */
  readonly keyed: Readonly<Record<string, string>>
  /** Seconds that it searches for its signal after a start; 0 when it needs none. */
  readonly search_s: number
  /** Seconds of a health check; 0 when it has none. */
  readonly health_s: number
  /** What it would hold in a practice case, and whether it begins measuring. */
  begin(practice: string): { readonly held: Readonly<Record<string, string>>; readonly measures: boolean }
  /**
   * What it measures at a true process value, before its zero is taken off, in its own measure; undefined without
   * signal.
   */
  measure(state: MeterState, process: number, noise: number): number | undefined
  show(state: MeterState, process: number, measured: number | undefined): MeterShown
}
