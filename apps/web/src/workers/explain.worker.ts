// Ranking faults takes some hundred solutions of the circuit: too long for a frame, so it is done here.
import {
  explain,
  type Conditions,
  type LoopReading,
  type Priors,
  type Ranking,
  type Spot,
  type Wiring,
} from '@calm-loop/core/wiring'
import { expose } from 'comlink'
import { sure } from '@calm-loop/core/sure'

/** What is to be explained. */
export interface Asked {
  readonly wiring: Wiring
  readonly conditions: Conditions
  readonly readings: readonly LoopReading[]
  readonly priors: Priors
}
/** What explains the readings, as plain data. */
export interface ExplainedFault {
  readonly id: string
  readonly says: string
  readonly where: readonly string[]
  readonly misfit: number
  readonly predicts: readonly number[]
  readonly figure?: { readonly value: number; readonly unit: string }
}
export interface Explained {
  readonly groups: readonly (readonly ExplainedFault[])[]
  readonly next?: {
    readonly spot: Spot
    readonly expects: readonly { readonly says: string; readonly value: number }[]
  }
}

const asData = ({ groups, next }: Ranking): Explained => ({
  groups: groups.map((group) =>
    group.map(({ fault, figure, misfit, predicts }) => ({
      id: fault.id,
      says: fault.says,
      where: fault.where,
      misfit,
      predicts,
      ...(figure === undefined ? {} : { figure: { value: figure, unit: sure(fault.figure).unit } }),
    })),
  ),
  ...(next
    ? { next: { spot: next.spot, expects: next.expects.map((e) => ({ says: e.fault.says, value: e.value })) } }
    : {}),
})

const api = {
  /** @param first is called with a first look, long before the answer is there */
  explain(asked: Asked, first: (look: Explained) => void): Explained {
    const { wiring, conditions, readings, priors } = asked
    return asData(explain(wiring, conditions, readings, { priors, first: (look) => void first(asData(look)) }))
  },
}
export type ExplainWorker = typeof api
expose(api)
