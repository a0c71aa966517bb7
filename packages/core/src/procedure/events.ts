// What happens in a guided procedure: the list of these is the whole truth of a run.
import type { ValveMove } from './manifold.ts'
import type { Command } from './command.ts'
import type { Held, ProcedureId, Step, Terms } from './steps.ts'

/** How steady a witness was when its step was passed. */
export interface SteadyEvidence {
  readonly state: 'waiting' | 'moving' | 'noisy' | 'stable'
  /** Change over the window along the fitted line and scatter about it, % of span. */
  readonly driftPct: number
  readonly noisePct: number
  /** What a lag had still to go, % of span. */
  readonly toGoPct?: number | undefined
  readonly window_s: number
  readonly samples: number
  /** Temperature of an electrode meanwhile, where it is seen: at the end of the window, and its change over it. */
  readonly temp_C?: number | undefined
  readonly tempDrift_K?: number | undefined
}

export type ProcedureEvent =
  | {
      readonly do: 'begin'
      readonly procedure: ProcedureId
      readonly terms: Terms
      /**
       * The steps as composed then, so that a replay needs nothing else; absent in runs of release 0.1, which are
       * composed anew.
       */
      readonly steps?: readonly Step[] | undefined
    }
  | {
      readonly do: 'pass'
      readonly step: string
      readonly words?: string | undefined
      /** A figure as typed or as shown, with its unit. */
      readonly typed?: string | undefined
      /** What else was seen at the same moment, by knot id, for the record. */
      readonly also?: Readonly<Record<string, number>> | undefined
      readonly steady?: SteadyEvidence | undefined
      /** As-found points that stand on record. */
      readonly points?: readonly string[] | undefined
    }
  /** A figure was misread: the run stands at that step again, and what was read since is read again. */
  | { readonly do: 'again'; readonly step: string; readonly reason: string }
  | { readonly do: 'valve'; readonly step: string; readonly move: ValveMove }
  | { readonly do: 'sent'; readonly step: string; readonly command: Command; readonly changesBefore: number }
  | { readonly do: 'answered'; readonly step: string; readonly taken: boolean; readonly says: string }
  | {
      readonly do: 'read'
      readonly step: string
      /** As it answered over a link; with `seen`, what follows from what the person saw at the device. */
      readonly held: Held
      readonly seen?: string | undefined
      /** The figures that were asked for with it, as they were typed. */
      readonly typed?: readonly [string, string] | undefined
    }
  | { readonly do: 'cancel'; readonly reason: string }
  | { readonly do: 'undone'; readonly undo: string; readonly words: string }
