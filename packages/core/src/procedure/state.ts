// What a run of a guided procedure knows at any moment.
import type { Manifold } from './manifold.ts'
import type { Command } from './command.ts'
import type { Held, ProcedureId, Step, Terms } from './steps.ts'

/** What the run has done to plant and device so far. */
export interface World {
  readonly told: boolean
  readonly manual: boolean
  /** Permit number, or what was typed in its place; undefined before and after. */
  readonly bypass: string | undefined
  readonly manifold: Manifold
  readonly input: 'process' | 'bench'
  readonly fixed_mA: number | null
  readonly device: 'untouched' | 'changed' | 'stored'
  /** What was written, in the words of the steps. */
  readonly written: readonly string[]
}

export interface Pending {
  readonly step: string
  readonly command: Command
  readonly changesBefore: number
}

/** What a person saw at a device without a link. */
export interface ShownByHand {
  readonly words: string
  /** Figures as they were typed, each with its name and unit. */
  readonly figures: readonly (readonly [string, string])[]
}

export interface RunState {
  readonly procedure: ProcedureId
  readonly terms: Terms
  readonly steps: readonly Step[]
  readonly status: 'running' | 'cancelled' | 'ended' | 'done'
  /** Index of the gate that is open; steps.length when all are passed. */
  readonly at: number
  /** Sent to the device and never answered: what it holds is unknown until it is read back. */
  readonly pending: Pending | undefined
  readonly lastWrite: Pending | undefined
  readonly values: Readonly<Record<string, number>>
  readonly world: World
  /** What the device said that it holds, read over a link. */
  readonly held: Held | undefined
  /** What it showed at each read-back without a link. */
  readonly shown: readonly ShownByHand[]
  /** What the last event left to say, as after a write that was refused. */
  readonly note: string
  readonly cancelled: { readonly reason: string; readonly step: string } | undefined
  readonly undone: readonly string[]
  readonly events: number
}
