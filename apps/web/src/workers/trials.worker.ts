// A hundred thousand trials of a flow take longer than a frame: they are run here, and can be stopped between two
// batches.
import { runTrials, type Trials } from '@calm-loop/core/flow'
import { currentKindOf, type Entries } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { expose } from 'comlink'

let stopped = false
const pause = () => new Promise((resolve) => setTimeout(resolve))

interface Wanted {
  readonly kindId: string
  readonly entries: Entries
  readonly trials: number
  readonly seed: number
}
const api = {
  /** Undefined when it was stopped, or while the entries make no flow. Rejects with the model's refusal. */
  async run(wanted: Wanted, told: (share: number) => void): Promise<Trials | undefined> {
    const { kindId, entries, trials, seed } = wanted
    stopped = false
    const model = study(currentKindOf(kindId), entries).doubt?.()
    if (!model) return undefined
    const steps = runTrials(model, trials, seed)
    for (;;) {
      const step = steps.next()
      if (step.done) return step.value
      if (step.value % 10_000) continue
      told(step.value / trials)
      await pause()
      if (stopped) return undefined
    }
  },
  stop(): void {
    stopped = true
  },
}
export type TrialsWorker = typeof api
expose(api)
