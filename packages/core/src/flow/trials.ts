// How a computed flow hangs on what was entered: change by change, and all tolerances at once by random trials.
import { normal, uniform, type RandomState } from '../device/random.ts'
import { attempt, Refusal } from '../refusal/index.ts'

export interface ModelInput {
  readonly key: string
  readonly label: string
  readonly unit: string
  readonly value: number
  /**
   * Half-width (rectangular) or twice the standard uncertainty (normal) of what was entered, in the same unit; 0 or
   * more.
   */
  readonly tolerance: number
  readonly distribution: 'rectangular' | 'normal'
}
export interface ModelOutput {
  readonly id: string
  readonly label: string
  readonly unit: string
  readonly decimals: number
}
/** A computation from entries to results, laid open so that its inputs can be varied. */
export interface FlowModel {
  readonly inputs: readonly ModelInput[]
  readonly outputs: readonly ModelOutput[]
  /** @throws Refusal where these inputs have no result */
  compute(values: readonly number[]): readonly number[]
}

export interface Sensitivity {
  readonly input: ModelInput
  /**
   * Change of each output when the input grows by its tolerance, in the output’s unit; undefined where that has no
   * result.
   */
  readonly change: readonly (number | undefined)[]
  /** The same in % of the output. */
  readonly changePct: readonly (number | undefined)[]
}

/** What each input’s tolerance alone does to the outputs, in the order of its effect on the first. */
export function sensitivities(model: FlowModel): Sensitivity[] {
  const values = model.inputs.map((i) => i.value)
  const base = model.compute(values)
  return model.inputs
    .map((input, n) => {
      const moved = attempt(() => model.compute(values.map((v, i) => (i === n ? v + input.tolerance : v))))
      const change = base.map((b, o) => (moved instanceof Refusal ? undefined : moved[o]! - b))
      return {
        input,
        change,
        changePct: change.map((c, o) => (c === undefined || base[o] === 0 ? undefined : (100 * c) / base[o]!)),
      }
    })
    .sort((a, b) => Math.abs(b.change[0] ?? Infinity) - Math.abs(a.change[0] ?? Infinity))
}

export interface TrialResult {
  readonly id: string
  readonly value: number
  readonly mean: number
  /** Standard deviation. */
  readonly spread: number
  /** Ends of the shortest usual statement: 2.5 and 97.5 % of the trials lie below them. */
  readonly low: number
  readonly high: number
  /** Counts of the trials between `low` and `high`, and a little beyond, in equal steps. */
  readonly histogram: { readonly from: number; readonly step: number; readonly counts: readonly number[] }
}
export interface Trials {
  readonly trials: number
  /** Trials whose inputs had no result, as when the wall left no bore. */
  readonly refused: number
  readonly results: readonly TrialResult[]
}

const BINS = 41

function summary(id: string, value: number, all: Float64Array): TrialResult {
  const n = all.length
  const mean = all.reduce((a, b) => a + b, 0) / n
  const spread = Math.sqrt(all.reduce((sum, v) => sum + (v - mean) ** 2, 0) / Math.max(1, n - 1))
  const sorted = all.slice().sort()
  const at = (share: number) => sorted[Math.min(n - 1, Math.max(0, Math.round(share * (n - 1))))]!
  const from = at(0.0005)
  const step = (at(0.9995) - from) / BINS || 1
  const counts = new Array<number>(BINS).fill(0)
  for (const v of all) {
    const bin = Math.floor((v - from) / step)
    if (bin >= 0 && bin < BINS) counts[bin]!++
  }
  return { id, value, mean, spread, low: at(0.025), high: at(0.975), histogram: { from, step, counts } }
}

/**
 * Random trials of every tolerance at once. Yields how many are done, so that whoever runs it can show progress or
 * stop.
 * @param trials at least 1
 * @throws Refusal as the model does for the entries themselves; `no-solution` when no trial has a result
 * Source: propagation of distributions, JCGM 101
 */
export function* runTrials(
  model: FlowModel,
  trials: number,
  seed: RandomState,
  every = 2000,
): Generator<number, Trials> {
  const base = model.compute(model.inputs.map((i) => i.value))
  const all = base.map(() => new Float64Array(trials))
  const values = model.inputs.map((i) => i.value)
  let random = seed
  let good = 0
  let refused = 0
  for (let t = 0; t < trials; t++) {
    for (let i = 0; i < values.length; i++) {
      const { value, tolerance, distribution } = model.inputs[i]!
      if (tolerance === 0) continue
      const [u, next] = distribution === 'normal' ? normal(random) : uniform(random)
      random = next
      values[i] = value + tolerance * (distribution === 'normal' ? u / 2 : 2 * u - 1)
    }
    const out = attempt(() => model.compute(values))
    if (out instanceof Refusal || !out.every(Number.isFinite)) refused++
    else {
      for (let o = 0; o < all.length; o++) all[o]![good] = out[o]!
      good++
    }
    if ((t + 1) % every === 0) yield t + 1
  }
  if (!good)
    throw new Refusal('no-solution', 'None of the trials has a result: the tolerances are wider than the pipe.')
  return {
    trials,
    refused,
    results: model.outputs.map((o, i) => summary(o.id, base[i]!, all[i]!.subarray(0, good))),
  }
}
