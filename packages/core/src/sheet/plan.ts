// A figure that a step gives against its plan: as planned, doubtful (kept with a word), or not to be gone on with.
import { formatQuantity } from '../quantity/index.ts'

/** What a step's figure should be; every bound in the step's unit. */
export interface StepPlan {
  /** What it is held against, as it begins a sentence: `Wall entered 2.4 mm`. */
  readonly against: string
  /** As planned from `low` to `high`. */
  readonly low?: number | undefined
  readonly high?: number | undefined
  /** Below `floor` or above `ceiling` nobody goes on. */
  readonly floor?: number | undefined
  readonly ceiling?: number | undefined
  /** What follows from a figure that is not as planned. */
  readonly else: string
}

export interface StepVerdict {
  readonly grade: 'good' | 'look' | 'stop'
  /** Empty where it is as planned. */
  readonly says: string
}

const SPARE = 1e-9
const GOOD: StepVerdict = { grade: 'good', says: '' }

/** Judges a figure, in the plan's unit. A step without a plan takes any. */
export function judgeStep(plan: StepPlan | undefined, value: number, unit: string): StepVerdict {
  if (!plan) return GOOD
  const { low = -Infinity, high = Infinity, floor = -Infinity, ceiling = Infinity } = plan
  const inside = (from: number, to: number) =>
    value >= from - SPARE * Math.abs(from) && value <= to + SPARE * Math.abs(to)
  const says = `${plan.against}; ${formatQuantity(value, unit, { decimals: 3, trim: true })} typed. ${plan.else}`
  if (!inside(floor, ceiling)) return { grade: 'stop', says }
  return inside(low, high) ? GOOD : { grade: 'look', says }
}

/** A plan of a wanted value: as planned within `good`, doubtful as far as `most`, refused beyond; all in one unit. */
export const near = (
  wanted: number,
  { good, most }: { readonly good: number; readonly most: number },
): Pick<StepPlan, 'low' | 'high' | 'floor' | 'ceiling'> => ({
  low: wanted - good,
  high: wanted + good,
  floor: wanted - most,
  ceiling: wanted + most,
})
