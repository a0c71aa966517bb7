// A guided run led by hand, where nothing answers: each gate goes to the server at once, or waits on this device.
import { runsOf, type DoProcedure, type TrimLimits, type WorkEntry } from '@calm-loop/contract'
import { eventsByHand } from '@calm-loop/contract/judging'
import { ownBuffersOf } from '@calm-loop/core/analysis'
import type { RunState } from '@calm-loop/core/procedure'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import { call, isAway, type ApiProblem } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useLater } from './later.ts'
import { savedNow } from './saved-now.ts'
import { useWork } from './work.ts'

interface AtHand {
  readonly run: string
  readonly id: string
  readonly state: RunState | undefined
  readonly limits: TrimLimits
}

const NOT_SAVED = 'What was typed here is not saved yet: a run is led by what is. It begins once that is saved.'

/** A wish with what it was begun by, or what it follows: others would make it another run. */
async function marked(wish: DoProcedure, limits: TrimLimits, after: string | undefined): Promise<DoProcedure> {
  if (wish.do === 'begin') return { ...wish, byHand: true, on: { ...(await savedNow(NOT_SAVED)), limits } }
  return { ...wish, byHand: true, ...(after ? { after } : {}) }
}

/** Passes a gate by hand. @throws Refusal or ApiProblem, by which the gate stays shut */
export async function leadByHand(wish: DoProcedure, { run, id, state, limits }: AtHand): Promise<void> {
  const [folder, work] = [useFolder(), useWork()]
  const { loop } = sure(folder.view)
  const log: readonly WorkEntry[] = folder.here.workLog
  const after = runsOf(log)
    .find((r) => r.run === run)
    ?.entries.at(-1)?.id
  const body = await marked(wish, limits, after)
  const params = { loopId: loop.id, runId: run, eventId: id }
  const events = attempt(() =>
    eventsByHand(body, {
      ...{ tag: loop.tag, limits, state, log, study: () => sure(folder.current) },
      ownBuffers: ownBuffersOf(work.rows),
    }),
  )
  // Refused here it may be fine there, where somebody went on meanwhile.
  if (events instanceof Refusal)
    await call('doProcedure', { params, body }).catch((problem: ApiProblem) => {
      throw isAway(problem) ? events : problem
    })
  else await useLater().write({ endpoint: 'doProcedure', id, params, body, shown: { run, events } })
}
