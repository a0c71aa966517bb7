// What explains the readings, and what would tell the rest apart.
import type { Energised } from './energise.ts'
import type { Fault } from './fault.ts'
import type { Shown } from './predict.ts'
import type { Spot } from './readings.ts'

export interface Explanation {
  readonly fault: Fault
  /** The figure found, in the fault’s unit. */
  readonly figure?: number
  /** Mean square of (predicted − read)/spread; 1 and below is within what a meter is good for. */
  readonly misfit: number
  /** Predicted readings, in their order: of a range what lies next to what was read. */
  readonly predicts: readonly number[]
  /** From what to what each could be. */
  readonly shown: readonly Shown[]
  readonly energised: Energised
}

export interface Ranking {
  /** Best first. Explanations that the readings cannot tell apart stand in one group. */
  readonly groups: readonly (readonly Explanation[])[]
  /** Where to measure next, and what the explanations left expect there. */
  readonly next?: {
    readonly spot: Spot
    readonly expects: readonly { readonly fault: Fault; readonly value: number }[]
  }
}
