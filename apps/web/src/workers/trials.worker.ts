// A hundred thousand trials of a flow take longer than a frame: they are run here, and can be stopped between two
// batches.
import { runTrials, type Trials } from '@calm-loop/core/flow'
import { currentKindOf, type Entries } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { expose } from 'comlink'

let stopped = false
const pause = () => new Promise((resolve) => setTimeout(resolve))

const api = {
  /** Undefined when it was stopped, or while the entries make no flow. Rejects with the model's refusal. */
  async run(
    kindId: string,
    entries: Entries,
    trials: number,
    seed: number,
    told: (share: number) => void,
  ): Promise<Trials | undefined> {
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
